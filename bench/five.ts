// Five markets with 100,000 items, over the server's own doors: checking them all again, a thousand items changed, and prices of
// all items from their change to the markets' last answer; written as a section of docs/measurements.md. `BASILEUS_SIZE` makes
// it smaller. It lays out a house of its own and sends everything new first, which takes most of its time.
import { type ChildProcess, fork } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { cpus, tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { from as copyFrom } from 'pg-copy-streams';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { median, samplePair } from './measure';
import { writeSection } from './section';

const root = process.env['BASILEUS_ROOT']!;
const { startCluster, freePort } = (await import(join(root, 'scripts/lib/postgres.mjs'))) as {
  startCluster: (f: string) => Promise<{ url: (n: string) => string; stop: () => Promise<void> }>;
  freePort: () => Promise<number>;
};
const size = Number(process.env['BASILEUS_SIZE'] ?? 100_000);
const markets = ['quillhaven', 'torgvik', 'cedarpost', 'wadiline', 'lumbara'];
const priceFields = ['fact.price@eur', 'fact.price@sek', 'fact.price@jpy', 'fact.price@kwd', 'fact.price@usd'];
const folder = mkdtempSync(join(tmpdir(), 'basileus-five-'));
const cluster = await startCluster(folder);
const url = cluster.url('basileus');
const pool = new pg.Pool({ connectionString: url, max: 3 });
const rows = async <T>(sql: string, values: unknown[] = []): Promise<T[]> =>
  (await pool.query(sql, values)).rows as T[];
const pause = (ms: number): Promise<void> => new Promise((r) => setTimeout(r, ms));
const seconds = (since: number): number => (performance.now() - since) / 1000;

const children: ChildProcess[] = [];
const start = (file: string, env: Record<string, string>): Promise<ChildProcess> =>
  new Promise((done, fail) => {
    const c = fork(join(root, 'dist', file), {
      env: { ...process.env, ...env },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    children.push(c);
    c.once('message', () => {
      done(c);
    });
    c.once('exit', (code) => {
      fail(new Error(`${file} ended with ${code}`));
    });
  });
const end = async (c: ChildProcess): Promise<void> => {
  if (c.exitCode !== null || c.signalCode !== null) return;
  const gone = once(c, 'exit');
  c.kill('SIGTERM');
  await gone;
};
const ports = Object.fromEntries(
  await Promise.all(markets.map(async (key) => [key, await freePort()] as [string, number])),
);
const port = await freePort();
await start('standins.mjs', {
  STANDINS_PORTS: JSON.stringify(ports),
  STANDINS_FOLDER: folder,
  STANDINS_SELL_MS: '0',
  STANDINS_WORK_MS: '300',
  STANDINS_REVIEW_MS: '500',
});
const startServer = (): Promise<ChildProcess> =>
  start('server.mjs', {
    BASILEUS_DATABASE_URL: url,
    BASILEUS_PORT: String(port),
    BASILEUS_MARKETS: JSON.stringify(
      Object.fromEntries(Object.entries(ports).map(([key, p]) => [key, `http://127.0.0.1:${p}`])),
    ),
    BASILEUS_DEMO_SIZE: String(size),
    BASILEUS_LOG: 'fatal',
  });
const call = async <T>(method: string, path: string, body?: unknown): Promise<T> => {
  const r = await fetch(`http://127.0.0.1:${port}/api${path}`, {
    method,
    headers: { 'Content-Type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  if (!r.ok) throw new Error(`${method} ${path}: ${r.status} ${(await r.text()).slice(0, 300)}`);
  return (await r.json()) as T;
};
/** Waits until a question of the database is answered by nothing. */
const untilNone = async (sql: string, every: number): Promise<void> => {
  for (;;) {
    const [left] = await rows<{ n: string }>(sql);
    if (Number(left!.n) === 0) return;
    await pause(every);
  }
};
const allTrue = (): Promise<void> =>
  untilNone(
    `select (select count(*) from unchecked) + (select count(*) from jobs where kind = 'refresh-market' and state in ('queued', 'running')) as n`,
    50,
  );

const lines: string[] = [];
const say = (line: string): void => {
  lines.push(line);
  console.log(line);
};
const count = (n: number): string => n.toLocaleString('en-GB');

try {
  const began = performance.now();
  let server = await startServer();
  await allTrue();
  const laidOut = seconds(began);
  const [{ listings }] = (await rows<{ listings: string }>('select count(*) as listings from listings')) as [
    { listings: string },
  ];
  console.log(`laid out in ${Math.round(laidOut)} s`);

  // Every market checked again, each pass in a process of its own, while nobody else is there.
  await end(server);
  let ours = 0,
    bare = 0;
  for (const key of markets) {
    // The first pass writes what later ones compare with.
    const found = await samplePair(
      { task: 'recheck', args: [url, key] },
      { task: 'recheck-reference', args: [url, key] },
      2,
    );
    ours += found.ours.seconds;
    bare += found.reference.seconds;
  }
  say(
    `| Checking all ${count(Number(listings))} listings of five markets again, with nothing new in any | ${ours.toFixed(1)} s | reading the same rows and running the same checks: ${bare.toFixed(1)} s | ${(ours / bare).toFixed(1)} |`,
  );

  server = await startServer();
  await allTrue();
  const answered: number[] = [],
    followed: number[] = [];
  for (let turn = 0; turn < 3; turn++) {
    const items = await rows<{ id: string; price: string }>(
      `select id, price from products where kind = 'variant' and price is not null order by id % 97, id limit 1000`,
    );
    const since = performance.now();
    await call('PATCH', '/products', {
      cells: items.map(({ id, price }) => ({
        id: Number(id),
        field: 'price',
        before: price,
        after: (Number(price) + 0.01).toFixed(2),
      })),
    });
    answered.push(seconds(since));
    await allTrue();
    followed.push(seconds(since));
  }
  say(
    `| Prices of a thousand items changed: answered; true on five markets | ${median(answered).toFixed(1)} s; ${median(followed).toFixed(1)} s | | |`,
  );

  // What was never sent has no price there yet.
  const sendAll = async (operation: string): Promise<void> => {
    await Promise.all(
      markets.map((key) =>
        call('POST', `/markets/${key}/dispatches`, { operation, looked: true, key: `bench-${operation}-${key}` }).catch(
          (e: unknown) => {
            if (!/nothing/i.test(String(e))) throw e;
          },
        ),
      ),
    );
    await pause(1000);
    await untilNone(
      `select (select count(*) from dispatches where state not in ('answered', 'failed', 'abandoned', 'stopped'))
        + (select count(*) from jobs where kind in ('build-dispatch', 'send-dispatch', 'refresh-market') and state in ('queued', 'running')) as n`,
      500,
    );
  };
  const first = performance.now();
  await sendAll('create');
  const [{ sent }] = (await rows<{ sent: string }>('select count(*) as sent from dispatch_lines')) as [
    { sent: string },
  ];
  say(
    `| Everything new sent to all five, ${count(Number(sent))} rows, to the last answer | ${Math.round(seconds(first))} s | | |`,
  );

  let longest = 0,
    isOver = false;
  // Somebody who looks at the overview, again and again.
  const looking = (async () => {
    while (!isOver) {
      const asked = performance.now();
      await call('GET', '/overview');
      longest = Math.max(longest, performance.now() - asked);
      await pause(500);
    }
  })();
  const changed = performance.now();
  await call('POST', '/bulk', {
    which: { clauses: [] },
    steps: priceFields.map((field) => ({ field, operation: { do: 'raise', by: 'percent', of: '3' } })),
  });
  await untilNone(`select count(*) as n from jobs where kind = 'bulk-change' and state in ('queued', 'running')`, 200);
  const written = seconds(changed);
  await allTrue();
  const checked = seconds(changed);
  const [{ last }] = (await rows<{ last: string }>('select coalesce(max(id), 0) as last from dispatches')) as [
    { last: string },
  ];
  await sendAll('price');
  const total = seconds(changed);
  isOver = true;
  await looking;
  const went = await rows<{ sku: string; differences: string }>(
    `select l.sku, l.differences::text as differences from dispatch_lines l where l.dispatch_id > $1`,
    [last],
  );
  const client = await pool.connect();
  await client.query('create table bench_bare (sku text, differences text)');
  const copying = performance.now();
  await pipeline(
    Readable.from(went.map((r) => `${r.sku}\t${r.differences.replace(/[\\\n\t]/g, ' ')}\n`)),
    client.query(copyFrom('copy bench_bare from stdin')),
  );
  const copied = seconds(copying);
  client.release();
  say(
    `| Prices of all ${count(size)} items in five currencies raised: written; true on five markets; ${count(went.length)} rows sent and answered, all from the change on | ${Math.round(written)} s; ${Math.round(checked)} s; ${Math.round(total)} s | COPY of the same rows into a bare table: ${copied.toFixed(1)} s | ${Math.round(total / copied)} |`,
  );
  writeSection(
    root,
    `## Five markets, from a change to the last answer

Made by \`npm run bench five\`, which writes this section: ${count(size)} items on five markets, the five stand-ins on the same ${cpus().length} cores, laid out in ${Math.round(laidOut)} s. One run of each row but
the second, which is the median of three.

| Work | Basileus | Reference | Ratio |
| --- | --- | --- | --- |
${lines.join('\n')}

Meanwhile somebody else waited ${Math.round(longest)} ms at the most for the overview of all markets.
`,
  );
} finally {
  for (const c of children.reverse()) await end(c);
  await pool.end();
  await cluster.stop();
  rmSync(folder, { recursive: true, force: true });
}
