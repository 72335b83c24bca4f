// One listening connection a process, looked for again for as long as it takes: NOTIFY in a transaction, LISTEN here.
import { eventSchema, type LiveEvent } from '@basileus/contract';
import pg from 'pg';
import type { Logger } from 'pino';

export const channel = 'basileus';
const firstPauseMs = 250,
  longestPauseMs = 5000;

export interface Listener {
  /** Hears every event, and `{ topic: 'again' }` when the line stands after it was gone. Answers how to stop hearing. */
  on: (hear: (event: LiveEvent | { topic: 'again' }) => void) => () => void;
  stop: () => Promise<void>;
}

/** Opens the line; resolves when it stands for the first time. A line that breaks is opened again, however long that takes. */
export async function startListener(url: string, log: Logger): Promise<Listener> {
  const hearers = new Set<(event: LiveEvent | { topic: 'again' }) => void>();
  const tell = (event: LiveEvent | { topic: 'again' }): void => {
    for (const hear of hearers) hear(event);
  };
  let client: pg.Client | undefined,
    isStopped = false,
    timer: ReturnType<typeof setTimeout> | undefined;

  const open = async (): Promise<void> => {
    const next = new pg.Client({
      connectionString: url,
      application_name: 'basileus-events',
      keepAlive: true,
      connectionTimeoutMillis: 5000,
    });
    let isGone = false;
    // Whichever is heard first; without a listener an error would end the process.
    const gone = (why: unknown): void => {
      if (isGone) return;
      isGone = true;
      if (client === next) client = undefined;
      next.end().catch(() => undefined);
      if (!isStopped) reopen(why, firstPauseMs);
    };
    next.on('error', gone);
    next.on('end', () => {
      gone('ended');
    });
    next.on('notification', (n) => {
      const event = eventSchema.safeParse(parse(n.payload));
      if (event.success) tell(event.data);
    });
    try {
      await next.connect();
      await next.query(`listen ${channel}`);
      client = next;
    } catch (error) {
      isGone = true;
      next.end().catch(() => undefined);
      throw error;
    }
  };
  const reopen = (why: unknown, pauseMs: number): void => {
    log.warn({ error: String(why) }, 'the line for live events is gone; it is opened again');
    timer = setTimeout(() => {
      if (isStopped) return;
      open().then(
        () => {
          tell({ topic: 'again' });
        },
        (error: unknown) => {
          if (!isStopped) reopen(error, Math.min(longestPauseMs, pauseMs * 2));
        },
      );
    }, pauseMs);
  };
  await open();
  return {
    on: (hear) => {
      hearers.add(hear);
      return () => {
        hearers.delete(hear);
      };
    },
    stop: async () => {
      isStopped = true;
      clearTimeout(timer);
      await client?.end().catch(() => undefined);
    },
  };
}

const parse = (text: string | undefined): unknown => {
  try {
    return JSON.parse(text ?? 'null');
  } catch {
    return null;
  }
};
