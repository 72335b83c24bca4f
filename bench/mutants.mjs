// Mutants of the core: one small wrong turn at a time in a copy of it, and whether the tests beside the code notice. What
// survives is a line that no test holds. `BASILEUS_MUTANTS` is how many are tried (all: a night), `BASILEUS_SEED` which, and
// `BASILEUS_IN` a pattern of the paths in which (core/pictures).
import { fork } from 'node:child_process';
import {
  cpSync,
  existsSync,
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
import ts from 'typescript';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '..');
const most = Number(process.env.BASILEUS_MUTANTS ?? 200) || Infinity;
const seed = Number(process.env.BASILEUS_SEED ?? 1);
const atOnce = 2,
  mostMs = 90_000;

const swaps = new Map([
  [ts.SyntaxKind.EqualsEqualsEqualsToken, '!=='],
  [ts.SyntaxKind.ExclamationEqualsEqualsToken, '==='],
  [ts.SyntaxKind.LessThanToken, '<='],
  [ts.SyntaxKind.LessThanEqualsToken, '<'],
  [ts.SyntaxKind.GreaterThanToken, '>='],
  [ts.SyntaxKind.GreaterThanEqualsToken, '>'],
  [ts.SyntaxKind.AmpersandAmpersandToken, '||'],
  [ts.SyntaxKind.BarBarToken, '&&'],
  [ts.SyntaxKind.PlusToken, '-'],
  [ts.SyntaxKind.MinusToken, '+'],
  [ts.SyntaxKind.AsteriskToken, '/'],
  [ts.SyntaxKind.SlashToken, '*'],
]);

/** Every file of the core that does something, tests and their builders left out. */
function listFiles(folder) {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) return name === 'tests' || name === 'node_modules' ? [] : listFiles(path);
    return /\.ts$/.test(name) && !/(\.test|\.d|index)\.ts$/.test(name) ? [path] : [];
  });
}

/** The wrong turns that a file can take, each as a piece of text put in the place of another. */
function listMutants(path) {
  const text = readFileSync(path, 'utf8');
  const source = ts.createSourceFile(path, text, ts.ScriptTarget.ES2023, true);
  const mutants = [];
  const put = (node, by, what) => {
    mutants.push({ path, from: node.getStart(source), to: node.getEnd(), by, what });
  };
  const visit = (node) => {
    if (ts.isTypeNode(node) || ts.isInterfaceDeclaration(node) || ts.isImportDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const by = swaps.get(node.operatorToken.kind);
      // Texts that are put together say the same thing in tests that compare them; numbers do not.
      const isText = [node.left, node.right].some((s) => ts.isStringLiteralLike(s) || ts.isTemplateExpression(s));
      if (by && !(isText && node.operatorToken.kind === ts.SyntaxKind.PlusToken))
        put(node.operatorToken, by, `${node.operatorToken.getText(source)} to ${by}`);
    } else if (ts.isPrefixUnaryExpression(node) && node.operator === ts.SyntaxKind.ExclamationToken)
      put(node, node.operand.getText(source), 'a negation taken away');
    else if (node.kind === ts.SyntaxKind.TrueKeyword) put(node, 'false', 'true to false');
    else if (node.kind === ts.SyntaxKind.FalseKeyword) put(node, 'true', 'false to true');
    else if (ts.isNumericLiteral(node)) put(node, `(${node.text} + 1)`, `${node.text} and one`);
    else if (ts.isIfStatement(node))
      put(node.expression, `!(${node.expression.getText(source)})`, 'a condition turned');
    else if (ts.isConditionalExpression(node))
      put(node.condition, `!(${node.condition.getText(source)})`, 'a choice turned');
    else if (ts.isExpressionStatement(node) && ts.isCallExpression(node.expression))
      put(node, ';', `${node.expression.expression.getText(source).slice(0, 30)}() left out`);
    ts.forEachChild(node, visit);
  };
  visit(source);
  return mutants.map((m) => ({ ...m, line: source.getLineAndCharacterOfPosition(m.from).line + 1 }));
}

