// One line for live events a browser, not a tab: browsers open six connections to a server at the most. Whichever tab holds
// the lock keeps the line and passes what it hears on to the others; when it closes, another takes over.
import { eventSchema } from '@basileus/contract';
import { type QueryClient, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';

const name = 'basileus-live',
  quietMs = 120,
  /** Looks are no closer together than this, however much happens. */
  betweenMs = 1000;

type Heard =
  | { say: 'topic'; topic: string }
  /** Something may have been missed: everything is looked at anew. */
  | { say: 'again' }
  | { say: 'stands'; isConnected: boolean }
  /** A tab that has just come asks how the line stands. */
  | { say: 'who' };

const awaiting = new Set<() => void>();
/** Calls a listener whenever the server is known to answer again. */
export const whenAnswering = (listener: () => void): void => {
  awaiting.add(listener);
};

/** Keeps every view true: each event makes the queries of its topic look again. Answers whether the line stands. */
export function useLiveUpdates(): boolean {
  const client = useQueryClient();
  const [isConnected, setConnected] = useState(true);
  useEffect(() => follow(client, setConnected), [client]);
  return isConnected;
}

function follow(client: QueryClient, setConnected: (is: boolean) => void): () => void {
  const due = new Set<string>(),
    others = new BroadcastChannel(name),
    leaving = new AbortController();
  let timer: ReturnType<typeof setTimeout> | undefined,
    stands: boolean | undefined,
    lookedAt = -betweenMs;
  const flush = (): void => {
    timer = undefined;
    lookedAt = performance.now();
    for (const topic of due) void client.invalidateQueries({ queryKey: [topic] });
    void client.invalidateQueries({ queryKey: ['overview'] });
    due.clear();
  };
  const hear = (heard: Heard): void => {
    if (heard.say === 'topic') {
      due.add(heard.topic);
      timer ??= setTimeout(flush, Math.max(quietMs, lookedAt + betweenMs - performance.now()));
    } else if (heard.say === 'again') {
      void client.invalidateQueries();
      for (const listener of awaiting) listener();
    } else if (heard.say === 'stands') setConnected(heard.isConnected);
  };
  const tell = (heard: Heard): void => {
    if (heard.say === 'stands') stands = heard.isConnected;
    hear(heard);
    others.postMessage(heard);
  };
  others.onmessage = (e: MessageEvent<Heard>) => {
    if (e.data.say !== 'who') hear(e.data);
    else if (stands !== undefined) others.postMessage({ say: 'stands', isConnected: stands } satisfies Heard);
  };
  others.postMessage({ say: 'who' } satisfies Heard);
  // Locks are there only on pages of this machine or over https; elsewhere each tab keeps a line of its own.
  const { locks } = navigator as { locks?: LockManager };
  const lead = (): Promise<void> => keepLine(tell, leaving.signal);
  const leading = locks ? locks.request(name, { signal: leaving.signal }, lead) : lead();
  leading.catch(() => undefined);
  return () => {
    leaving.abort();
    clearTimeout(timer);
    others.close();
  };
}

/** Keeps a line open until the signal comes; the browser opens it again by itself where it breaks. */
function keepLine(tell: (heard: Heard) => void, signal: AbortSignal): Promise<void> {
  return new Promise((done) => {
    if (signal.aborted) {
      done();
      return;
    }
    let source: EventSource;
    const open = (): void => {
      source = new EventSource('/api/events');
      source.onopen = () => {
        tell({ say: 'stands', isConnected: true });
        tell({ say: 'again' });
      };
      source.onerror = () => {
        tell({ say: 'stands', isConnected: false });
        // An answer that was no stream ends it for good.
        if (source.readyState === EventSource.CLOSED && !signal.aborted) setTimeout(open, 2000);
      };
      source.addEventListener('again', () => {
        tell({ say: 'again' });
      });
      source.onmessage = (e: MessageEvent<string>) => {
        const event = eventSchema.safeParse(JSON.parse(e.data));
        if (event.success) tell({ say: 'topic', topic: event.data.topic });
      };
    };
    open();
    signal.addEventListener('abort', () => {
      source.close();
      done();
    });
  });
}
