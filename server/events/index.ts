// What changed, told to every browser: NOTIFY in the transaction, LISTEN in each web server, server-sent events from there.
import type { LiveEvent } from '@basileus/contract';
import type { Request, Response } from 'express';
import pg from 'pg';
import type { Logger } from 'pino';
import type { Db } from '../database';

const channel = 'basileus';

/** Tells all servers; inside a transaction it is told when that commits. */
export const announce = async (db: Db, ...events: LiveEvent[]): Promise<void> => {
  for (const e of events) await db.raw('select pg_notify(?, ?)', [channel, JSON.stringify(e)]);
};

export interface EventHub {
  attach: (request: Request, response: Response) => void;
  stop: () => Promise<void>;
}

/** Holds one listening connection (made anew when it breaks) and passes every event on to the attached browsers. */
export async function startEventHub(url: string, log: Logger): Promise<EventHub> {
  const open = new Set<Response>();
  let client: pg.Client | undefined,
    isStopped = false;
  const listen = async (): Promise<void> => {
    const next = new pg.Client({ connectionString: url, application_name: 'basileus-events' });
    next.on('notification', (n) => {
      for (const r of open) r.write(`data: ${n.payload ?? '{}'}\n\n`);
    });
    next.on('error', () => {
      client = undefined;
      if (!isStopped)
        setTimeout(
          () =>
            void listen().catch((e: unknown) => {
              log.warn({ error: String(e) }, 'cannot listen for events');
            }),
          1000,
        ).unref();
    });
    await next.connect();
    await next.query(`listen ${channel}`);
    client = next;
    for (const r of open) r.write('data: {"topic":"jobs"}\n\n');
  };
  await listen();
  const beat = setInterval(() => {
    for (const r of open) r.write(': still here\n\n');
  }, 20_000);
  return {
    attach: (request, response) => {
      response.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-cache', 'X-Accel-Buffering': 'no' });
      response.flushHeaders();
      response.write('retry: 1000\n\n');
      open.add(response);
      request.on('close', () => open.delete(response));
    },
    stop: async () => {
      isStopped = true;
      clearInterval(beat);
      for (const r of open) r.end();
      await client?.end();
    },
  };
}
