import { createServer } from 'node:http';
import pino from 'pino';
import { createApp } from './app';
import { connect, migrate } from './database';
import { loadDemo } from './demo-data';
import { sendDispatchJob, watchShelf, watchShelfJob } from './dispatches/jobs';
import { startEventHub } from './events';
import { applyImportJob } from './imports/apply';
import { planImportJob } from './imports/plan';
import { type JobKind, startWorker } from './jobs';
import { refreshMarketJob } from './listings/jobs';
import { hasStale, refreshLater } from './listings/stale';
import { loadMarkets } from './markets/load';

const log = pino({ level: process.env['BASILEUS_LOG'] ?? 'warn' });
const url = process.env['BASILEUS_DATABASE_URL'];
if (!url) {
  console.error('BASILEUS_DATABASE_URL is not set; start Basileus with “npm start”, which sets it.');
  process.exit(1);
}
const role = process.env['BASILEUS_ROLE'] ?? 'all';
const port = Number(process.env['BASILEUS_PORT'] ?? 4600),
  host = process.env['BASILEUS_HOST'] ?? '127.0.0.1';

const db = connect(url);
await migrate(db);
if (process.env['BASILEUS_DEMO'] !== 'no')
  await loadDemo(
    db,
    {
      size: Number(process.env['BASILEUS_DEMO_SIZE'] ?? 1200),
      standInUrl: process.env['BASILEUS_QUILLHAVEN_URL'] ?? '',
    },
    log,
  );

const kinds = [
  planImportJob,
  applyImportJob,
  refreshMarketJob,
  sendDispatchJob,
  watchShelfJob,
] as unknown as JobKind<never>[];
const worker = role === 'web' ? undefined : await startWorker(db, url, kinds, log);
if (worker)
  for (const market of await loadMarkets(db)) {
    await watchShelf(db, market.key);
    if (await hasStale(db, market)) await refreshLater(db, market);
  }

const hub = role === 'worker' ? undefined : await startEventHub(url, log);
const server = hub && createServer(createApp(db, hub, log, process.env['BASILEUS_WEB']));
server?.on('error', (error: NodeJS.ErrnoException) => {
  console.error(
    error.code === 'EADDRINUSE'
      ? `Port ${port} is taken by another program; choose another with BASILEUS_PORT.`
      : `The web server cannot start: ${error.message}`,
  );
  process.exit(1);
});
server?.listen(port, host, () => {
  process.send?.('ready');
});
if (!server) process.send?.('ready');

let isEnding = false;
async function end(): Promise<void> {
  if (isEnding) return;
  isEnding = true;
  server?.close();
  server?.closeAllConnections();
  await hub?.stop();
  await worker?.stop();
  await db.destroy();
  process.exit(0);
}
process.on('SIGTERM', () => void end());
process.on('SIGINT', () => void end());
process.on('disconnect', () => void end());
