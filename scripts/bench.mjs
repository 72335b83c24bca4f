// npm run bench: builds the measurements and runs them; the figures are in docs/measurements.md. `npm run bench attack` runs
// the long attacks instead, `npm run bench containers` only what containers cost, `npm run bench bulk` only changes in bulk and
// files that go out, `npm run bench questions` only questions over any field,
// `npm run bench five` five markets from a change to their answers (most of an hour).
import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { installPackages } from './lib/install.mjs';
import { root } from './lib/say.mjs';

installPackages();
const { buildAll } = await import('./lib/build.mjs');
await buildAll();
const { build } = await import('esbuild');
const { workspaces } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'));
const packages = ['.', ...workspaces].flatMap((room) => {
  const { dependencies = {}, devDependencies = {} } = JSON.parse(
    readFileSync(join(root, room, 'package.json'), 'utf8'),
  );
  return Object.keys({ ...dependencies, ...devDependencies }).filter((name) => !name.startsWith('@basileus/'));
});
await build({
  entryPoints: {
    'bench-run': join(root, 'bench/run.ts'),
    'bench-worker': join(root, 'bench/worker.ts'),
    'bench-attack': join(root, 'bench/attack.ts'),
    'bench-containers': join(root, 'bench/containers.ts'),
    'bench-bulk': join(root, 'bench/bulk.ts'),
    'bench-five': join(root, 'bench/five.ts'),
    'bench-questions': join(root, 'bench/questions.ts'),
  },
  outdir: join(root, 'dist'),
  outExtension: { '.js': '.mjs' },
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  external: packages,
  logLevel: 'error',
  absWorkingDir: root,
});
const mode = ['attack', 'containers', 'bulk', 'questions', 'five'].find((m) => process.argv.includes(m)) ?? 'run';
process.exit(
  spawnSync(process.execPath, ['--expose-gc', join(root, 'dist', `bench-${mode}.mjs`)], {
    stdio: 'inherit',
    env: { ...process.env, BASILEUS_ROOT: root },
  }).status ?? 1,
);
