// Wrong turns of the core, all of them: every operator, comparison, condition and constant by itself, and whether a test of the
// core notices. All turns stand in one copy behind switches, and only tests that meet a turn are run with it. A turn that only
// the loading of the code meets is tried by a process that takes it from the start, as many as BASILEUS_STATIC says.
// A turn counts as found where tests of its room fail with it, or else those of the others; a test that was made to run longer
// than a second or three in all is not asked, so that the figure is the least that it may be.
// What is not found is written to .build/mutants.txt. BASILEUS_IN is a pattern of the paths of the code.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import {
  appendFileSync,
  cpSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readTurns } from './turns.mjs';

const here = dirname(fileURLToPath(import.meta.url)),
  root = resolve(here, '../..');
const within = new RegExp(process.env.BASILEUS_IN ?? '');
const lanes = 2,
  quietMs = 90_000;

function listFiles(folder, isWanted) {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) return name === 'node_modules' ? [] : listFiles(path, isWanted);
    return isWanted(path) ? [path] : [];
  });
}
const isTest = (path) => /\.test\.ts$/.test(path);
const isCode = (path) => /\.ts$/.test(path) && !/(\.test|\.d|index)\.ts$/.test(path) && !/\/core\/tests\//.test(path);

const copy = mkdtempSync(join(tmpdir(), 'basileus-mutants-'));
for (const name of ['core', 'contract', 'rulebooks', 'docs', 'tsconfig.base.json', 'package.json'])
  cpSync(join(root, name), join(copy, name), { recursive: true });
writeFileSync(join(copy, 'tsconfig.json'), '{ "extends": "./tsconfig.base.json" }');
// Rooms are found by their names as packages, which must be those of the copy.
mkdirSync(join(copy, 'node_modules/@basileus'), { recursive: true });
for (const name of readdirSync(join(root, 'node_modules')))
  if (name !== '@basileus' && name !== '.bin')
    symlinkSync(join(root, 'node_modules', name), join(copy, 'node_modules', name));
for (const name of ['core', 'contract', 'rulebooks'])
  symlinkSync(join(copy, name), join(copy, 'node_modules/@basileus', name));

const turns = [];
for (const path of listFiles(join(copy, 'core'), isCode)) {
  const at = relative(copy, path);
  // What a turn leaves in a memory would be found by tests after it: nothing is remembered.
  const text = readFileSync(path, 'utf8').replace(/(const | {2})(mostRemembered|mostKept) = \d+/g, '$1$2 = 0');
  const read = readTurns(at, text, turns.length + 1);
  turns.push(...read.turns);
  writeFileSync(path, read.text);
}
const turnsFile = join(copy, 'turns.json'),
  logs = join(copy, 'logs');
writeFileSync(turnsFile, JSON.stringify(turns));
mkdirSync(logs);
const paths = { MUTANTS_LOGS: logs, MUTANTS_ROOT: copy, MUTANTS_TURNS: turnsFile };
cpSync(join(here, 'runner.mjs'), join(copy, 'runner.mjs'));
// The switch must be there before the code is.
writeFileSync(
  join(copy, 'vitest.config.mjs'),
  `export default { root: ${JSON.stringify(copy)}, test: { environment: 'node', isolate: false, maxWorkers: 1, fileParallelism: false,
    testTimeout: 100000000, runner: ${JSON.stringify(join(copy, 'runner.mjs'))}, include: ['core/**/*.test.ts'] } };`,
);
console.log(`${turns.length} turns`);

const settledBy = new Map();
function readLogs() {
  settledBy.clear();
  for (const name of readdirSync(logs).filter((f) => f.endsWith('.log')))
    for (const line of readFileSync(join(logs, name), 'utf8').split('\n')) {
      const [what, n] = line.split(' ');
      if (what === 'killed' || what === 'endless') settledBy.set(Number(n), line);
    }
}

/** Runs test files with vitest until all are done, starting anew where a turn never ends. */
async function runLane(name, files, room) {
  const log = join(logs, `${name}-${room}.log`);
  writeFileSync(log, '');
  for (let left = files; left.length > 0;) {
    const child = spawn(
      process.execPath,
      [
        '--max-old-space-size=4096',
        join(root, 'node_modules/vitest/vitest.mjs'),
        'run',
        ...left.map((f) => join(copy, f)),
      ],
      {
        cwd: copy,
        stdio: ['ignore', 'pipe', 'pipe'],
        detached: true,
        env: {
          ...process.env,
          CI: '',
          ...paths,
          MUTANTS_LOG: log,
          MUTANTS_ROOM: room,
        },
      },
    );
    let said = '';
    const hear = (d) => {
      said = (said + d).slice(-4000);
    };
    child.stdout.on('data', hear);
    child.stderr.on('data', hear);
    let heard = Date.now(),
      size = 0,
      isHung = false;
    const before = readFileSync(log, 'utf8').length;
    const timer = setInterval(() => {
      const now = statSync(log).size;
      if (now !== size) {
        size = now;
        heard = Date.now();
      } else if (Date.now() - heard > quietMs) {
        isHung = true;
        process.kill(-child.pid, 'SIGKILL');
      }
    }, 1000);
    await new Promise((done) => child.once('exit', done));
    clearInterval(timer);
    try {
      process.kill(-child.pid, 'SIGKILL');
    } catch {
      /* gone */
    }
    const lines = readFileSync(log, 'utf8').split('\n').filter(Boolean);
    const last = lines.at(-1) ?? '';
    if (readFileSync(log, 'utf8').length === before) throw new Error(`Nothing ran in lane ${name}: ${said}`);
    // What was being tried when the process ended, ended it.
    if (last.startsWith('try ')) appendFileSync(log, `endless ${last.split(' ')[1]} ${isHung ? 'hung' : 'ended'}\n`);
    const done = new Set(lines.filter((l) => l.startsWith('done ')).map((l) => l.slice(5)));
    const next = left.filter((f) => !done.has(f));
    if (next.length === left.length && !last.startsWith('try ') && !last.startsWith('left ')) {
      console.log(`lane ${name} leaves ${next[0]}: ${said.slice(-1500)}`);
      next.shift();
    }
    left = next;
    readLogs();
    console.log(`${name}: ${left.length} files left, ${settledBy.size} killed`);
  }
}

