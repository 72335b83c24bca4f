// The start command itself, as a person would use it: fresh, again, with a taken port, and ended with Ctrl+C.
import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';

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
const free = async () => {
  const { server, port } = await listen();
  await new Promise((r) => server.close(r));
  return port;
};

function start(port: number): {
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
  it('keeps the data the second time, and is ready within seconds', async () => {
    const port = await free();
    const began = Date.now();
    const s = start(port);
    await s.ready;
    expect(Date.now() - began).toBeLessThan(20_000);
    const found = (await (await fetch(`http://127.0.0.1:${port}/api/products?search=KEPT-1`)).json()) as {
      total: number;
    };
    expect(found.total).toBe(1);
    s.child.kill('SIGTERM');
    expect(await s.ended).toBe(0);
  });
});