/** Numbers from a seed, so that a run can be made again (mulberry32, public domain). */
function createRandom(state) {
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A copy of the tree in which one mutant at a time lives. */
function makeCopy() {
  const copy = mkdtempSync(join(tmpdir(), 'basileus-mutants-'));
  for (const name of ['core', 'rulebooks', 'vitest.config.ts', 'tsconfig.base.json', 'package.json'])
    cpSync(join(root, name), join(copy, name), { recursive: true });
  // The other rooms are not there, and nothing needs to be built.
  writeFileSync(join(copy, 'tsconfig.json'), '{ "extends": "./tsconfig.base.json" }');
  symlinkSync(join(root, 'node_modules'), join(copy, 'node_modules'));
  return copy;
}

/** Answers for one copy, in a process that keeps what vitest has transformed: a run is then little more than its tests. */
async function runLane(copy) {
  const { createVitest } = await import('vitest/node');
  const silent = {};
  const vitest = await createVitest(
    'test',
    { watch: true, root: copy, dir: copy, project: ['unit'], bail: 1, maxWorkers: 1, reporters: [silent] },
    { server: { watch: null } },
  );
  /** True where these tests fail. */
  const fails = async (files) => {
    const specs = await vitest.globTestSpecifications(files);
    if (specs.length === 0) return false;
    // What a run before this one left would be counted for files that its first failure kept from running.
    vitest.state.filesMap.clear();
    const { testModules, unhandledErrors } = await vitest.runTestSpecifications(specs, false);
    return unhandledErrors.length > 0 || testModules.some((m) => m.state() === 'failed');
  };
  process.on('message', async ({ path, text }) => {
    const target = join(copy, path),
      before = readFileSync(target, 'utf8');
    const put = (t) => {
      writeFileSync(target, t);
      vitest.invalidateFile(target);
    };
    put(text);
    // The test of the very file finds most, in a part of the time.
    const beside = target.replace(/\.ts$/, '.test.ts');
    const isKilled =
      (existsSync(beside) && (await fails([beside]))) ||
      (await fails([join(copy, path.split('/').slice(0, 2).join('/')) + '/']));
    put(before);
    process.send({ isKilled });
  });
  process.send({ isKilled: false });
}

/** Tries mutants of one copy by a process that is started anew where one of them never ends. */
function openLane(copy) {
  let child;
  const listen = () =>
    new Promise((done) => {
      const close = () => {
        process.kill(-child.pid, 'SIGKILL');
        child = undefined;
        done(true);
      };
      const timer = setTimeout(close, mostMs);
      child.once('message', ({ isKilled }) => {
        clearTimeout(timer);
        done(isKilled);
      });
    });
  return {
    /** True where the tests beside the code fail, or never end. */
    async isKilled(path, before, text) {
      if (!child) {
        writeFileSync(join(copy, path), before);
        child = fork(fileURLToPath(import.meta.url), [copy], { cwd: copy, detached: true, stdio: 'ignore' });
        if (await listen()) throw new Error('The tests do not start in the copy.');
      }
      child.send({ path, text });
      return listen();
    },
    close() {
      if (child) process.kill(-child.pid, 'SIGKILL');
    },
  };
}

async function tryMutants() {
  const random = createRandom(seed);
  const within = new RegExp(process.env.BASILEUS_IN ?? '');
  const all = listFiles(join(root, 'core'))
    .filter((path) => within.test(relative(root, path)))
    .flatMap(listMutants);
  const chosen = all
    .map((m) => ({ m, by: random() }))
    .sort((a, b) => a.by - b.by)
    .slice(0, most)
    .map(({ m }) => m);
  const survivors = [];
  let tried = 0;
  const sound = new Set();
  const work = async () => {
    const copy = makeCopy(),
      lane = openLane(copy);
    try {
      for (let m = chosen.shift(); m; m = chosen.shift()) {
        const path = relative(root, m.path),
          room = path.split('/')[1];
        const text = readFileSync(m.path, 'utf8');
        // A run in which the tests fail without a mutant would kill all of them.
        if (!sound.has(room)) {
          if (await lane.isKilled(path, text, text)) throw new Error(`The tests of ${room} fail in the copy as it is.`);
          sound.add(room);
        }
        tried++;
        if (!(await lane.isKilled(path, text, text.slice(0, m.from) + m.by + text.slice(m.to)))) {
          survivors.push(`${path}:${m.line} ${m.what}`);
          console.log(`survived  ${survivors.at(-1)}`);
        }
      }
    } finally {
      lane.close();
      rmSync(copy, { recursive: true, force: true });
    }
  };
  await Promise.all(Array.from({ length: atOnce }, work));
  const killed = tried - survivors.length;
  console.log(
    `${killed} of ${tried} mutants killed (${((100 * killed) / tried).toFixed(1)} %), of ${all.length} that there are`,
  );
}

if (process.send) await runLane(process.argv[2]);
else await tryMutants();
