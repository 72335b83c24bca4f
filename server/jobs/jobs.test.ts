import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { AppError } from '../http';
import { type House, openHouse, until } from '../tests/house';
import { enqueue, type JobKind, startWorker, type Worker } from '.';

let house: House;
const workers: Worker[] = [];
const ran: string[] = [];
let release: (() => void) | undefined;
const kinds = [
  {
    kind: 'note',
    attempts: 1,
    run: ({ text }: { text: string }) => {
      ran.push(text);
      return Promise.resolve('done' as const);
    },
  },
  {
    kind: 'flaky',
    attempts: 3,
    run: ({ text }: { text: string }, { attempt }: { attempt: number }) => {
      ran.push(`${text}${attempt}`);
      if (attempt < 3) throw new Error('not yet');
      return Promise.resolve('done' as const);
    },
  },
  {
    kind: 'hopeless',
    attempts: 2,
    run: () => {
      throw new AppError('market-unreachable', 'Nobody answers.');
    },
  },
  {
    kind: 'refused',
    attempts: 5,
    run: ({ text }: { text: string }) => {
      ran.push(text);
      throw new AppError('bad-input', 'Never.');
    },
  },
  {
    kind: 'long',
    attempts: 1,
    run: async (_: unknown, { progress }: { progress: (d: number, t: number) => Promise<void> }) => {
      for (let i = 0; ; i++) {
        await progress(i, 1000);
        await new Promise((r) => setTimeout(r, 10));
      }
    },
  },
  {
    kind: 'held',
    attempts: 3,
    run: async ({ text }: { text: string }, { attempt }: { attempt: number }) => {
      ran.push(`${text}${attempt}`);
      if (attempt === 1)
        await new Promise<void>((r) => {
          release = r;
        });
      return 'done' as const;
    },
  },
] as unknown as JobKind<never>[];

beforeAll(async () => {
  house = await openHouse('jobs_test', { worker: false, size: 5 });
  for (let i = 0; i < 2; i++) workers.push(await startWorker(house.db, house.url, kinds, house.log));
});
afterAll(async () => {
  release?.();
  for (const w of workers) await w.stop();
  await house.close();
});

const stateOf = (id: string) =>
  house
    .rows<{ state: string; error: string | null; done: number; attempts: number }>(
      'select state, error, done, attempts from jobs where id = ?',
      [id],
    )
    .then((r) => r[0]!);
const ended = (id: string) =>
  until(
    () => stateOf(id),
    (j) => ['done', 'failed', 'cancelled'].includes(j.state),
  );

describe('jobs', () => {
  it('run once, though two workers race for each of thirty', async () => {
    const ids = await Promise.all(
      Array.from({ length: 30 }, (_, i) =>
        enqueue(house.db, { kind: 'note', title: 'Note', payload: { text: `race ${i}` } }),
      ),
    );
    for (const id of ids) expect((await ended(id)).state).toBe('done');
    expect(ran.filter((r) => r.startsWith('race')).sort()).toEqual(
      Array.from({ length: 30 }, (_, i) => `race ${i}`).sort(),
    );
  });
  it('are one while another with their key waits', async () => {
    const once = randomUUID();
    const ids = await Promise.all(
      Array.from({ length: 5 }, () =>
        enqueue(house.db, { kind: 'note', title: 'Note', payload: { text: once }, once, delaySeconds: 0.5 }),
      ),
    );
    expect(new Set(ids).size).toBe(1);
    await ended(ids[0]!);
    expect(ran.filter((r) => r === once)).toHaveLength(1);
  });
  it('are not there when the transaction that asked for them fails', async () => {
    await expect(
      house.db.transaction(async (tx) => {
        await enqueue(tx, { kind: 'note', title: 'Note', payload: { text: 'ghost' } });
        throw new Error('rolled back');
      }),
    ).rejects.toThrow('rolled back');
    expect(await house.rows(`select 1 from jobs where payload ->> 'text' = 'ghost'`)).toEqual([]);
  });
  it('are tried again after a fault, with a pause that grows', async () => {
    expect(
      await ended(await enqueue(house.db, { kind: 'flaky', title: 'Flaky', payload: { text: 'try' } })),
    ).toMatchObject({ state: 'done', attempts: 3 });
    expect(ran.filter((r) => r.startsWith('try'))).toEqual(['try1', 'try2', 'try3']);
  });
  it('fail with the reason when nothing helps', async () => {
    expect(await ended(await enqueue(house.db, { kind: 'hopeless', title: 'x', payload: {} }))).toMatchObject({
      state: 'failed',
      error: 'Nobody answers.',
    });
  });
  it('are not tried again when the fault is in what was asked', async () => {
    expect(
      await ended(await enqueue(house.db, { kind: 'refused', title: 'x', payload: { text: 'never' } })),
    ).toMatchObject({ state: 'failed', error: 'Never.', attempts: 1 });
  });
  it('stop when asked, and say how far they came', async () => {
    const id = await enqueue(house.db, { kind: 'long', title: 'Long', payload: {}, cancellable: true });
    await until(
      () => stateOf(id),
      (j) => j.done > 2,
    );
    expect((await house.call('POST', `/jobs/${id}/cancel`)).status).toBe(200);
    const j = await ended(id);
    expect(j.state).toBe('cancelled');
    expect(j.done).toBeGreaterThan(2);
    expect((await house.call('POST', `/jobs/${id}/cancel`)).status).toBe(409);
  });
  it('of a worker that fell silent are taken up by another', async () => {
    const id = await enqueue(house.db, { kind: 'held', title: 'Held', payload: { text: 'held' } });
    await until(() => Promise.resolve(ran.includes('held1')), Boolean);
    // What a killed process leaves behind: running, and a heartbeat that stands still.
    await house.rows(
      `update jobs set worker = 'gone', heartbeat_at = now() - interval '1 minute' where id = ? returning id`,
      [id],
    );
    expect(await ended(id)).toMatchObject({ state: 'done', attempts: 2 });
    expect(ran).toContain('held2');
  });
  it('show in the list with their title', async () => {
    expect((await house.call<{ rows: { title: string }[] }>('GET', '/jobs')).body.rows.map((r) => r.title)).toContain(
      'Long',
    );
  });
});
