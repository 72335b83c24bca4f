// Building the servers (esbuild) and the web application (Vite) into dist/; nothing is done where nothing has changed.
import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { fail, root } from './say.mjs';

const rooms = ['core', 'contract', 'server', 'web', 'standins', 'rulebooks', 'demo', 'scripts/lib'];

// Everything goes into the programs, so that they run from any folder. Aside stay the drivers of databases that we do not
// use, and piscina, which starts its threads from a file of its own; it needs no other package.
const aside = [
  'piscina',
  // Of native code, which stands beside it.
  'sharp',
  'pg-native',
  // Of native code only: without it ssh2 does with what Node.js has.
  'cpu-features',
  '*.node',
  'mysql',
  'mysql2',
  'mariadb',
  'mariadb/callback',
  'sqlite3',
  'better-sqlite3',
  'oracledb',
  'tedious',
];
/** Bundled packages that are CommonJS look for these. */
const asCommonJs = `import { createRequire as makeRequire } from 'node:module';
import { fileURLToPath as toPath } from 'node:url';
const require = makeRequire(import.meta.url), __filename = toPath(import.meta.url), __dirname = toPath(new URL('.', import.meta.url));`;

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

/** Keys of the stand-ins: a folder each, beside the frame that they share. */
const listStandIns = () =>
  readdirSync(join(root, 'standins'), { withFileTypes: true })
    .filter((e) => e.isDirectory() && existsSync(join(root, 'standins', e.name, 'server.ts')))
    .map((e) => e.name)
    .sort();

/** The packages of sharp: itself, what it needs, and the library for this machine. */
const listNative = () =>
  ['sharp', 'detect-libc', 'semver', ...readdirSync(join(root, 'node_modules/@img')).map((n) => `@img/${n}`)].filter(
    (name) => existsSync(join(root, 'node_modules', name)),
  );

/** Languages of the interface are files beside the programs: one that is added is there with the next start. */
function copyLanguages(dist) {
  rmSync(join(dist, 'languages'), { recursive: true, force: true });
  cpSync(join(root, 'languages'), join(dist, 'languages'), { recursive: true });
}

export async function buildAll() {
  const dist = join(root, 'dist'),
    mark = join(dist, 'fingerprint');
  copyLanguages(dist);
  const now = fingerprint();
  if (existsSync(mark) && readFileSync(mark, 'utf8') === now) return;
  mkdirSync(dist, { recursive: true });
  const { build } = await import('esbuild');
  try {
    await build({
      entryPoints: {
        server: join(root, 'server/main.ts'),
        thread: join(root, 'server/thread.ts'),
        standins: join(root, 'standins/main.ts'),
      },
      outdir: dist,
      outExtension: { '.js': '.mjs' },
      bundle: true,
      platform: 'node',
      target: 'node20',
      format: 'esm',
      sourcemap: true,
      external: aside,
      banner: { js: asCommonJs },
      logLevel: 'error',
      absWorkingDir: root,
    });
    // The stand-ins are named by their folders; who starts them learns of them here.
    writeFileSync(join(dist, 'standins.json'), JSON.stringify(listStandIns()));
    for (const name of ['piscina', ...listNative()])
      cpSync(join(root, 'node_modules', name), join(dist, 'node_modules', name), {
        recursive: true,
        // Links to programs are for people who build.
        filter: (path) => basename(path) !== '.bin',
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
