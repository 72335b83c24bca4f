import { createServer } from 'node:http';
import pino from 'pino';
import { allJobs } from './all-jobs';
import { createApp } from './app';
import { connect, type Db, migrate } from './database';
import { loadDemo } from './demo-data';
import { watchShelf } from './dispatches';
import { startEventHub, startListener } from './events';
import { isAway, isLoopback, listKnownHosts } from './http';
import { openQueues, startThreads, startWorker } from './jobs';
import { hasStale, refreshLater } from './listings';
import { loadMarkets } from './markets';
import { wakePictures } from './pictures';

const log = pino({ level: process.env['BASILEUS_LOG'] ?? 'warn' });
/** Starting again would not help: the code says so (sysexits.h, EX_CONFIG) to whoever keeps this program up. */
const refuse = (sentence: string): never => {
  console.error(sentence);
  process.exit(78);
};
const url =
  process.env['BASILEUS_DATABASE_URL'] ??
  refuse('BASILEUS_DATABASE_URL is not set; start Basileus with “npm start”, which sets it.');
const role = process.env['BASILEUS_ROLE'] ?? 'all';
const port = Number(process.env['BASILEUS_PORT'] ?? 4600),
  host = process.env['BASILEUS_HOST'] ?? '127.0.0.1';
if (!isLoopback(host) && process.env['BASILEUS_OPEN'] !== 'yes')
  refuse(
    `BASILEUS_HOST is ${host}, which other machines can reach, and there is no sign-in: whoever reaches it may read and change everything. Set BASILEUS_OPEN=yes if that is meant.`,
  );

let isEnding = false,
  end: (code: number) => void = (code) => process.exit(code);

// The last resort. A promise that nobody heard leaves nothing half done that a transaction does not undo; an error that
// nobody caught may have left anything, so that this process ends in order and is started anew.
process.on('unhandledRejection', (error) => {
  log.error({ error: error instanceof Error ? error.stack : String(error) }, 'a promise was rejected and nobody heard');
});
process.on('uncaughtException', (error: NodeJS.ErrnoException) => {
  log.fatal({ error: error.stack }, 'an error that nobody caught');
  if (['ECONNRESET', 'EPIPE', 'ECONNABORTED', 'ERR_STREAM_PREMATURE_CLOSE'].includes(error.code ?? '')) return;
  end(1);
});

const db = connect(url);
const pause = (ms: number): Promise<void> => new Promise((r) => setTimeout(r, ms));

/** A database that is still starting, or away, is waited for. */
async function whenThere<T>(work: (db: Db) => Promise<T>): Promise<T> {
  for (let attempt = 0; ; attempt++)
    try {
      return await work(db);
    } catch (error) {
      if (!isAway(error) || isEnding) throw error;
      if (attempt % 10 === 0) log.warn('the database is not there yet; it is waited for');
      await pause(Math.min(2000, 200 * 2 ** attempt));
    }
}
await whenThere(migrate);
await whenThere((d) => openQueues(d, allJobs));
if (process.env['BASILEUS_DEMO'] !== 'no')
  await loadDemo(
    db,
    {
      size: Number(process.env['BASILEUS_DEMO_SIZE'] ?? 1200),
      standIns: JSON.parse(process.env['BASILEUS_MARKETS'] ?? '{}') as Record<string, string>,
    },
    log,
  );

const listener = await startListener(url, log);
const threads = startThreads(new URL('./thread.mjs', import.meta.url).pathname, url);
const worker = role === 'web' ? undefined : await startWorker({ db, listener, kinds: allJobs, log, threads });
if (worker) {
  await wakePictures(db);
  for (const market of await loadMarkets(db)) {
    await watchShelf(db, market.key);
    if (await hasStale(db, market)) await refreshLater(db, market);
  }
}

const hub = role === 'worker' ? undefined : startEventHub(listener);
const server =
  hub &&
  createServer(
    { requestTimeout: 600_000, headersTimeout: 20_000, maxHeaderSize: 16_384 },
    createApp({
      db,
      hub,
      threads,
      log,
      webFolder: process.env['BASILEUS_WEB'],
      languageFolder: process.env['BASILEUS_LANGUAGES'],
      knownHosts: listKnownHosts(host, process.env['BASILEUS_HOSTS']),
    }),
  );
server?.on('error', (error: NodeJS.ErrnoException) => {
  refuse(
    error.code === 'EADDRINUSE'
      ? `Port ${port} is taken by another program; choose another with BASILEUS_PORT.`
      : error.code === 'EACCES'
        ? `Port ${port} is kept for the system; choose one of 1024 or more with BASILEUS_PORT.`
        : `The web server cannot start: ${error.message}`,
  );
});
/** Whoever started us is told that we are up, and then every two seconds that we do not stand still. */
const tellUp = (): void => {
  process.send?.('ready');
  setInterval(() => process.send?.('beat'), 2000).unref();
};
if (server) server.listen(port, host, tellUp);
else tellUp();

end = (code) => {
  if (isEnding) return;
  isEnding = true;
  // Whatever hangs, the process ends: what it was doing is taken up by its silence.
  setTimeout(() => process.exit(code), 7000).unref();
  void (async () => {
    server?.close();
    hub?.stop();
    server?.closeAllConnections();
    await worker?.stop();
    await threads.stop();
    await listener.stop();
    await db.destroy();
  })()
    .catch((error: unknown) => {
      log.warn({ error: String(error) }, 'ending');
    })
    .finally(() => process.exit(code));
};
process.on('SIGTERM', () => {
  end(0);
});
process.on('SIGINT', () => {
  end(0);
});
process.on('disconnect', () => {
  end(0);
});
