import { useEffect, useState } from 'react';
import { wordRetry } from './word-retry';

/** When something is tried again by itself, counted down. */
export function Retry({ at, failed }: { at: string; failed: number }) {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = setInterval(() => {
      setNow(Date.now());
    }, 1000);
    return () => {
      clearInterval(timer);
    };
  }, []);
  return <span>{wordRetry({ at, failed }, now)}</span>;
}
