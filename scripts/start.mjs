// Starts everything: installs what is missing, the database, the stand-in market, the server; prints one line with the
// address when all of it answers. Ctrl+C ends all of it. Started as root, root only installs and builds.
import { mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { dirname, join, relative, resolve } from 'node:path';
import { claimFolder } from './lib/alone.mjs';
import { installPackages } from './lib/install.mjs';
import { keepUp, Program } from './lib/parts.mjs';
import { fail, root } from './lib/say.mjs';
import { defaultData, prepareData } from './lib/user.mjs';

const major = Number(process.versions.node.split('.')[0]);
if (major < 20) fail(`Basileus needs Node.js 20 or later; this is ${process.versions.node}.`);
const port = Number(process.env.BASILEUS_PORT ?? 4600),
  host = process.env.BASILEUS_HOST ?? '127.0.0.1',
  isOpen = !/^(localhost|127(\.\d{1,3}){3}|\[?::1\]?)$/i.test(host);
if (!Number.isInteger(port) || port < 1 || port > 65535)
  fail(`BASILEUS_PORT is “${process.env.BASILEUS_PORT}”; give a port number such as 4600.`);
if (port < 1024 && process.getuid?.() === 0)
  fail(
    `Port ${port} can only be opened by root, and nothing here answers the net as root; choose one of 1024 or more.`,
  );
if (isOpen && process.env.BASILEUS_OPEN !== 'yes')
  fail(
    `BASILEUS_HOST is ${host}, which other machines can reach, and there is no sign-in: whoever reaches it may read and change everything. Set BASILEUS_OPEN=yes if that is meant.`,
  );
await new Promise((done) => {
  const probe = createServer();
  probe.once('error', (e) =>
    fail(
      e.code === 'EADDRINUSE'
        ? `Port ${port} is taken by another program; choose another, for example BASILEUS_PORT=${port + 1} npm start.`
        : `${host} and port ${port} cannot be listened on (${e.code}); look at BASILEUS_HOST and BASILEUS_PORT.`,
    ),
  );
  probe.listen(port, host, () => probe.close(done));
});

installPackages();
const { buildAll } = await import('./lib/build.mjs');
const { Cluster, freePort } = await import('./lib/postgres.mjs');
const { ensurePostgres } = await import('./lib/install.mjs');
const databaseUrl = process.env.BASILEUS_DATABASE_URL || undefined;
if (!databaseUrl) ensurePostgres();
await buildAll();

const data = resolve(process.env.BASILEUS_DATA ?? defaultData(root));
const dist = join(root, 'dist'),
  standIns = JSON.parse(readFileSync(join(dist, 'standins.json'), 'utf8'));
const { isRoot, canRunNode, become } = prepareData(data, standIns);
const files = isRoot ? readTree(dist) : [],
  node = canRunNode ? undefined : readFileSync(process.execPath);
become();
if (!(await claimFolder()))
  fail(`Another Basileus is running with the data in ${data}; end it, or name another folder with BASILEUS_DATA.`);
// What root built may lie where nobody else may look; the programs run from a copy that their user owns.
const app = isRoot ? join(data, 'app') : dist;
if (isRoot) {
  rmSync(app, { recursive: true, force: true });
  for (const [name, bytes] of files) {
    mkdirSync(dirname(join(app, name)), { recursive: true });
    writeFileSync(join(app, name), bytes);
  }
}
const nodePath = node ? join(app, 'node') : process.execPath;
if (node) writeFileSync(nodePath, node, { mode: 0o700 });

function readTree(folder) {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile())
    .map((entry) => join(entry.parentPath ?? entry.path, entry.name))
    .map((path) => [relative(folder, path), readFileSync(path)]);
}

if (isOpen)
  console.log(
    `Basileus listens on ${host}: every machine that can reach this one can read and change everything, because there is no sign-in, and what is sent can be read on the way. Behind it must stand something that lets in only whom you mean.`,
  );

const cluster = databaseUrl ? undefined : new Cluster(join(data, 'postgres'));
const ports = {};
for (const key of standIns) ports[key] = await freePort();
const market = new Program(
  join(app, 'standins.mjs'),
  () => ({ STANDINS_PORTS: JSON.stringify(ports), STANDINS_FOLDER: data }),
  nodePath,
);
const server = new Program(
  join(app, 'server.mjs'),
  () => ({
    BASILEUS_DATABASE_URL: databaseUrl ?? cluster.url(),
    BASILEUS_PORT: String(port),
    BASILEUS_HOST: host,
    BASILEUS_WEB: join(app, 'web'),
    BASILEUS_LANGUAGES: process.env.BASILEUS_LANGUAGES ?? join(app, 'languages'),
    BASILEUS_MARKETS: JSON.stringify(
      Object.fromEntries(standIns.map((key) => [key, `http://127.0.0.1:${ports[key]}`])),
    ),
  }),
  nodePath,
);

const kept = [];
let isEnding = false;
async function end(code) {
  if (isEnding) return;
  isEnding = true;
  for (const k of kept) k.end();
  await Promise.all([server.stop(), market.stop()]);
  await cluster?.stop();
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void end(0));
// Whoever read our words may have gone; that is no reason to end.
for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);
process.on('uncaughtException', (error) => {
  console.error(error.stack);
});

const shown = host.includes(':') && !host.startsWith('[') ? `[${host}]` : host;
const startServer = () =>
  kept.push(
    keepUp('The server', (onEnd) => server.start(onEnd), {
      onUp: (times) =>
        console.log(times === 1 ? `Basileus is ready at http://${shown}:${port}` : 'The server answers again.'),
      onHopeless: () => void end(1),
    }),
  );
kept.push(keepUp('The stand-in markets', (onEnd) => market.start(onEnd), { onHopeless: () => void end(1) }));
if (cluster) {
  let failures = 0;
  kept.push(
    keepUp(
      'The database',
      async (onEnd) => {
        try {
          await cluster.make();
          const before = cluster.port;
          // Another program may have taken the port while the database was away; the server is then told anew.
          await cluster.start(onEnd, { newPort: failures >= 5 });
          failures = 0;
          if (before && before !== cluster.port) await server.stop();
        } catch (error) {
          failures++;
          throw error;
        }
      },
      {
        onUp: (times) => {
          if (times === 1) startServer();
          else console.log('The database answers again.');
        },
      },
    ),
  );
} else startServer();
