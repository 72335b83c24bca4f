// The start command itself, as a person would use it: fresh, again, with a taken port, and ended with Ctrl+C.
import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { until } from './world';

const root = resolve(import.meta.dirname, '..');
const folder = mkdtempSync(join(tmpdir(), 'basileus-start-'));
const running: ChildProcess[] = [];
afterAll(() => {
  for (const c of running) if (c.exitCode === null) c.kill('SIGKILL');
  rmSync(folder, { recursive: true, force: true });
});

const listen = (): Promise<{ server: Server; port: number }> =>
  new Promise((done) => {
    const server = createServer();
    server.listen(0, '127.0.0.1', () => {
      const a = server.address();
      done({ server, port: typeof a === 'object' && a ? a.port : 0 });
    });
  });
/** A free port under those that connections take for themselves (from 32768 up), so that none has taken it before it is used. */
const free = async (): Promise<number> => {
  for (;;) {
    const port = 20_000 + Math.floor(Math.random() * 12_000),
      server = createServer();
    const isFree = await new Promise<boolean>((done) => {
      server.once('error', () => {
        done(false);
      });
      server.listen(port, '127.0.0.1', () => {
        done(true);
      });
    });
    if (!isFree) continue;
    await new Promise((r) => server.close(r));
    return port;
  }
};

