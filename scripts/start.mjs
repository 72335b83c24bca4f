// Starts everything: installs what is missing, the database, the stand-in market, the server; prints one line with the
// address when all of it answers. Ctrl+C ends all of it.
import { fork } from 'node:child_process';
import { chmodSync, mkdirSync, statSync } from 'node:fs';
import { createServer } from 'node:net';
import { join, resolve } from 'node:path';
import { installPackages } from './lib/install.mjs';
import { fail, root } from './lib/say.mjs';

const major = Number(process.versions.node.split('.')[0]);
if (major < 20) fail(`Basileus needs Node.js 20 or later; this is ${process.versions.node}.`);
const port = Number(process.env.BASILEUS_PORT ?? 4600),
  host = process.env.BASILEUS_HOST ?? '127.0.0.1';
if (!Number.isInteger(port) || port < 1 || port > 65535)
  fail(`BASILEUS_PORT is “${process.env.BASILEUS_PORT}”; give a port number such as 4600.`);
await new Promise((done) => {
  const probe = createServer();
  probe.once('error', () =>
    fail(`Port ${port} is taken by another program; choose another, for example BASILEUS_PORT=${port + 1} npm start.`),
  );
  probe.listen(port, host, () => probe.close(done));
});

installPackages();
const data = resolve(process.env.BASILEUS_DATA ?? join(root, '.data'));
mkdirSync(data, { recursive: true });
// The database runs as a user of its own and must be able to pass through this folder.
if (process.getuid?.() === 0) chmodSync(data, statSync(data).mode | 0o011);
const { buildAll } = await import('./lib/build.mjs');
const { startCluster, freePort } = await import('./lib/postgres.mjs');

const children = [];
let cluster,
  isEnding = false;
async function end(code) {
  if (isEnding) return;
  isEnding = true;
  await Promise.all(
    children
      .filter((c) => c.exitCode === null && c.signalCode === null)
      .map(
        (c) =>
          new Promise((done) => {
            c.once('exit', done);
            c.kill('SIGTERM');
            setTimeout(() => c.kill('SIGKILL'), 8000).unref();
          }),
      ),
  );
  await cluster?.stop();
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void end(0));

/** A child of ours, in its own group so that Ctrl+C reaches it through us; started again when it dies by itself. */
function startChild(file, env, onReady) {
  let startedAt = Date.now();
  const child = fork(join(root, 'dist', file), {
    env: { ...process.env, NODE_OPTIONS: '--enable-source-maps', ...env },
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    detached: true,
  });
  children.push(child);
  child.on('message', onReady);
  child.once('exit', (code) => {
    children.splice(children.indexOf(child), 1);
    if (isEnding) return;
    if (Date.now() - startedAt < 3000) {
      void end(code ?? 1);
      return;
    }
    startChild(file, env, onReady);
  });
}

await buildAll();
let databaseUrl = process.env.BASILEUS_DATABASE_URL;
if (!databaseUrl) {
  cluster = await startCluster(join(data, 'postgres'));
  databaseUrl = cluster.url();
}
const marketPort = await freePort();
startChild(
  'quillhaven.mjs',
  { QUILLHAVEN_PORT: String(marketPort), QUILLHAVEN_FILE: join(data, 'quillhaven.json') },
  () => {
    if (children.some((c) => c.spawnargs.some((a) => a.endsWith('server.mjs')))) return;
    let isTold = false;
    startChild(
      'server.mjs',
      {
        BASILEUS_DATABASE_URL: databaseUrl,
        BASILEUS_PORT: String(port),
        BASILEUS_HOST: host,
        BASILEUS_WEB: join(root, 'dist/web'),
        BASILEUS_QUILLHAVEN_URL: `http://127.0.0.1:${marketPort}`,
      },
      () => {
        if (!isTold) {
          isTold = true;
          console.log(`Basileus is ready at http://${host}:${port}`);
        }
      },
    );
  },
);
