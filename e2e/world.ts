// A whole world for one test file: its own database, stand-in market and server as processes of their own, and a browser.
import { type ChildProcess, fork } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import pg from 'pg';
import { type Browser, chromium, type Page } from 'playwright-core';
import { inject } from 'vitest';

export interface World {
  base: string;
  market: string;
  /** Addresses of the stand-in markets by their keys. */
  markets: Record<string, string>;
  databaseUrl: string;
  api: <T>(method: string, path: string, body?: unknown) => Promise<T>;
  mood: (m: Record<string, unknown>) => Promise<void>;
  newPage: (options?: { width?: number }) => Promise<Page>;
  killServer: () => Promise<void>;
  startServer: () => Promise<void>;
  query: <T>(sql: string, values?: unknown[]) => Promise<T[]>;
  close: () => Promise<void>;
}

export const root = resolve(import.meta.dirname, '..');
export const freePort = (): Promise<number> =>
  new Promise((done) => {
    const s = createServer();
    s.listen(0, '127.0.0.1', () => {
      const a = s.address();
      const port = typeof a === 'object' && a ? a.port : 0;
      s.close(() => {
        done(port);
      });
    });
  });
/** The database of which each world is a copy. */
export const emptyHouse = 'empty_house';
const flags = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

/** Opens a world with the demo in it, on one market or on several. `work` and `review` are their times in milliseconds. */
export async function openWorld(
  name: string,
  options: { size?: number; work?: number; review?: number; markets?: string[]; languages?: string } = {},
): Promise<World> {
  const admin = new pg.Client(inject('clusterUrl'));
  await admin.connect();
  await admin.query(`create database ${name} template ${emptyHouse}`);
  await admin.end();
  const databaseUrl = inject('clusterUrl').replace(/\/postgres$/, `/${name}`);
  const folder = mkdtempSync(join(tmpdir(), `basileus-${name}-`));
  const port = await freePort();
  const startChild = (file: string, env: Record<string, string>): Promise<ChildProcess> =>
    new Promise((done, fail) => {
      const child = fork(join(root, 'dist', file), {
        env: { ...process.env, NODE_OPTIONS: '', ...env },
        stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      });
      child.once('message', () => {
        done(child);
      });
      child.once('exit', (code) => {
        fail(new Error(`${file} ended with ${code}`));
      });
    });
  const keys = options.markets ?? ['quillhaven'];
  const ports = new Map<string, number>();
  for (const key of keys) ports.set(key, await freePort());
  const urls = Object.fromEntries(keys.map((key) => [key, `http://127.0.0.1:${ports.get(key)!}`]));
  const marketUrl = urls[keys[0]!]!;
  const market = await startChild('standins.mjs', {
    STANDINS_PORTS: JSON.stringify(Object.fromEntries(ports)),
    STANDINS_FOLDER: folder,
    STANDINS_WORK_MS: String(options.work ?? 400),
    STANDINS_REVIEW_MS: String(options.review ?? 800),
    STANDINS_SELL_MS: '0',
  });
  let server: ChildProcess | undefined;
  const startServer = async () => {
    server = await startChild('server.mjs', {
      BASILEUS_DATABASE_URL: databaseUrl,
      BASILEUS_PORT: String(port),
      BASILEUS_WEB: join(root, 'dist/web'),
      ...(options.languages === undefined ? {} : { BASILEUS_LANGUAGES: options.languages }),
      BASILEUS_MARKETS: JSON.stringify(urls),
      BASILEUS_DEMO_SIZE: String(options.size ?? 1200),
      BASILEUS_LOG: 'fatal',
    });
  };
  await startServer();
  const pool = new pg.Pool({ connectionString: databaseUrl, max: 2 });
  pool.on('error', () => undefined);
  let browser: Promise<Browser> | undefined;
  const base = `http://127.0.0.1:${port}`;
  return {
    base,
    market: marketUrl,
    markets: urls,
    databaseUrl,
    startServer,
    api: async <T>(method: string, path: string, body?: unknown) => {
      const r = await fetch(`${base}/api${path}`, {
        method,
        ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
      });
      return (await r.json()) as T;
    },
    mood: async (m) => {
      await fetch(`${marketUrl}/_control/mood`, { method: 'POST', body: JSON.stringify(m) });
    },
    newPage: async (o = {}) => {
      browser ??= chromium.launch({ executablePath: inject('chromium'), args: flags });
      const context = await (
        await browser
      ).newContext({
        viewport: { width: o.width ?? 1280, height: 800 },
        reducedMotion: 'reduce',
        permissions: ['clipboard-read', 'clipboard-write'],
      });
      const page = await context.newPage();
      // Long enough for a machine at a third of the usual speed with another file's world beside it.
      page.setDefaultTimeout(90_000);
      return page;
    },
    killServer: async () => {
      const s = server;
      if (!s || s.exitCode !== null) return;
      await new Promise<void>((done) => {
        s.once('exit', () => {
          done();
        });
        s.kill('SIGKILL');
      });
    },
    query: async <T>(sql: string, values: unknown[] = []) => (await pool.query(sql, values)).rows as T[],
    close: async () => {
      await (await browser)?.close();
      await pool.end();
      for (const child of [server, market])
        if (child && child.exitCode === null && child.signalCode === null)
          await new Promise<void>((done) => {
            child.once('exit', () => {
              done();
            });
            child.kill('SIGTERM');
          });
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** Waits until a question has the answer wanted; fails with the last answer after `ms`. */
export async function until<T>(ask: () => Promise<T>, isSo: (answer: T) => boolean, ms = 150_000): Promise<T> {
  const end = Date.now() + ms;
  for (;;) {
    const answer = await ask();
    if (isSo(answer)) return answer;
    if (Date.now() > end)
      throw new Error(`Not so after ${ms} ms; the last answer was ${JSON.stringify(answer).slice(0, 500)}`);
    await new Promise((r) => setTimeout(r, 60));
  }
}