function start(
  port: number,
  env: Record<string, string> = {},
): {
  child: ChildProcess;
  ready: Promise<string>;
  ended: Promise<number | null>;
  said: () => string;
} {
  const child = spawn(process.execPath, ['scripts/start.mjs'], {
    cwd: root,
    env: {
      ...process.env,
      BASILEUS_PORT: String(port),
      BASILEUS_DATA: folder,
      BASILEUS_DEMO_SIZE: '60',
      BASILEUS_DATABASE_URL: '',
      ...env,
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  running.push(child);
  let text = '';
  const ended = new Promise<number | null>((done) => {
    child.once('exit', (code) => {
      done(code);
    });
  });
  const ready = new Promise<string>((done, fail) => {
    const take = (d: Buffer) => {
      text += d.toString();
      if (text.includes('Basileus is ready at')) done(text);
    };
    child.stdout!.on('data', take);
    child.stderr!.on('data', take);
    void ended.then(() => {
      fail(new Error(`ended: ${text}`));
    });
  });
  ready.catch(() => undefined);
  return { child, ready, ended, said: () => text };
}
const isAlive = (pid: number) => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};
const products = async (port: number) =>
  ((await (await fetch(`http://127.0.0.1:${port}/api/products/facets`)).json()) as { products: number }).products;

describe('npm start', () => {
  it('says in one sentence that a port is taken, and starts nothing', async () => {
    const { server, port } = await listen();
    const s = start(port);
    expect(await s.ended).toBe(1);
    expect(s.said().trim()).toBe(
      `Port ${port} is taken by another program; choose another, for example BASILEUS_PORT=${port + 1} npm start.`,
    );
    expect(existsSync(join(folder, 'postgres'))).toBe(false);
    await new Promise((r) => server.close(r));
  });
  it('makes everything on a fresh folder, prints one line, serves the application, and ends its own children', async () => {
    const port = await free();
    const s = start(port);
    expect((await s.ready).trim().split('\n').at(-1)).toBe(`Basileus is ready at http://127.0.0.1:${port}`);
    expect(await products(port)).toBeGreaterThan(60);
    const html = await (await fetch(`http://127.0.0.1:${port}/quillhaven/check`)).text();
    expect(html).toContain('<div id="root">');
    const script = await (await fetch(`http://127.0.0.1:${port}${/src="([^"]+\.js)"/.exec(html)![1]}`)).text();
    // The development half of React is many times slower; it names its element maker so.
    expect(script).not.toContain('jsxDEV');
    await fetch(`http://127.0.0.1:${port}/api/products`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ sku: 'KEPT-1', title: 'Kept' }),
    });
    const database = Number(readFileSync(join(folder, 'postgres/cluster/postmaster.pid'), 'utf8').split('\n')[0]);
    expect(isAlive(database)).toBe(true);
    s.child.kill('SIGINT');
    expect(await s.ended).toBe(0);
    expect(isAlive(database)).toBe(false);
    await expect(fetch(`http://127.0.0.1:${port}/api/health`)).rejects.toThrow();
  });
  it('keeps the data the second time', async () => {
    const port = await free();
    const s = start(port);
    await s.ready;
    const found = (await (await fetch(`http://127.0.0.1:${port}/api/products?search=KEPT-1`)).json()) as {
      total: number;
    };
    expect(found.total).toBe(1);
    s.child.kill('SIGTERM');
    expect(await s.ended).toBe(0);
  });
  it('starts again what falls: the server, the market and the database, on the same address and with the same data', async () => {
    const port = await free();
    const s = start(port);
    await s.ready;
    const found = async (): Promise<number> => {
      try {
        const r = await fetch(`http://127.0.0.1:${port}/api/products?search=KEPT-1`);
        return r.ok ? ((await r.json()) as { total: number }).total : -1;
      } catch {
        return -1;
      }
    };
    const pidOf = () => Number(readFileSync(join(folder, 'postgres/cluster/postmaster.pid'), 'utf8').split('\n')[0]);
    const first = pidOf();
    process.kill(first, 'SIGKILL');
    await until(
      () => Promise.resolve(s.said()),
      (said) => said.includes('The database answers again.'),
    );
    expect(s.said()).toContain('The database ended: killed by SIGKILL. It is started again at once.');
    expect(pidOf()).not.toBe(first);
    await until(found, (n) => n === 1);
    for (const program of ['server.mjs', 'standins.mjs']) {
      const [pid] = childrenOf(s.child.pid!, program);
      process.kill(pid!, 'SIGKILL');
      await until(
        () => Promise.resolve(childrenOf(s.child.pid!, program)),
        (pids) => pids.length === 1 && pids[0] !== pid,
      );
    }
    await until(found, (n) => n === 1);
    expect(s.said()).toContain('The server ended: killed by SIGKILL.');
    // One folder, one start.
    const second = start(await free());
    expect(await second.ended).toBe(1);
    expect(second.said()).toContain('Another Basileus is running with the data in');
    // Nothing in it can be read by another user.
    for (const path of ['.', 'postgres', 'postgres/cluster', 'quillhaven.json', 'torgvik.json'])
      expect(statSync(join(folder, path)).mode & 0o077, path).toBe(0);
    if (process.getuid?.() === 0)
      for (const program of ['server.mjs', 'standins.mjs'])
        expect(childrenOf(s.child.pid!, program).map((pid) => statSync(`/proc/${pid}`).uid === 0)).toEqual([false]);
    s.child.kill('SIGINT');
    expect(await s.ended).toBe(0);
  });
  it.each([
    ['0.0.0.0', 'Set BASILEUS_OPEN=yes if that is meant.'],
    ['198.51.100.7', 'whoever reaches it may read and change everything'],
  ])('refuses to listen on %s without a word that it is meant', async (address, says) => {
    const s = start(await free(), { BASILEUS_HOST: address });
    expect(await s.ended).toBe(1);
    expect(s.said()).toContain(says);
  });
});

/** Processes under another whose command line holds a word; one that ends while it is looked at is not among them. */
const childrenOf = (pid: number, word: string): number[] =>
  readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8')
    .split(' ')
    .filter(Boolean)
    .map(Number)
    .filter((p) => commandOf(p).includes(word));

/** The command line of a process; nothing once it has ended. */
function commandOf(pid: number): string {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8');
  } catch (error) {
    if (['ENOENT', 'ESRCH'].includes((error as NodeJS.ErrnoException).code ?? '')) return '';
    throw error;
  }
}
