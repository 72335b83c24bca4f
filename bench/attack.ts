// The long attacks on the running application: hostile files, wrong requests, kills. What fails is told with its seed; the
// figures go to docs/measurements.md.
import { type ChildProcess, fork } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { cpus, tmpdir, totalmem } from 'node:os';
import { join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import { createRandom } from '../core/tests/random';
import { makeHostileFile } from '../core/tests/hostile-files';
import pg from 'pg';
import { ask } from '../server/tests/ask';
import { makeHostileRequest } from '../server/tests/hostile-requests';
import { writeSection } from './section';

const root = process.env['BASILEUS_ROOT']!;
const sizeOf = (name: string, usual: number): number => Number(process.env[`BASILEUS_ATTACK_${name}`] ?? usual);
const files = sizeOf('FILES', 1000),
  requests = sizeOf('REQUESTS', 10_000),
  kills = sizeOf('KILLS', 200),
  seed = sizeOf('SEED', 20_261_125);
const { startCluster, freePort } = (await import(join(root, 'scripts/lib/postgres.mjs'))) as {
  startCluster: (f: string) => Promise<{ url: (n: string) => string; stop: () => Promise<void> }>;
  freePort: () => Promise<number>;
};
const folder = mkdtempSync(join(tmpdir(), 'basileus-attack-'));
const cluster = await startCluster(folder);
const pool = new pg.Pool({ connectionString: cluster.url('basileus'), max: 3 });
pool.on('error', () => undefined);
const rows = async <T>(sql: string, values: unknown[] = []): Promise<T[]> =>
  (await pool.query(sql, values)).rows as T[];
const pause = (ms: number): Promise<void> => new Promise((r) => setTimeout(r, ms));

const start = (file: string, env: Record<string, string>): Promise<ChildProcess> =>
  new Promise((done) => {
    const c = fork(join(root, 'dist', file), {
      env: { ...process.env, ...env },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    c.once('message', () => {
      done(c);
    });
  });
const marketPort = await freePort(),
  port = await freePort(),
  base = `http://127.0.0.1:${port}`;
const market = await start('standins.mjs', {
  STANDINS_PORTS: JSON.stringify({ quillhaven: marketPort }),
  STANDINS_SELL_MS: '0',
  STANDINS_WORK_MS: '300',
});
let server: ChildProcess,
  crashes = 0,
  isKilling = false;
const startServer = async (): Promise<void> => {
  server = await start('server.mjs', {
    BASILEUS_DATABASE_URL: cluster.url('basileus'),
    BASILEUS_PORT: String(port),
    BASILEUS_MARKETS: JSON.stringify({ quillhaven: `http://127.0.0.1:${marketPort}` }),
    BASILEUS_DEMO_SIZE: '120',
    BASILEUS_LOG: 'fatal',
  });
  const child = server;
  child.once('exit', () => {
    if (!isKilling) {
      crashes++;
      void startServer();
    }
  });
};
await startServer();

const faults: string[] = [];
const note = (what: string): void => {
  faults.push(what);
  console.error(what);
};

/** How long another person waits for an answer meanwhile. */
interface Waits {
  p50: number;
  p99: number;
  most: number;
}
function watchOthers(): { stop: () => Waits } {
  const waits: number[] = [];
  let isOver = false;
  const look = async (): Promise<void> => {
    while (!isOver) {
      const began = performance.now();
      await fetch(`${base}/api/products?limit=1`).then(
        (r) => r.text(),
        () => undefined,
      );
      waits.push(performance.now() - began);
      await pause(20);
    }
  };
  void look();
  return {
    stop: () => {
      isOver = true;
      waits.sort((a, b) => a - b);
      const at = (share: number): number =>
        Math.round(waits[Math.min(waits.length - 1, Math.floor(waits.length * share))] ?? 0);
      return { p50: at(0.5), p99: at(0.99), most: at(1) };
    },
  };
}

async function attackWithFiles(): Promise<{
  read: number;
  refused: number;
  waits: Waits;
}> {
  const random = createRandom(seed),
    others = watchOthers();
  let read = 0,
    refused = 0;
  for (let i = 0; i < files; i++) {
    const file = makeHostileFile(random);
    const form = new FormData();
    form.append('file', new Blob([file.bytes as BlobPart]), file.name);
    const about = `file ${i} (${file.about})`;
    const r = await fetch(`${base}/api/imports`, { method: 'POST', body: form });
    const body = (await r.json()) as { id: number; message?: string; remedy?: string | null };
    if (r.status >= 500) note(`${about}: ${r.status}`);
    if (r.status !== 200) {
      if (!body.message || !body.remedy) note(`${about}: refused without words`);
      refused++;
      continue;
    }
    for (let wait = 0; ; wait++) {
      const [found] = await rows<{ state: string; fault: string | null; counts: Record<string, number> }>(
        'select state, fault, counts from imports where id = $1',
        [body.id],
      );
      if (found?.state === 'planned') {
        const c = found.counts;
        if (c['rows']! + c['above']! + c['blank']! + c['notes']! !== c['lines'])
          note(`${about}: rows vanished, ${JSON.stringify(c)}`);
        if (c['create']! + c['update']! + c['same']! + c['refuse']! !== c['rows'])
          note(`${about}: rows uncounted, ${JSON.stringify(c)}`);
        read++;
        break;
      }
      if (found?.state === 'failed') {
        if (/on our side/.test(found.fault ?? '')) note(`${about}: ${found.fault ?? ''}`);
        refused++;
        break;
      }
      if (wait > 1200) {
        note(`${about}: still ${found?.state ?? 'gone'} after a minute`);
        break;
      }
      await pause(50);
    }
    await fetch(`${base}/api/imports/${body.id}`, { method: 'DELETE' });
    if (i % 100 === 99) console.log(`${i + 1} files, ${faults.length} faults`);
  }
  return { read, refused, waits: others.stop() };
}

async function attackWithRequests(): Promise<{
  byStatus: Map<number, number>;
  waits: Waits;
}> {
  const random = createRandom(seed + 1),
    others = watchOthers(),
    byStatus = new Map<number, number>();
  for (let i = 0; i < requests; i++) {
    const q = makeHostileRequest(random);
    try {
      const r = await ask(base, q.method, q.path, q.headers, q.body);
      byStatus.set(r.status, (byStatus.get(r.status) ?? 0) + 1);
      if (r.status >= 500 && r.status !== 502) note(`request ${i} (${q.about}): ${r.status} ${r.text.slice(0, 100)}`);
    } catch (error) {
      if (!/ECONNRESET|socket hang up/.test(String(error))) note(`request ${i} (${q.about}): ${String(error)}`);
    }
    if (i % 2000 === 1999) console.log(`${i + 1} requests, ${faults.length} faults`);
  }
  return { byStatus, waits: others.stop() };
}

/** Things made to fill the memory or to hold everybody up, each with the longest wait of another person meanwhile. */
async function attackWithBombs(): Promise<{ name: string; outcome: string; waits: Waits }[]> {
  const done: { name: string; outcome: string; waits: Waits }[] = [];
  const json = { 'Content-Type': 'application/json' };
  const upload = (name: string, bytes: Uint8Array | string) => async (): Promise<string> => {
    const form = new FormData();
    form.append('file', new Blob([bytes as BlobPart]), name);
    const r = await fetch(`${base}/api/imports`, { method: 'POST', body: form });
    const body = (await r.json()) as { id: number; message?: string };
    if (r.status !== 200) return `${r.status}: ${body.message ?? ''}`;
    for (;;) {
      const [found] = await rows<{ state: string; fault: string | null; counts: Record<string, number> }>(
        'select state, fault, counts from imports where id = $1',
        [body.id],
      );
      if (found!.state !== 'planning') {
        await fetch(`${base}/api/imports/${body.id}`, { method: 'DELETE' });
        return found!.fault ?? `read, ${found!.counts['rows'] ?? 0} rows, ${found!.counts['refuse'] ?? 0} refused`;
      }
      await pause(50);
    }
  };
  const bombs: [string, () => Promise<string>][] = [
    [
      '16,384 column names over 200 rows',
      upload(
        'wide.csv',
        `SKU,${Array.from({ length: 16_383 }, (_, i) => `Name of column ${i}`).join(',')}\n${Array.from({ length: 200 }, (_, i) => `W-${i}${',x'.repeat(16_383)}`).join('\n')}\n`,
      ),
    ],
    [
      'headers of 200,000 letters',
      upload('long.csv', `SKU,${Array.from({ length: 30 }, (_, i) => `${'ab '.repeat(66_000)}${i}`).join(',')}\nA,1\n`),
    ],
    ['a cell ZZZZZZ3', upload('far.xlsx', makeBook('<row r="3"><c r="ZZZZZZ3"><v>1</v></c></row>'))],
    ['<row/> a million times', upload('rows.xlsx', makeBook('<row/>'.repeat(1_100_000)))],
    [
      '600 MB of texts in a workbook',
      upload('texts.xlsx', makeBook('<row><c t="s"><v>0</v></c></row>', makeTexts(600_000_000))),
    ],
    [
      '50,000 refused cells in one request',
      async () => {
        const cells = Array.from({ length: 50_000 }, (_, i) => ({
          id: i + 1,
          field: 'price',
          before: null,
          after: `no price ${i}`,
        }));
        const r = await fetch(`${base}/api/products`, {
          method: 'PATCH',
          body: JSON.stringify({ cells }),
          headers: json,
        });
        return `${r.status}, ${((await r.json()) as { refused?: unknown[] }).refused?.length ?? 0} refused`;
      },
    ],
    [
      '40 MB of JSON in chunks without a length',
      async () => {
        const piece = Buffer.from(`"${'x'.repeat(1_000_000)}",`);
        const body = new ReadableStream({
          async start(to) {
            to.enqueue(Buffer.from('['));
            for (let i = 0; i < 40; i++) {
              to.enqueue(piece);
              await pause(5);
            }
            to.close();
          },
        });
        try {
          const r = await fetch(`${base}/api/products`, {
            method: 'POST',
            body,
            headers: json,
            duplex: 'half',
          } as RequestInit);
          return `${r.status}: ${((await r.json()) as { message: string }).message}`;
        } catch (error) {
          return `the line was cut (${String((error as Error).cause ?? error).slice(0, 60)})`;
        }
      },
    ],
    [
      'a price of 100,000 spaces, a title of 150,000 “@”',
      upload(
        'spaces.csv',
        `SKU,Title,Price\nS-1,${'@'.repeat(30_000)},${' '.repeat(30_000)}1\nS-2,${'www. a-'.repeat(4000)},3\n`,
      ),
    ],
  ];
  for (const [name, run] of bombs) {
    // Lines that the server closed while this program was building bombs are opened again.
    for (let i = 0; i < 10; i++)
      await fetch(`${base}/api/health`).then(
        (r) => r.text(),
        () => undefined,
      );
    const others = watchOthers();
    let outcome: string;
    try {
      outcome = await run();
    } catch (error) {
      outcome = String(error);
      note(`${name}: ${outcome}`);
    }
    const waits = others.stop();
    if (waits.most > mostWaitMs) note(`${name}: another person waited ${waits.most} ms`);
    done.push({ name, outcome: outcome.slice(0, 200), waits });
    console.log(done.at(-1));
  }
  return done;
}

/** What nobody should wait longer for, whatever another does meanwhile. */
const mostWaitMs = 200;

/** Texts that pack to a hundredth: as alike as honest ones may be, and no more. */
function makeTexts(bytes: number): Uint8Array {
  const random = createRandom(7),
    common = 'A pan of cast iron for every hob, seasoned by hand and made to last. '.repeat(14);
  const block = Array.from(
    { length: 1000 },
    () => `<si><t>${common}${Math.floor(random() * 1e9).toString(36)}</t></si>`,
  ).join('');
  return Buffer.alloc(Math.ceil(bytes / block.length) * block.length, block);
}

/** A workbook of one sheet. Noise beside it keeps the packing within what is taken for honest. */
function makeBook(sheet: string, texts: Uint8Array = new Uint8Array()): Uint8Array {
  const noise = Uint8Array.from({ length: 150_000 }, createByte(createRandom(3)));
  return zipSync({
    'xl/media/noise.bin': noise,
    'xl/workbook.xml': strToU8('<workbook xmlns:r="r"><sheets><sheet name="One" r:id="r1"/></sheets></workbook>'),
    'xl/_rels/workbook.xml.rels': strToU8(
      '<Relationships><Relationship Id="r1" Target="worksheets/sheet1.xml"/></Relationships>',
    ),
    'xl/sharedStrings.xml': Buffer.concat([Buffer.from('<sst>'), texts, Buffer.from('</sst>')]),
    'xl/worksheets/sheet1.xml': strToU8(`<worksheet><sheetData>${sheet}</sheetData></worksheet>`),
  });
}
const createByte = (random: () => number) => (): number => Math.floor(random() * 256);

/** Imports and sendings over and over, the server killed at random moments, until each has come to its end. */
async function attackWithKills(): Promise<{ imports: number; sends: number; longest: number }> {
  const random = createRandom(seed + 2);
  let done = 0,
    imports = 0,
    sends = 0,
    longest = 0;
  const kill = async (): Promise<void> => {
    await pause(100 + random() * 1500);
    isKilling = true;
    const dead = new Promise((r) => server.once('exit', r));
    server.kill('SIGKILL');
    await dead;
    await startServer();
    isKilling = false;
    done++;
    if (done % 20 === 0) console.log(`${done} kills, ${faults.length} faults`);
  };
  const reach = async (what: string, ask_: () => Promise<boolean>): Promise<void> => {
    const began = Date.now();
    while (!(await ask_())) {
      if (Date.now() - began > 90_000) {
        note(`${what}: not at its end after 90 s`);
        return;
      }
      await pause(100);
    }
    longest = Math.max(longest, Date.now() - began);
  };
  const post = async <T>(path: string, body: unknown): Promise<T | undefined> =>
    fetch(`${base}/api${path}`, {
      method: 'POST',
      body: JSON.stringify(body),
      headers: { 'Content-Type': 'application/json' },
    }).then(
      (r) => (r.ok ? (r.json() as Promise<T>) : undefined),
      () => undefined,
    );
  for (let round = 0; done < kills; round++) {
    const name = `kill-${round}`,
      count = 3000;
    const text = `SKU,Title,Price,Stock\n${Array.from({ length: count }, (_, i) => `KR${round}-${i},Item ${i},${(i % 90) + 1}.50,${i % 40}`).join('\n')}\n`;
    const form = new FormData();
    form.append('file', new Blob([text]), `${name}.csv`);
    const { id } = (await (await fetch(`${base}/api/imports`, { method: 'POST', body: form })).json()) as {
      id: number;
    };
    const stateOf = async (): Promise<string> =>
      (await rows<{ state: string }>('select state from imports where id = $1', [id]))[0]!.state;
    await kill();
    await reach(`${name}, planning`, async () => (await stateOf()) === 'planned');
    await post(`/imports/${id}/apply`, {});
    for (let k = 0; k < 3 && (await stateOf()) !== 'applied'; k++) await kill();
    await reach(`${name}, writing`, async () => (await stateOf()) === 'applied');
    imports++;
    const [n] = await rows<{ products: number; stock: number; cells: number }>(
      `select (select count(*)::int from products where sku like $1) as products,
        (select count(*)::int from stock s join products p on p.id = s.product_id where p.sku like $1) as stock,
        (select sum(jsonb_array_length(c.changes))::int from change_items c join change_sets s on s.id = c.change_set_id where s.title = $2) as cells`,
      [`KR${round}-%`, `Import ${name}.csv`],
    );
    if (n!.products !== count || n!.stock !== count || n!.cells !== 3 * count)
      note(`${name}: ${JSON.stringify(n)} of ${count}`);
    // A change of prices of what is live, sent and killed.
    await rows(
      `update products set price = price + 0.01, version = version + 1
        where id in (select product_id from listings where market_state = 'live' and in_flight = 0 limit 5)`,
    );
    const key = `attack-${seed}-${round}`;
    await kill();
    await reach(
      `${name}, checking`,
      async () =>
        (
          await rows(
            `select 1 from listings l join products p on p.id = l.product_id where l.product_version <> p.version limit 1`,
          )
        ).length === 0,
    );
    const sent = await post<{ dispatch: { id: number } }>('/markets/quillhaven/dispatches', {
      operation: 'price',
      key,
      looked: true,
    });
    if (sent) {
      await kill();
      await reach(
        `${name}, sending`,
        async () =>
          (await rows<{ state: string }>('select state from dispatches where id = $1', [sent.dispatch.id]))[0]!
            .state === 'answered',
      );
      sends++;
    }
    // What an import took back leaves no trace, so that the next round begins alike.
    await rows(`delete from products where sku like $1`, [`KR${round}-%`]);
  }
  const stuck = await rows(
    `select 1 from listings where in_flight <> 0 union all select 1 from dispatch_lines where state = 'waiting'`,
  );
  if (stuck.length) note(`${stuck.length} rows wait for ever`);
  const twice = await rows<{ n: number }>(
    `select count(*)::int as n from (select key from dispatches group by key having count(*) > 1) x`,
  );
  if (twice[0]!.n) note(`${twice[0]!.n} keys were dispatched twice`);
  return { imports, sends, longest };
}

const began = Date.now();
const byFiles = await attackWithFiles();
console.log(byFiles);
const byRequests = await attackWithRequests();
console.log(byRequests);
const byBombs = await attackWithBombs();
const crashesBefore = crashes;
const byKills = await attackWithKills();
console.log(byKills);
isKilling = true;
server!.kill('SIGTERM');
market.kill('SIGTERM');
await pool.end();
await cluster.stop();
rmSync(folder, { recursive: true, force: true });

const wordWaits = (w: { p50: number; p99: number; most: number }): string =>
  `half of the answers to another person within ${w.p50} ms, 99 % within ${w.p99} ms, the longest ${w.most} ms`;
writeSection(
  root,
  `## Attacks

Made by \`npm run bench attack\` on the built application (seed ${seed}; ${cpus().length} cores, ${Math.round(totalmem() / 2 ** 30)} GB), which writes this section; \`npm test\` runs
short forms of the same. ${Math.round((Date.now() - began) / 60_000)} minutes.

| Attack | Outcome |
| --- | --- |
| ${files.toLocaleString('en-GB')} hostile files uploaded and planned | ${byFiles.read} read, every row counted; ${byFiles.refused} refused with a sentence; ${wordWaits(byFiles.waits)} |
| ${requests.toLocaleString('en-GB')} wrong requests | ${[...byRequests.byStatus]
    .sort(([a], [b]) => a - b)
    .map(([s, n]) => `${n} × ${s}`)
    .join(', ')}; ${wordWaits(byRequests.waits)} |
| ${kills} kills of the server while it read, wrote, checked and sent | ${byKills.imports} imports and ${byKills.sends} sendings, each at its end; the longest wait for an end ${(byKills.longest / 1000).toFixed(1)} s |
${byBombs.map((b) => `| ${b.name} | ${b.outcome}; the longest wait of another person ${b.waits.most} ms |`).join('\n')}
| Crashes by themselves | ${crashesBefore} |
| Faults | ${faults.length === 0 ? 'none' : faults.length} |
${
  faults.length
    ? `\n${faults
        .slice(0, 20)
        .map((f) => `- ${f}`)
        .join('\n')}\n`
    : ''
}`,
);
console.log(`${files + requests + kills - faults.length} passed, ${faults.length} failed`);
process.exit(faults.length === 0 ? 0 : 1);