const tests = listFiles(join(copy, 'core'), isTest).map((p) => relative(copy, p));
const wanted = tests.filter((p) => within.test(p));
// First by the tests of the same room, which find most; what they leave, by those of the others.
for (const room of ['own', 'other']) {
  await Promise.all(
    Array.from({ length: lanes }, (_, i) =>
      runLane(
        `lane${i}`,
        wanted.filter((_, k) => k % lanes === i),
        room,
      ),
    ),
  );
  readLogs();
  console.log(`by tests of ${room} rooms: ${settledBy.size} killed`);
}

/** Turns that are met while the code is loaded, and those that tests meet while they run. */
const loaded = new Set(),
  tried = new Set();
for (const name of readdirSync(logs).filter((f) => f.endsWith('.log')))
  for (const line of readFileSync(join(logs, name), 'utf8').split('\n')) {
    const [what, n] = line.split(' ');
    if (what === 'try') tried.add(Number(n));
    if (what === 'load') for (const one of n.split(',')) loaded.add(Number(one));
  }

/** True where a turn that is taken from the start makes the tests of its room fail. */
async function failsFromStart({ n, path }) {
  const room = path.split('/')[1];
  const files = tests.filter((t) => t.split('/')[1] === room).map((f) => join(copy, f));
  const child = spawn(process.execPath, [join(root, 'node_modules/vitest/vitest.mjs'), 'run', '--bail=1', ...files], {
    cwd: copy,
    stdio: 'ignore',
    timeout: quietMs,
    env: {
      ...process.env,
      CI: '',
      ...paths,
      MUTANTS_LOG: join(logs, 'none'),
      MUTANTS_ROOM: 'own',
      MUTANTS_ACTIVE: String(n),
    },
  });
  return (await once(child, 'exit'))[0] !== 0;
}
/** The turns among these that make tests fail when they are taken from the start. */
async function findFromStart(list) {
  const found = new Set(),
    left = [...list];
  await Promise.all(
    Array.from({ length: lanes }, async () => {
      for (let turn = left.pop(); turn; turn = left.pop()) if (await failsFromStart(turn)) found.add(turn.n);
    }),
  );
  return found;
}
const mine = turns.filter((t) => within.test(t.path));
const fixed = mine.filter((t) => loaded.has(t.n) && !tried.has(t.n));
const step = Math.max(1, fixed.length / Number(process.env.BASILEUS_STATIC ?? 60));
const sample = fixed.filter((_, i) => Math.floor(i / step) !== Math.floor((i - 1) / step) || i === 0);
const ofSample = await findFromStart(sample);
for (const t of sample) if (!ofSample.has(t.n)) console.log(`alive from the start: ${t.path}:${t.line} ${t.what}`);
const inTests = mine.filter((t) => !fixed.includes(t));
// What a file of tests makes once for all its tests is made before any of them runs: such turns are given another chance.
const unsettled = inTests.filter((t) => !settledBy.has(t.n));
const early = await findFromStart(unsettled.filter((t) => loaded.has(t.n)));
const alive = unsettled.filter((t) => !early.has(t.n));
mkdirSync(join(root, '.build'), { recursive: true });
writeFileSync(
  join(root, '.build/mutants.txt'),
  alive.map((t) => `${tried.has(t.n) ? 'alive' : 'unmet'} ${t.path}:${t.line} ${t.what}`).join('\n') + '\n',
);
const percent = (a, b) => `${a} of ${b} (${((100 * a) / Math.max(1, b)).toFixed(1)} %)`;
console.log(
  `found by tests: ${percent(inTests.length - alive.length, inTests.length)}; met by none: ${alive.filter((t) => !tried.has(t.n)).length}`,
);
console.log(`met by loading alone: ${fixed.length}; found of a sample: ${percent(ofSample.size, sample.length)}`);
if (process.env.BASILEUS_KEEP) console.log(copy);
else rmSync(copy, { recursive: true, force: true });
