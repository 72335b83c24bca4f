// Everything measured, written as a table to docs/measurements.md.
import { type ChildProcess, fork } from 'node:child_process';
import { createWriteStream, mkdtempSync, rmSync } from 'node:fs';
import { cpus, tmpdir, totalmem } from 'node:os';
import { join } from 'node:path';
import { once } from 'node:events';
import pg from 'pg';
import { makeSheet } from './data';
import { measureTable } from './frames';
import { type Measured, samplePair } from './measure';
import { writeSection } from './section';

const root = process.env['BASILEUS_ROOT']!;
const lib = async <T>(name: string): Promise<T> => (await import(join(root, 'scripts/lib', name))) as T;
const { startCluster, freePort } = await lib<{
  startCluster: (f: string) => Promise<{ url: (n: string) => string; stop: () => Promise<void> }>;
  freePort: () => Promise<number>;
}>('postgres.mjs');
const { ensureChromium } = await lib<{ ensureChromium: () => string }>('install.mjs');
const folder = mkdtempSync(join(tmpdir(), 'basileus-bench-'));
const sheet = join(folder, 'sheet.csv');
const out = createWriteStream(sheet);
for (const chunk of makeSheet(100_000)) if (!out.write(chunk)) await once(out, 'drain');
out.end();
await once(out, 'finish');

const cluster = await startCluster(folder);
const admin = new pg.Client(cluster.url('postgres'));
await admin.connect();
for (const name of ['bench_ours', 'bench_copy', 'bench_table']) await admin.query(`create database ${name}`);
await admin.end();

const measured: Measured[] = [];
const put = async (
  name: string,
  ours: string,
  reference: string,
  referenceName: string,
  aim: number | undefined,
  a: string[] = [],
  b: string[] = a,
  times = 5,
) => {
  const samples = await samplePair({ task: ours, args: a }, { task: reference, args: b }, times);
  measured.push({ name, ...samples, referenceName, unit: 'rows', amount: 100_000, aim });
  console.log(name, samples);
};
await put('Reading 100,000 x 40 of CSV into rows', 'read', 'read-reference', 'papaparse, streaming', 1.3, [sheet]);
await put(
  'Reading the same and planning every row',
  'read-understand',
  'read-reference',
  'papaparse, streaming',
  undefined,
  [sheet],
);
await put(
  'Checking 100,000 listings on the constraints that a schema can hold',
  'check-same',
  'check-reference',
  'ajv compiled, all errors, unicode off',
  1.5,
);
await put(
  'Checking 100,000 listings with all checks',
  'check',
  'check-reference',
  'the same ajv, which does less',
  undefined,
);
await put(
  'Writing 100,000 rows of the full form',
  'write',
  'write-reference',
  'papaparse.unparse by 1,000 rows, cells given',
  1.3,
);
await put(
  'Storing 100,000 products with stock and listings',
  'store',
  'store-reference',
  'COPY of the same rows, and stock',
  2,
  [cluster.url('bench_ours')],
  [cluster.url('bench_copy')],
);

const start = (file: string, env: Record<string, string>): Promise<ChildProcess> =>
  new Promise((done) => {
    const c = fork(join(root, 'dist', file), {
      env: { ...process.env, ...env },
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    });
    c.once('message', () => {
      done(c);
    });
  });
const marketPort = await freePort(),
  port = await freePort();
const market = await start('standins.mjs', {
  STANDINS_PORTS: JSON.stringify({ quillhaven: marketPort }),
  STANDINS_SELL_MS: '0',
});
const loading = Date.now();
const server = await start('server.mjs', {
  BASILEUS_DATABASE_URL: cluster.url('bench_table'),
  BASILEUS_PORT: String(port),
  BASILEUS_WEB: join(root, 'dist/web'),
  BASILEUS_MARKETS: JSON.stringify({ quillhaven: `http://127.0.0.1:${marketPort}` }),
  BASILEUS_DEMO_SIZE: '100000',
});
const demoSeconds = (Date.now() - loading) / 1000;
const frames = await measureTable(`http://127.0.0.1:${port}`, ensureChromium());
console.log({ demoSeconds, frames });
for (const c of [server, market]) {
  c.kill('SIGTERM');
  await once(c, 'exit');
}
// The first pass over a market that was never gone through again writes what later ones compare with.
const house = [cluster.url('bench_table')];
await put(
  'Checking every listing of a market again',
  'recheck',
  'recheck-reference',
  'reading the same rows and running the same checks',
  3,
  house,
  house,
  3,
);
await put(
  'An import of 100,000 rows x 20 columns, each of them changed, from upload to written',
  'import',
  'import-reference',
  'COPY of the same rows into a bare table',
  4,
  house,
  house,
  3,
);

const f = (n: number) => n.toFixed(2);
const wordAim = ({ aim, ours, reference }: Measured): string =>
  aim === undefined ? 'not set' : `at most ${aim}: ${ours.seconds / reference.seconds <= aim ? 'met' : 'missed'}`;
const lines = measured.map(
  (m) =>
    `| ${m.name} | ${f(m.ours.seconds)} s, ${Math.round(m.amount / m.ours.seconds).toLocaleString('en-GB')} ${m.unit}/s, ${m.ours.peakMb} MB | ${m.referenceName}: ${f(m.reference.seconds)} s, ${m.reference.peakMb} MB | ${f(m.ours.seconds / m.reference.seconds)} | ${wordAim(m)} |`,
);
writeSection(
  root,
  `## Speed and memory

Made by \`npm run bench\`, which writes this section. Medians of five runs (three of the last two), each in a process of its own, in turn with a general-purpose
reference on the same work. Machine: ${cpus().length} cores, ${Math.round(totalmem() / 2 ** 30)} GB, Node.js ${process.versions.node}. Peak memory is resident memory of the whole process,
with the rows of the checking and writing tasks held in memory by both sides.

| Work | Basileus | Reference | Ratio | Aim |
| --- | --- | --- | --- | --- |
${lines.join('\n')}

The catalog table over 100,000 SKUs in headless Chromium without a graphics card: first rows ${frames.openMs} ms after the address
was entered. Frames while scrolling three rows a frame, medians of ${frames.rounds} rounds of ${frames.count} frames, each beside a plain page of as many
cells that stand still in the document, which shows what the machine itself allows:

| Frame times | Basileus | The plain page | Aim |
| --- | --- | --- | --- |
| half at most | ${frames.ours.p50} ms | ${frames.plain.p50} ms | |
| 95 % at most | ${frames.ours.p95} ms | ${frames.plain.p95} ms | under 20 ms: ${frames.ours.p95 < 20 ? 'met' : 'missed'} |
| 99 % at most | ${frames.ours.p99} ms | ${frames.plain.p99} ms | |

Building, loading and checking that demo took ${Math.round(demoSeconds)} s.
`,
);
await cluster.stop();
rmSync(folder, { recursive: true, force: true });
