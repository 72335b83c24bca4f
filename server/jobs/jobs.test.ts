import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { connect, type Db } from '../database';
import { type Listener, startListener } from '../events';
import { AppError } from '../http';
import { type House, openHouse, until } from '../tests/house';
import { hurry } from './enqueue';
import { createBoss, defineJob, enqueue, openQueues, type JobContext, JobLost, startWorker, type Worker } from '.';

let house: House;
const workers: Worker[] = [];
const ran: string[] = [];
const text = z.object({ text: z.string() });
const anything = z.record(z.string(), z.unknown());
/** Doors that handlers wait at, by name, and what a handler that slept found when it woke. */
const doors = new Map<string, () => void>();
const woke: string[] = [];
const openDoor = async (name: string) => {
  await until(() => Promise.resolve(doors.has(name)), Boolean);
  doors.get(name)!();
  doors.delete(name);
};
const waitAtDoor = (name: string) =>
  new Promise<void>((r) => {
    doors.set(name, r);
  });

const note = defineJob({
  kind: 'note',
  payload: text,
  attempts: 1,
  mostSeconds: 60,
  run: ({ text }) => {
    ran.push(text);
    return Promise.resolve('done' as const);
  },
});
const kinds = [
  note,
  defineJob({
    kind: 'patient',
    payload: text,
    attempts: 2,
    mostSeconds: 60,
    run: async ({ text }) => {
      await waitAtDoor(text);
      return 'done' as const;
    },
  }),
  defineJob({
    kind: 'flaky',
    payload: text,
    attempts: 3,
    mostSeconds: 60,
    run: ({ text }, { attempt }) => {
      ran.push(`${text}${attempt}`);
      if (attempt < 3) throw new Error('not yet');
      return Promise.resolve('done' as const);
    },
  }),
  defineJob({
    kind: 'hopeless',
    payload: anything,
    attempts: 2,
    mostSeconds: 60,
    run: () => {
      throw new AppError('market-unreachable', 'Nobody answers.');
    },
  }),
  defineJob({
    kind: 'refused',
    payload: text,
    attempts: 5,
    mostSeconds: 60,
    run: ({ text }) => {
      ran.push(text);
      throw new AppError('bad-input', 'Never.');
    },
  }),
  defineJob({
    kind: 'long',
    payload: anything,
    attempts: 1,
    mostSeconds: 60,
    run: async (_, { progress }) => {
      for (let i = 0; ; i++) {
        await progress(i, 1000);
        await new Promise((r) => setTimeout(r, 10));
      }
    },
  }),
  defineJob({
    kind: 'again',
    payload: text,
    attempts: 2,
    mostSeconds: 60,
    run: ({ text }) => {
      ran.push(text);
      return Promise.resolve(ran.filter((r) => r === text).length < 4 ? { again: 0 } : ('done' as const));
    },
  }),
  defineJob({
    kind: 'sleeper',
    payload: text,
    attempts: 3,
    mostSeconds: 60,
    run: async ({ text }, { attempt, write, progress }) => {
      ran.push(`${text}${attempt}`);
      await progress(3, 10, 'counting sheep');
      if (attempt === 1) {
        await waitAtDoor(text);
        for (const attack of [() => write((tx) => mark(tx, `${text} by a sleeper`)), () => progress(9, 10)])
          await attack().then(
            () => woke.push('wrote'),
            (e: unknown) => woke.push(e instanceof JobLost ? 'lost' : String(e)),
          );
        throw new JobLost();
      }
      await write((tx) => mark(tx, text));
      return 'done';
    },
  }),
  defineJob({
    kind: 'poison',
    payload: text,
    attempts: 2,
    mostSeconds: 60,
    run: async ({ text }, { attempt, progress }) => {
      ran.push(`${text}${attempt}`);
      await progress(41, 100, 'reading row 41');
      // It never comes back and its worker says nothing more: what a killed process looks like from outside.
      await waitAtDoor(`${text}${attempt}`);
      return 'done';
    },
    onFailed: (_, db, reason) => mark(db, reason),
  }),
];
const mark = async (db: Db, subject: string): Promise<void> => {
  await db.raw(`insert into history (actor, fact) values ('test', ?)`, [
    JSON.stringify({ is: 'said', action: 'marked', subject, detail: '' }),
  ]);
};
const marks = async () =>
  (
    await house.rows<{ subject: string }>(
      `select fact ->> 'subject' as subject from history where fact ->> 'action' = 'marked' order by id`,
    )
  ).map((r) => r.subject);

