import { useEffect, useState } from 'react';

/** A value once it has stayed the same for a while: what hangs on it is then asked once, and not with every key. */
export function useQuiet<T>(value: T, quietMs = 250): T {
  const [quiet, setQuiet] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => {
      setQuiet(value);
    }, quietMs);
    return () => {
      clearTimeout(timer);
    };
  }, [value, quietMs]);
  return quiet;
}
