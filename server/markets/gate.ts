// The gate to a market: the key that it knows us by, kept apart from all else, and what it takes in a stretch of time,
// counted in the database for all who ask at once.
import type { Quota } from '@basileus/core/rulebook';
import { type Db, rowOf } from '../database';
import { AppError } from '../http';
import type { Market } from './load';
import { say } from '@basileus/core/text';

export interface Gate {
  /** What the market's host has shown before, such as SHA256:…; undefined where we have never been there. */
  loadHost: () => Promise<string | undefined>;
  /** Notes what the host showed when it let us in for the first time. */
  keepHost: (fingerprint: string) => Promise<void>;
  /** The key that the market knows us by; undefined where none is kept. */
  loadKey: () => Promise<string | undefined>;
  /** Takes one request with so many records from the quota; a refusal that says how long to wait where it is used up. */
  spend: (records: number) => Promise<void>;
}

/** A gate that holds nothing back, with this key; for trying a connection. */
export const openFreeGate = (key: string | undefined, host?: string): Gate => ({
  loadHost: () => Promise.resolve(host),
  keepHost: () => Promise.resolve(),
  loadKey: () => Promise.resolve(key),
  spend: () => Promise.resolve(),
});

/** The gate of a market that is kept in the database. */
export function openGate(db: Db, market: Market): Gate {
  const { transport } = market.rulebook;
  const quota = transport.kind === 'http' ? transport.quota : undefined;
  return {
    loadHost: async () => loadHost(db, market.id),
    keepHost: async (fingerprint) => {
      await db.raw(
        'insert into market_hosts (market_id, fingerprint) values (?, ?) on conflict (market_id) do nothing',
        [market.id, fingerprint],
      );
    },
    loadKey: async () =>
      (await rowOf<{ key: string }>(db, 'select key from market_keys where market_id = ?', [market.id]))?.key,
    spend: async (records) => {
      if (quota) await spendQuota(db, market, quota, records);
    },
  };
}

/** More records than any file has. */
const anyNumber = 2_000_000_000;

/** One row a market, changed in one statement: of all that ask at once, no more than the quota get through. */
async function spendQuota(db: Db, market: Market, quota: Quota, records: number): Promise<void> {
  const taken = await rowOf(
    db,
    `insert into market_quotas as q (market_id, ends, requests, records)
      values (?, clock_timestamp() + ? * interval '1 second', 1, ?)
      on conflict (market_id) do update
      set ends = case when q.ends <= clock_timestamp() then excluded.ends else q.ends end,
        requests = case when q.ends <= clock_timestamp() then 1 else q.requests + 1 end,
        records = case when q.ends <= clock_timestamp() then excluded.records else q.records + excluded.records end
      where q.ends <= clock_timestamp() or (q.requests < ? and q.records + excluded.records <= ?)
      returning 1 as x`,
    [market.id, quota.seconds, records, quota.requests, quota.records ?? anyNumber],
  );
  if (taken) return;
  const left = await rowOf<{ seconds: number }>(
    db,
    `select greatest(1, ceil(extract(epoch from ends - clock_timestamp())))::int as seconds
      from market_quotas where market_id = ?`,
    [market.id],
  );
  throw new AppError(
    'market-unreachable',
    say`What ${market.name} takes in ${quota.seconds} seconds is used up.`,
    { notTaken: true, remedy: say`It goes on by itself.` },
    left?.seconds ?? 1,
  );
}

/** Keeps the key that a market knows us by; null forgets it. It is never read out again but to the market. */
export async function storeKey(db: Db, marketId: number, key: string | null): Promise<void> {
  if (key === null) await db.raw('delete from market_keys where market_id = ?', [marketId]);
  else
    await db.raw(
      `insert into market_keys (market_id, key) values (?, ?)
        on conflict (market_id) do update set key = excluded.key, at = now()`,
      [marketId, key],
    );
}

/** What the host of a market has shown; undefined where we have never been there. */
export const loadHost = async (db: Db, marketId: number): Promise<string | undefined> =>
  (await rowOf<{ fingerprint: string }>(db, 'select fingerprint from market_hosts where market_id = ?', [marketId]))
    ?.fingerprint;

/** Forgets a host: at another address, or where a person says that the market has a new one. */
export const forgetHost = async (db: Db, marketId: number): Promise<void> => {
  await db.raw('delete from market_hosts where market_id = ?', [marketId]);
};

/** When the key of a market was given; undefined where none is kept. */
export const loadKeyDay = async (db: Db, marketId: number): Promise<Date | undefined> =>
  (await rowOf<{ at: Date }>(db, 'select at from market_keys where market_id = ?', [marketId]))?.at;
