// Everything that proves the project, from a fresh machine: types, lint, boundaries, unit, server and end-to-end tests.
// The last line counts them all: N passed, N failed.
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { constants, setPriority } from 'node:os';
import { join } from 'node:path';
import { installPackages } from './lib/install.mjs';
import { root } from './lib/say.mjs';

installPackages();
const { ensureChromium, ensurePostgres, ensurePython, ensureSpreadsheet } = await import('./lib/install.mjs');
ensurePostgres();
ensureChromium();
ensurePython();
ensureSpreadsheet();

const children = new Set();
for (const signal of ['SIGINT', 'SIGTERM'])
  process.on(signal, () => {
    for (const c of children) c.kill('SIGTERM');
    process.exit(130);
  });
/** `behind` work gets what the rest leaves of the processor. */
const run = (title, args, { behind = false } = {}) =>
  new Promise((done) => {
    const started = Date.now();
    console.log(`\n== ${title}`);
    const child = spawn(process.execPath, args, {
      cwd: root,
      stdio: ['ignore', 'inherit', 'inherit'],
      env: { ...process.env, NODE_OPTIONS: '--max-old-space-size=4096' },
    });
    children.add(child);
    if (behind) setPriority(child.pid, constants.priority.PRIORITY_LOW);
    child.once('exit', (code) => {
      children.delete(child);
      console.log(`   ${title}: ${code === 0 ? 'good' : 'FAILED'} in ${((Date.now() - started) / 1000).toFixed(1)} s`);
      done(code === 0);
    });
  });
const bin = (path) => join(root, 'node_modules', path);

let passed = 0,
  failed = 0;
const count = (isGood) => {
  if (isGood) passed++;
  else failed++;
};
const cruise = (title, config, ...rooms) =>
  run(title, [bin('dependency-cruiser/bin/dependency-cruise.mjs'), ...rooms, '--config', config], { behind: true });
count(await run('Types', [bin('typescript-7/bin/tsc'), '-b']));
// What reads the code alone takes the pauses of the tests, one after the other: those of the server wait for a third of their time.
const readings = (async () => {
  count(await run('Lint', [bin('eslint/bin/eslint.js'), '.', '--max-warnings', '0'], { behind: true }));
  count(await run('Promises', [bin('oxlint/bin/oxlint'), '--type-aware', '--deny-warnings'], { behind: true }));
  count(
    await run('Format', [bin('prettier/bin/prettier.cjs'), '--check', '--log-level', 'warn', '.'], { behind: true }),
  );
  count(
    await cruise(
      'Boundaries',
      '.dependency-cruiser.cjs',
      'core',
      'contract',
      'rulebooks',
      'standins',
      'demo',
      'server',
      'web',
    ),
  );
  count(await cruise('Features', '.dependency-cruiser.features.cjs', 'server', 'web'));
})();

const report = join(root, '.build/tests.json');
mkdirSync(join(root, '.build'), { recursive: true });
for (const project of ['unit', 'server', 'e2e']) {
  rmSync(report, { force: true });
  const isGood = await run(`Tests: ${project}`, [
    bin('vitest/vitest.mjs'),
    'run',
    '--project',
    project,
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${report}`,
  ]);
  try {
    const r = JSON.parse(readFileSync(report, 'utf8'));
    passed += r.numPassedTests;
    failed += r.numFailedTests;
    if (!isGood && r.numFailedTests === 0) failed++;
  } catch {
    failed++;
  }
}
await readings;
console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
