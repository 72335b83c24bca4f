// Who may come in, and how often: a key, and so many requests and records in a stretch of time.
import { type Reply, reply, type StandInRequest } from '../frame';
import type { BookDocument } from './book';

/** The key of the one seller that the market knows. */
export const sellerKey = 'brindlewick-desk';

export interface Gate {
  /** A refusal, or undefined where the request may go on. */
  refuse: (request: StandInRequest, records: number, now: number) => Reply | undefined;
}

export function createGate({ transport: { quota } }: BookDocument): Gate {
  let ends = 0,
    requests = 0,
    records = 0,
    refusals = 0;
  return {
    refuse: ({ headers }, more, now) => {
      if (headers.authorization !== `Bearer ${sellerKey}`)
        return reply(401, '{"because":"The key is not one of ours."}', { 'WWW-Authenticate': 'Bearer' });
      if (now >= ends) {
        ends = now + quota.seconds * 1000;
        requests = 0;
        records = 0;
      }
      if (requests + 1 > quota.requests || records + more > quota.records) {
        // Both forms that RFC 9110, 10.2.3 knows, in turn.
        const wait = refusals++ % 2 === 0 ? String(Math.ceil((ends - now) / 1000)) : new Date(ends + 999).toUTCString();
        return reply(429, '{"because":"Slow down."}', { 'Retry-After': wait });
      }
      requests++;
      records += more;
      return undefined;
    },
  };
}
