// Runs each test once as it is and notes which turns it meets; after the tests of a file, each turn that is still alive is taken
// while those tests that meet it run again, the quickest first.
import { appendFileSync, existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join, relative, sep } from 'node:path';
import fc from 'fast-check';
import { getFn } from 'vitest/suite';
import { TestRunner } from 'vitest';

const { MUTANTS_LOG: log, MUTANTS_LOGS: logs, MUTANTS_ROOT: root, MUTANTS_ROOM: which } = process.env;
/** Where each file's turns begin, to know the room of one. */
const turns = JSON.parse(readFileSync(process.env.MUTANTS_TURNS, 'utf8'));
const count = turns.length + 1;
/** How long the tests of a turn run together at most, in their own milliseconds: those of its room, and those of another. */
const mostOwn = 3000,
  mostOther = 700,
  mostMs = 10_000;
const state = { met: new Uint8Array(count), active: Number(process.env.MUTANTS_ACTIVE ?? 0), calls: 0, most: Infinity };
/** True where one turn is taken from the start, and the tests run as they are. */
const isFixed = state.active !== 0;
class Endless extends Error {}
globalThis.__turn = (n) => {
  state.met[n] = 1;
  if (state.active === 0) {
    state.calls++;
    return false;
  }
  if (++state.calls > state.most) throw new Endless('This turn never ends.');
  return n === state.active;
};
// A failure is enough; the smallest example of it is of no use here.
fc.configureGlobal({ endOnFailure: true });

const say = (line) => {
  appendFileSync(log, `${line}\n`);
};
/** What is settled already, by whichever lane, or was tried with the tests of this file by the process before this one. */
function listSettled(path) {
  const settled = new Set();
  for (const name of readdirSync(logs).filter((f) => f.endsWith('.log')))
    for (const line of readFileSync(join(logs, name), 'utf8').split('\n')) {
      const [what, n, at] = line.split(' ');
      if (what === 'killed' || what === 'endless' || (what === 'try' && at === path)) settled.add(Number(n));
    }
  return settled;
}
const soon = (promise) =>
  new Promise((done, fail) => {
    const timer = setTimeout(() => {
      fail(new Endless('This takes too long.'));
    }, mostMs);
    promise.then(done, fail).finally(() => {
      clearTimeout(timer);
    });
  });
const isWell = async (test) => {
  try {
    await soon(Promise.resolve(test.fn()));
    return true;
  } catch {
    return false;
  }
};
const roomOf = (path) => path.split('/')[1];

/** What a process before this one has found of the tests of a file, by their order; undefined where none has. */
const keptOf = (path) => join(logs, `${path.replaceAll('/', '.')}.json`);
const pathOf = (file) => relative(root, file).split(sep).join('/');

export default class extends TestRunner {
  #tests = [];
  /** The tests of this file as they were found by the process before. */
  #kept;
  async runTask(test) {
    const fn = () => getFn(test)();
    if (isFixed) return fn();
    if (this.#tests.length === 0) {
      const path = keptOf(pathOf(test.file.filepath));
      this.#kept = existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')) : undefined;
    }
    if (this.#kept) {
      this.#tests.push({ ...this.#kept[this.#tests.length], fn });
      return;
    }
    // What was met before the first test of a file, its loading has met.
    if (this.#tests.length === 0) say(`load ${[...state.met.keys()].filter((n) => state.met[n]).join(',')}`);
    state.met.fill(0);
    state.calls = 0;
    const began = performance.now();
    await fn();
    const ms = performance.now() - began,
      met = [];
    for (let n = 1; n < count; n++) if (state.met[n]) met.push(n);
    this.#tests.push({ name: test.name, fn, ms, met, calls: state.calls });
  }
  async onAfterRunSuite(suite) {
    await super.onAfterRunSuite(suite);
    if (suite.filepath === undefined || isFixed) return;
    const path = pathOf(suite.filepath),
      room = roomOf(path);
    const tests = this.#tests;
    this.#tests = [];
    if (!this.#kept) {
      // A test that does not pass twice says nothing of a turn.
      for (const t of tests) {
        t.isSound = await isWell(t);
        if (!t.isSound) say(`once ${path} ${t.name}`);
      }
      writeFileSync(keptOf(path), JSON.stringify(tests));
    }
    const byTurn = new Map();
    for (const t of tests.filter((x) => x.isSound).sort((a, b) => a.ms - b.ms))
      for (const n of t.met) byTurn.set(n, (byTurn.get(n) ?? []).concat(t));
    const settled = listSettled(path);
    for (const [n, list] of byTurn) {
      const isOwn = roomOf(turns[n - 1].path) === room;
      if (settled.has(n) || isOwn !== (which === 'own')) continue;
      say(`try ${n} ${path}`);
      let spent = 0;
      const most = isOwn ? mostOwn : mostOther;
      for (const t of list) {
        if (spent > most) {
          say(`cut ${n}`);
          break;
        }
        spent += t.ms;
        state.active = n;
        state.calls = 0;
        state.most = t.calls * 20 + 200_000;
        const isAlive = await isWell(t);
        state.active = 0;
        state.most = Infinity;
        if (isAlive) continue;
        say(`killed ${n} ${path} ${t.name}`);
        if (!(await isWell(t))) {
          // What this turn left in a memory of the code would fail every test after it.
          say(`left ${n}`);
          process.exit(3);
        }
        break;
      }
    }
    say(`done ${path}`);
  }
}
