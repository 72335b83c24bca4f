// The pool of threads with its limits, on small programs of its own; and the real one, built as the server's is.
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from 'esbuild';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { allJobs } from '../all-jobs';
import { storeFile } from '../files';
import { type House, openHouse, until } from '../tests/house';
import { enqueue, JobLost, openBeside, startThreads, startWorker, type Threads, type Worker } from '.';

const folder = mkdtempSync(join(tmpdir(), 'basileus-threads-'));
afterAll(() => {
  rmSync(folder, { recursive: true, force: true });
});

describe('a thread', () => {
  let threads: Threads;
  beforeAll(() => {
    const file = join(folder, 'small.mjs');
    writeFileSync(
      file,
      `export default async ({ ask, given, job, hasBeside }) => {
        if (ask === 'spin') for (;;);
        if (ask === 'hoard') { const kept = []; for (;;) kept.push(new Array(1e6).fill(Math.random())); }
        if (job?.id === 'slow') await new Promise((r) => setTimeout(r, 300));
        if (job) return hasBeside;
        if (ask === 'refuse') return { refused: { code: 'bad-input', message: 'Not this.', about: { field: 'x' } } };
        return { ok: given + 1 };
      };`,
    );
    threads = startThreads(file, '', { mostMegabytes: 100 });
  });
  afterAll(() => threads.stop());
  it('answers, and refuses as the work itself does', async () => {
    expect(await threads.ask('add', 4, 10)).toBe(5);
    await expect(threads.ask('refuse', 0, 10)).rejects.toMatchObject({
      code: 'bad-input',
      message: 'Not this.',
      about: { field: 'x' },
    });
  });
  it('that never ends is ended, and the next is answered', async () => {
    await expect(threads.ask('spin', 0, 0.3)).rejects.toMatchObject({
      code: 'too-large',
      message: 'This took longer than 0.3 seconds and was stopped.',
    });
    expect(await threads.ask('add', 1, 10)).toBe(2);
  });
  it('that hoards memory is ended, and this process lives', async () => {
    await expect(threads.ask('hoard', 0, 60)).rejects.toMatchObject({
      code: 'too-large',
      message: 'This needed more than 100 MB of memory and was stopped.',
    });
    expect(await threads.ask('add', 2, 10)).toBe(3);
    const run = { id: 'x', kind: 'x', payload: {}, token: 'x', attempt: 1 };
    expect(await threads.run(run, { mostSeconds: 10 })).toBe(false);
  });
  it('beside its own is given to one run at a time, of those that have parts', async () => {
    const run = (id: string, hasParts: boolean) =>
      threads.run(
        { id, kind: 'x', payload: {}, token: 'x', attempt: 1 },
        { mostSeconds: 10, ...(hasParts ? { hasParts } : {}) },
      );
    expect(await Promise.all([run('slow', true), run('b', true), run('c', false)])).toEqual([true, false, false]);
    expect(await run('d', true)).toBe(true);
  });
});

describe('the server’s own threads', () => {
  const file = () => join(import.meta.dirname, '../../.build/thread-test/thread.mjs');
  let house: House, threads: Threads, worker: Worker;
  beforeAll(async () => {
    house = await openHouse('threads_test', { worker: false, size: 40 });
    const root = join(import.meta.dirname, '../..');
    await build({
      entryPoints: { thread: join(root, 'server/thread.ts') },
      outdir: join(root, '.build/thread-test'),
      outExtension: { '.js': '.mjs' },
      bundle: true,
      platform: 'node',
      target: 'node20',
      format: 'esm',
      packages: 'external',
      alias: Object.fromEntries(
        ['core', 'contract', 'rulebooks', 'demo'].map((room) => [`@basileus/${room}`, join(root, room)]),
      ),
      logLevel: 'error',
    });
    threads = startThreads(file(), house.url);
    worker = await startWorker({ db: house.db, listener: house.listener, kinds: allJobs, log: house.log, threads });
  });
  afterAll(async () => {
    await worker.stop();
    await threads.stop();
    await house.close();
  });
  it('run jobs to their end, and tell what they refuse', async () => {
    await house.db.raw('update markets set revision = revision + 1, checks_from = revision + 1');
    const id = await enqueue(house.db, { kind: 'refresh-market', title: 'x', payload: { market: 'quillhaven' } });
    const [job] = await until(
      () => house.rows<{ state: string; done: number }>('select state, done from jobs where id = ?', [id]),
      (r) => ['done', 'failed'].includes(r[0]!.state),
    );
    expect(job).toMatchObject({ state: 'done' });
    expect(job!.done).toBeGreaterThan(40);
  });
  it('do parts of a run in a thread beside, and write only while the run has its job', async () => {
    const [market] = await house.rows<{ id: number; key: string; revision: number }>(
      `update markets set revision = revision + 1, checks_from = revision + 1 where key = 'quillhaven'
        returning id, key, revision`,
    );
    const roots = await house.rows<{ id: number }>('select id from products where parent_id is null');
    const given = {
      market: 'quillhaven',
      revision: market!.revision,
      page: roots.map((r) => r.id),
      isLockedFirst: true,
    };
    await house.db.raw('update listings set market_revision = 0 where market_id = ?', [market!.id]);
    const behind = () => house.rows('select 1 from listings where market_id = ? and market_revision = 0', [market!.id]);
    const all = (await behind()).length;
    expect(all).toBeGreaterThan(40);
    const besideOf = openBeside(file(), house.url);
    await expect(besideOf(randomUUID())('refresh-families', given)).rejects.toBeInstanceOf(JobLost);
    expect(await behind()).toHaveLength(all);
    const token = randomUUID();
    const id = await enqueue(house.db, { kind: 'refresh-market', title: 'x', payload: {}, delaySeconds: 3600 });
    await house.db.raw('insert into job_runs (token, job_id) values (?, ?)', [token, id]);
    expect(await besideOf(token)('refresh-families', given)).toMatchObject({ rows: all });
    expect(await behind()).toEqual([]);
  });
  it('understand a file, or say why not', async () => {
    const bytes = (text: string) =>
      (async function* () {
        yield await Promise.resolve(Buffer.from(text));
      })();
    const good = await storeFile(house.db, 'a.csv', bytes('SKU;Title\nA-1;Pan\n'));
    expect(await threads.ask('understand-file', { file: good.id, name: 'a.csv' }, 20)).toMatchObject({
      kind: 'text',
      reading: { delimiter: ';', columns: [{ field: 'sku' }, { field: 'title' }] },
    });
    const bad = await storeFile(house.db, 'b.csv', bytes(' \n '));
    await expect(threads.ask('understand-file', { file: bad.id, name: 'b.csv' }, 20)).rejects.toMatchObject({
      code: 'unreadable-file',
    });
  });
});
