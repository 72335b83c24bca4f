// The pool of threads with its limits, on small programs of its own; and the real one, built as the server's is.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from 'esbuild';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { allJobs } from '../all-jobs';
import { storeFile } from '../files';
import { type House, openHouse, until } from '../tests/house';
import { enqueue, startThreads, startWorker, type Threads, type Worker } from '.';

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
      `export default async ({ ask, given }) => {
        if (ask === 'spin') for (;;);
        if (ask === 'hoard') { const kept = []; for (;;) kept.push(new Array(1e6).fill(Math.random())); }
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
    expect(await threads.run(run, 10)).toMatchObject({ ok: NaN });
  });
});

describe('the server’s own threads', () => {
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
    threads = startThreads(join(root, '.build/thread-test/thread.mjs'), house.url);
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
