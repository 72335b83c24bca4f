import { eventSchema } from '@basileus/contract';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';

/** Keeps every view true: each event makes the queries of its topic look again. Answers whether the line stands. */
export function useLiveUpdates(): boolean {
  const client = useQueryClient();
  const [isConnected, setConnected] = useState(true);
  useEffect(() => {
    const source = new EventSource('/api/events');
    const due = new Set<string>();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const flush = () => {
      timer = undefined;
      for (const topic of due) void client.invalidateQueries({ queryKey: [topic] });
      void client.invalidateQueries({ queryKey: ['overview'] });
      due.clear();
    };
    source.onopen = () => {
      setConnected(true);
      void client.invalidateQueries();
    };
    source.onerror = () => {
      setConnected(false);
    };
    source.onmessage = (e: MessageEvent<string>) => {
      const event = eventSchema.safeParse(JSON.parse(e.data));
      if (!event.success) return;
      due.add(event.data.topic);
      timer ??= setTimeout(flush, 120);
    };
    return () => {
      clearTimeout(timer);
      source.close();
    };
  }, [client]);
  return isConnected;
}
