// What changed, told to every browser: NOTIFY in the transaction, LISTEN in each web server, server-sent events from there.
import type { LiveEvent } from '@basileus/contract';
import type { Request, Response } from 'express';
import type { Db } from '../database';
import { channel, type Listener } from './listen';

export { type Listener, startListener } from './listen';

/** Tells all servers; inside a transaction it is told when that commits. */
export const announce = async (db: Db, ...events: LiveEvent[]): Promise<void> => {
  for (const e of events) await db.raw('select pg_notify(?, ?)', [channel, JSON.stringify(e)]);
};

export interface EventHub {
  attach: (request: Request, response: Response) => void;
  stop: () => void;
}

const beatMs = 15_000;
/** Browsers attached at once; a page that opens more than this is not one of ours. */
const mostStreams = 400;
/** A browser that does not read what it is sent is let go rather than kept in memory. */
const mostUnread = 1_000_000;

/** Passes every event on to the attached browsers. After a break they are told to look at everything anew. */
export function startEventHub(listener: Listener): EventHub {
  const open = new Set<Response>();
  const write = (text: string): void => {
    for (const r of open) {
      if (r.writableLength > mostUnread) r.destroy();
      else r.write(text);
    }
  };
  const unsubscribe = listener.on((event) => {
    write(event.topic === 'again' ? 'event: again\ndata: {}\n\n' : `data: ${JSON.stringify(event)}\n\n`);
  });
  const beat = setInterval(() => {
    write(': still here\n\n');
  }, beatMs);
  return {
    attach: (request, response) => {
      if (open.size >= mostStreams) {
        response.status(503).end();
        return;
      }
      response.set({ 'Content-Type': 'text/event-stream', 'X-Accel-Buffering': 'no' });
      response.flushHeaders();
      response.write('retry: 1000\n\n');
      open.add(response);
      const close = (): void => {
        open.delete(response);
      };
      request.on('close', close);
      response.on('error', close);
    },
    stop: () => {
      unsubscribe();
      clearInterval(beat);
      for (const r of open) r.end();
    },
  };
}