beforeAll(async () => {
  house = await openHouse('jobs_test', { worker: false, size: 5 });
  for (let i = 0; i < 2; i++)
    workers.push(await startWorker({ db: house.db, listener: house.listener, kinds, log: house.log }));
});
afterAll(async () => {
  for (const open of doors.values()) open();
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
/**
 * What a process leaves behind that is killed or put to sleep: running, and a heartbeat that stands still. This process
 * lives and beats on, so that it is silenced until the job was taken from the run.
 */
const silence = async (id: string) => {
  const { attempts } = await until(
    () => stateOf(id),
    (j) => j.state === 'running',
  );
  await until(
    () =>
      house.rows(
        `update jobs set heartbeat_at = now() - interval '1 minute'
          where id = ? and state = 'running' and attempts = ? returning id`,
        [id, attempts],
      ),
    (r) => r.length === 0,
  );
};

describe('a job that waits', () => {
  it('is made due by whoever asks first; others do not wait for that, nor for each other', async () => {
    const once = 'patience-of-two';
    await enqueue(house.db, { kind: 'note', title: '', payload: { text: once }, once, delaySeconds: 3600 });
    const first = await house.db.transaction(),
      second = await house.db.transaction();
    try {
      await second.raw(`set local lock_timeout = '3s'`);
      await hurry(first, 'note', once);
      await hurry(second, 'note', once);
    } finally {
      await second.commit();
      await first.commit();
    }
    await until(() => Promise.resolve(ran.includes(once)), Boolean);
  });
});

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
  it('with the key of one that runs wait until it has ended', async () => {
    const once = randomUUID();
    const request = { kind: 'poison', title: 'One at a time', payload: { text: once }, once };
    const first = await enqueue(house.db, request);
    await until(() => Promise.resolve(ran.includes(`${once}1`)), Boolean);
    const second = await enqueue(house.db, request);
    expect(second).not.toBe(first);
    expect(await enqueue(house.db, request)).toBe(second);
    // Both workers have free hands: another job goes through while this one may not.
    await ended(await enqueue(house.db, { kind: 'note', title: 'x', payload: { text: 'passes by' } }));
    expect((await stateOf(second)).state).toBe('queued');
    await openDoor(`${once}1`);
    await until(
      () => stateOf(second),
      (j) => j.state === 'running',
    );
    expect((await stateOf(first)).state).toBe('done');
    await openDoor(`${once}1`);
    await ended(second);
  });
  it('are not there when the transaction that asked for them fails', async () => {
    await expect(
      house.db.transaction(async (tx) => {
        await enqueue(tx, { kind: 'note', title: 'Note', payload: { text: 'ghost' } });
        throw new Error('rolled back');
      }),
    ).rejects.toThrow('rolled back');
    expect(await house.rows(`select 1 from jobs where payload ->> 'text' = 'ghost'`)).toEqual([]);
    expect(
      await house.rows(`select 1 from boss.job where id not in (select boss_id from jobs where boss_id is not null)`),
    ).toEqual([]);
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
    const odd = await enqueue(house.db, { kind: 'refused', title: 'x', payload: { text: 5 } });
    expect(await ended(odd)).toMatchObject({ state: 'failed', attempts: 1 });
    expect(ran).not.toContain(5);
  });
  it('may put themselves behind themselves, as often as they like', async () => {
    const id = await enqueue(house.db, { kind: 'again', title: 'x', payload: { text: 'round' }, once: 'round' });
    expect((await ended(id)).state).toBe('done');
    expect(ran.filter((r) => r === 'round')).toHaveLength(4);
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
  it('of a kind that no worker knows wait for one that does', async () => {
    const known = defineJob({ ...note, kind: 'from-tomorrow' } as never);
    await openQueues(house.db, [known]);
    const id = await enqueue(house.db, { kind: 'from-tomorrow', title: 'x', payload: { text: 'tomorrow' } });
    await ended(await enqueue(house.db, { kind: 'note', title: 'x', payload: { text: 'meanwhile' } }));
    expect(await stateOf(id)).toMatchObject({ state: 'queued', attempts: 0 });
    workers.push(await startWorker({ db: house.db, listener: house.listener, kinds: [known], log: house.log }));
    expect((await ended(id)).state).toBe('done');
    expect(ran).toContain('tomorrow');
  });
  it('of an earlier version, which have no message, are taken up', async () => {
    const id = randomUUID();
    await house.db.raw(`insert into jobs (id, kind, title, payload) values (?, 'note', 'Old', '{"text":"old"}')`, [id]);
    workers.push(await startWorker({ db: house.db, listener: house.listener, kinds: [note], log: house.log }));
    expect((await ended(id)).state).toBe('done');
  });
  it('show in the list with their title', async () => {
    expect((await house.call<{ rows: { title: string }[] }>('GET', '/jobs')).body.rows.map((r) => r.title)).toContain(
      'Long',
    );
  });
});

describe('a job whose message was fetched by a worker that died before it claimed it', () => {
  it('goes on within seconds, once, though the message is still being delivered', async () => {
    const kind = defineJob({
      kind: 'between',
      payload: text,
      attempts: 2,
      mostSeconds: 60,
      run: ({ text }) => {
        ran.push(text);
        return Promise.resolve('done' as const);
      },
    });
    await openQueues(house.db, [kind]);
    const id = await enqueue(house.db, { kind: 'between', title: 'x', payload: { text: 'between' }, once: 'between' });
    const boss = createBoss(house.db, false);
    await boss.start();
    expect(await boss.fetch('between')).toHaveLength(1);
    await boss.stop({ graceful: false });
    workers.push(await startWorker({ db: house.db, listener: house.listener, kinds: [kind], log: house.log }));
    const began = Date.now();
    expect(await ended(id)).toMatchObject({ state: 'done' });
    expect(Date.now() - began).toBeLessThan(15_000);
    expect(ran.filter((r) => r === 'between')).toHaveLength(1);
  });
});

describe('a run that lost its job', () => {
  it('is none while it lives: its heart beats, though it says nothing of its progress', async () => {
    const id = await enqueue(house.db, { kind: 'patient', title: 'x', payload: { text: 'beating' } });
    await until(() => Promise.resolve(doors.has('beating')), Boolean);
    // A little in the past, and not yet silent.
    await house.rows(`update jobs set heartbeat_at = now() - interval '4 seconds' where id = ? returning id`, [id]);
    await until(
      () => house.rows(`select 1 from jobs where id = ? and heartbeat_at > now() - interval '3 seconds'`, [id]),
      (r) => r.length === 1,
    );
    await openDoor('beating');
    expect(await ended(id)).toMatchObject({ state: 'done', attempts: 1 });
  });
  it('writes not another word when it wakes, and cannot end what another runs', async () => {
    const id = await enqueue(house.db, { kind: 'sleeper', title: 'x', payload: { text: 'dream' } });
    await until(() => Promise.resolve(doors.has('dream')), Boolean);
    await silence(id);
    expect(await ended(id)).toMatchObject({ state: 'done', attempts: 2 });
    await openDoor('dream');
    await until(
      () => Promise.resolve(woke.length),
      (n) => n === 2,
    );
    expect(woke).toEqual(['lost', 'lost']);
    expect((await marks()).filter((m) => m.startsWith('dream'))).toEqual(['dream']);
    expect(await stateOf(id)).toMatchObject({ state: 'done', done: 10 });
    expect(await house.rows('select 1 from job_runs where job_id = ?', [id])).toEqual([]);
  });
  it('keeps it until its transaction has ended, and never both have it', async () => {
    let inside!: JobContext;
    const told = new Promise<void>((done) => {
      const kind = defineJob({
        kind: 'holder',
        payload: anything,
        attempts: 3,
        mostSeconds: 60,
        run: async (_, context) => {
          if (context.attempt === 1) {
            inside = context;
            await context.write(async (tx) => {
              await mark(tx, 'held');
              done();
              await waitAtDoor('holder');
            });
            throw new JobLost();
          }
          await context.write((tx) => mark(tx, 'after held'));
          return 'done';
        },
      });
      void startWorker({ db: house.db, listener: house.listener, kinds: [kind], log: house.log }).then(async (w) => {
        workers.push(w);
        await enqueue(house.db, { kind: 'holder', title: 'x', payload: {} });
      });
    });
    await told;
    const silenced = silence(inside.id);
    // Whoever would take the job waits for the run's transaction, and gives up for now.
    await until(
      () =>
        house.rows(
          `select 1 from pg_stat_activity where wait_event_type = 'Lock' and query like 'delete from job_runs%'`,
        ),
      (r) => r.length > 0,
    );
    expect(await stateOf(inside.id)).toMatchObject({ attempts: 1, state: 'running' });
    await openDoor('holder');
    await silenced;
    expect(await ended(inside.id)).toMatchObject({ state: 'done', attempts: 2 });
    expect((await marks()).filter((m) => m.endsWith('held'))).toEqual(['held', 'after held']);
  });
});

describe('a job that kills its worker each time', () => {
  it('is run no more often than its limit, and ends as failed with what was being done', async () => {
    const id = await enqueue(house.db, { kind: 'poison', title: 'Poison', payload: { text: 'venom' } });
    for (const run of ['venom1', 'venom2']) {
      await until(() => Promise.resolve(ran.includes(run)), Boolean);
      await until(
        () => stateOf(id),
        (j) => j.done === 41,
      );
      await silence(id);
    }
    const j = await ended(id);
    expect(j).toMatchObject({
      state: 'failed',
      attempts: 2,
      error: 'It stopped without a word 2 times, last at 41 of 100 (reading row 41).',
    });
    expect(await marks()).toContain(j.error);
    expect(ran.filter((r) => r.startsWith('venom'))).toEqual(['venom1', 'venom2']);
  });
});

describe('the line for live events', () => {
  let listener: Listener, db: Db;
  afterAll(async () => {
    await listener.stop();
    await db.destroy();
  });
  it('stands again after the database cut it, and says that something may have been missed', async () => {
    db = connect(house.url, 2);
    listener = await startListener(house.url, house.log);
    const heard: string[] = [];
    listener.on((e) => heard.push(e.topic));
    for (let round = 1; round <= 3; round++) {
      await house.rows(
        `select pg_terminate_backend(pid) from pg_stat_activity where application_name = 'basileus-events' and datname = current_database()`,
      );
      await until(
        () => Promise.resolve(heard.filter((t) => t === 'again').length),
        (n) => n === round,
      );
      await db.raw(`select pg_notify('basileus', '{"topic":"markets"}')`);
      await until(
        () => Promise.resolve(heard.filter((t) => t === 'markets').length),
        (n) => n === round,
      );
    }
  });
  it('passes over what is no event', async () => {
    const heard: string[] = [];
    listener.on((e) => heard.push(e.topic));
    await db.raw(
      `select pg_notify('basileus', 'what?'), pg_notify('basileus', '{"topic":"weather"}'), pg_notify('basileus', '{"topic":"jobs"}')`,
    );
    await until(
      () => Promise.resolve(heard),
      (h) => h.includes('jobs'),
    );
    expect(heard).toEqual(['jobs']);
  });
});
