// Building the servers (esbuild) and the web application (Vite) into dist/; nothing is done where nothing has changed.
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fail, root } from './say.mjs';

const rooms = ['core', 'contract', 'server', 'web', 'standins', 'rulebooks', 'demo', 'scripts/lib'];

function* listFiles(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) {
      if (!['node_modules', 'dist'].includes(entry.name)) yield* listFiles(path);
    } else yield path;
  }
}

function fingerprint() {
  const hash = createHash('sha256');
  for (const room of rooms)
    for (const file of listFiles(join(root, room))) {
      const s = statSync(file);
      hash.update(`${file}:${s.size}:`).update(s.size < 2_000_000 ? readFileSync(file) : '');
    }
  return hash.update(readFileSync(join(root, 'package-lock.json'))).digest('hex');
}

export async function buildAll() {
  const dist = join(root, 'dist'),
    mark = join(dist, 'fingerprint');
  const now = fingerprint();
  if (existsSync(mark) && readFileSync(mark, 'utf8') === now) return;
  mkdirSync(dist, { recursive: true });
  const { build } = await import('esbuild');
  const external = Object.keys(JSON.parse(readFileSync(join(root, 'package.json'), 'utf8')).dependencies);
  try {
    await build({
      entryPoints: { server: join(root, 'server/main.ts'), quillhaven: join(root, 'standins/quillhaven/main.ts') },
      outdir: dist,
      outExtension: { '.js': '.mjs' },
      bundle: true,
      platform: 'node',
      target: 'node20',
      format: 'esm',
      sourcemap: true,
      external,
      logLevel: 'error',
      absWorkingDir: root,
    });
    // Under a test runner NODE_ENV says “test”, and the application would be built with the development half of React.
    const before = process.env.NODE_ENV;
    process.env.NODE_ENV = 'production';
    const vite = await import('vite');
    await vite.build({ root: join(root, 'web'), configFile: join(root, 'web/vite.config.ts'), logLevel: 'error' });
    if (before === undefined) delete process.env.NODE_ENV;
    else process.env.NODE_ENV = before;
  } catch (error) {
    fail(`The application could not be built: ${error.message}`);
  }
  writeFileSync(mark, now);
}
