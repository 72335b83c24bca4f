// A house for one test file: its own database with a small demo, the server in this process, the real stand-in market.
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import {
  type BookDocument as CedarpostBook,
  type RunningMarket as RunningCedarpost,
  startMarket as startCedarpost,
} from '@basileus/standins/cedarpost';
import {
  type BookDocument as LumbaraBook,
  type RunningMarket as RunningLumbara,
  startMarket as startLumbara,
} from '@basileus/standins/lumbara';
import { type RunningSystem, startSystem } from '@basileus/standins/countinghouse';
import type { BookDocument } from '@basileus/standins/quillhaven';
import { type RunningMarket, startMarket } from '@basileus/standins/quillhaven';
import {
  type BookDocument as TorgvikBook,
  type RunningMarket as RunningTorgvik,
  startMarket as startTorgvik,
} from '@basileus/standins/torgvik';
import { cedarpostDocument } from '@basileus/rulebooks/cedarpost';
import { lumbaraDocument } from '@basileus/rulebooks/lumbara';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { torgvikDocument } from '@basileus/rulebooks/torgvik';
import { wadilineDocument } from '@basileus/rulebooks/wadiline';
import {
  type BookDocument as WadilineBook,
  type RunningMarket as RunningWadiline,
  startMarket as startWadiline,
} from '@basileus/standins/wadiline';
import { endpoints, type ReversalCounts } from '@basileus/contract';
import pg from 'pg';
import pino from 'pino';
import { inject } from 'vitest';
import { createApp } from '../app';
import { houseTemplate } from './template';
import { connect, type Db, rowsOf } from '../database';
import { loadDemo } from '../demo-data';
import { allJobs } from '../all-jobs';
import { asks } from '../asks';
import { type Listener, startEventHub, startListener } from '../events';
import { runHere, startWorker, type Worker } from '../jobs';

export interface Answer<T> {
  status: number;
  body: T;
  headers: Headers;
}
export interface House {
  db: Db;
  url: string;
  base: string;
  market: RunningMarket;
  torgvik: RunningTorgvik | undefined;
  cedarpost: RunningCedarpost | undefined;
  wadiline: RunningWadiline | undefined;
  lumbara: RunningLumbara | undefined;
  business: RunningSystem | undefined;
  /** Addresses of the stand-ins, by their keys. */
  standIns: Readonly<Record<string, string>>;
  listener: Listener;
  log: pino.Logger;
  call: <T = Record<string, unknown>>(method: string, path: string, body?: unknown) => Promise<Answer<T>>;
  upload: <T = Record<string, unknown>>(name: string, bytes: Uint8Array | string, path?: string) => Promise<Answer<T>>;
  rows: <T>(sql: string, bindings?: unknown[]) => Promise<T[]>;
  close: () => Promise<void>;
}

export async function openHouse(
  name: string,
  options: {
    size?: number;
    worker?: boolean;
    with?: readonly ('torgvik' | 'cedarpost' | 'wadiline' | 'lumbara' | 'countinghouse')[];
  } = {},
): Promise<House> {
  const admin = new pg.Client(inject('serverCluster'));
  await admin.connect();
  await admin.query(`create database ${name} template ${houseTemplate}`);
  await admin.end();
  const url = inject('serverCluster').replace(/\/postgres$/, `/${name}`);
  const log = pino({ level: process.env['BASILEUS_TEST_LOG'] ?? 'silent' });
  const db = connect(url, 8);
  const { market, torgvik, cedarpost, wadiline, lumbara, business, standIns } = await startStandIns(options.with ?? []);
  await loadDemo(db, { size: options.size ?? 60, standIns }, log);
  const listener = await startListener(url, log);
  const hub = startEventHub(listener);
  const worker: Worker | undefined =
    options.worker === false ? undefined : await startWorker({ db, listener, kinds: allJobs, log });
  const server: Server = createServer(createApp({ db, hub, threads: runHere(db, allJobs, asks), log }));
  await new Promise<void>((done) => {
    server.listen(0, '127.0.0.1', done);
  });
  const base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const answer = async <T>(r: Response, method: string): Promise<Answer<T>> => {
    const text = await r.text();
    let body: unknown = text;
    try {
      body = JSON.parse(text);
    } catch {
      /* not JSON */
    }
    if (r.status === 200 && body !== text) keepToContract(method, new URL(r.url).pathname, body);
    return { status: r.status, body: body as T, headers: r.headers };
  };
  return {
    db,
    url,
    base,
    market,
    torgvik,
    cedarpost,
    wadiline,
    lumbara,
    business,
    standIns,
    listener,
    log,
    call: async <T>(method: string, path: string, body?: unknown) =>
      answer<T>(
        await fetch(`${base}/api${path}`, {
          method,
          ...(body === undefined
            ? {}
            : { body: JSON.stringify(body), headers: { 'Content-Type': 'application/json' } }),
        }),
        method,
      ),
    upload: async <T>(file: string, bytes: Uint8Array | string, path = '/imports') => {
      const form = new FormData();
      form.append('file', new Blob([bytes as BlobPart]), file);
      return answer<T>(await fetch(`${base}/api${path}`, { method: 'POST', body: form }), 'POST');
    },
    rows: <T>(sql: string, bindings: unknown[] = []) => rowsOf<T>(db, sql, bindings),
    close: async () => {
      await worker?.stop();
      server.closeAllConnections();
      server.close();
      hub.stop();
      await listener.stop();
      await market.stop();
      await torgvik?.stop();
      await cedarpost?.stop();
      await wadiline?.stop();
      await lumbara?.stop();
      await business?.stop();
      await db.destroy();
    },
  };
}

/** Starts the stand-in markets of a house, quick ones that sell nothing. */
async function startStandIns(more: readonly string[]) {
  const pace = { workMs: 50, reviewMs: 100, sellEveryMs: 0 };
  let market!: RunningMarket,
    torgvik: RunningTorgvik | undefined,
    cedarpost: RunningCedarpost | undefined,
    wadiline: RunningWadiline | undefined,
    lumbara: RunningLumbara | undefined,
    business: RunningSystem | undefined;
  const port = await new Promise<number>((done) => {
    market = startMarket({ book: quillhavenDocument as BookDocument, ...pace }, 0, done);
  });
  const standIns: Record<string, string> = { quillhaven: `http://127.0.0.1:${port}` };
  if (more.includes('torgvik')) {
    const second = await new Promise<number>((done) => {
      torgvik = startTorgvik({ book: torgvikDocument as TorgvikBook, ...pace }, 0, done);
    });
    standIns['torgvik'] = `http://127.0.0.1:${second}`;
  }
  if (more.includes('cedarpost')) {
    const third = await new Promise<number>((done) => {
      cedarpost = startCedarpost({ book: cedarpostDocument as CedarpostBook, ...pace, linesOnPage: 8 }, 0, done);
    });
    standIns['cedarpost'] = `http://127.0.0.1:${third}`;
  }
  if (more.includes('wadiline')) {
    const fourth = await new Promise<number>((done) => {
      wadiline = startWadiline({ book: wadilineDocument as WadilineBook, ...pace }, 0, done);
    });
    standIns['wadiline'] = `http://127.0.0.1:${fourth}`;
  }
  if (more.includes('lumbara')) {
    const fifth = await new Promise<number>((done) => {
      lumbara = startLumbara({ book: lumbaraDocument as LumbaraBook, ...pace }, 0, done);
    });
    standIns['lumbara'] = `http://127.0.0.1:${fifth}`;
  }
  if (more.includes('countinghouse')) {
    const sixth = await new Promise<number>((done) => {
      business = startSystem(pace, 0, done);
    });
    standIns['countinghouse'] = `http://127.0.0.1:${sixth}`;
  }
  return { market, torgvik, cedarpost, wadiline, lumbara, business, standIns };
}

const pathOf = (path: string): RegExp => new RegExp(`^/api${path.replace(/:\\w+/g, '[^/]+')}$`);
const known = endpoints.map((e) => ({ ...e, pattern: pathOf(e.path) }));

/** Throws where an answer is not what the contract says of it: what stands in the database is typed only by belief. */
function keepToContract(method: string, path: string, body: unknown): void {
  const endpoint = known.find((e) => e.method === method.toLowerCase() && e.pattern.test(path));
  if (!endpoint || endpoint.answers !== undefined) return;
  const reading = endpoint.response.safeParse(body);
  if (!reading.success)
    throw new Error(`${method} ${path} breaks its contract: ${JSON.stringify(reading.error.issues.slice(0, 3))}`);
}

/** Waits until a question has the answer wanted. */
export async function until<T>(ask: () => Promise<T>, isSo: (a: T) => boolean, ms = 90_000): Promise<T> {
  const end = Date.now() + ms;
  for (;;) {
    const a = await ask();
    if (isSo(a)) return a;
    if (Date.now() > end) throw new Error(`Not so after ${ms} ms: ${JSON.stringify(a).slice(0, 400)}`);
    await new Promise((r) => setTimeout(r, 30));
  }
}

/** A transaction beside those of requests and jobs; like these it is done again where it was the victim of a deadlock. */
export async function transact<T>(house: House, what: (tx: Db) => Promise<T>): Promise<T> {
  for (;;)
    try {
      return await house.db.transaction(what);
    } catch (error) {
      if ((error as { code?: string }).code !== '40P01') throw error;
    }
}

/** Takes a change set back, with others of its deed, and waits until that is done; answers the change set that did it. */
export async function takeBack(
  house: House,
  set: number,
  others: readonly number[] = [],
): Promise<{ id: number; title: string; outcome: ReversalCounts }> {
  const { body } = await house.call<{ changeSet: number }>('POST', `/change-sets/${set}/reverse`, { others });
  const read = async () =>
    (
      await house.call<{ set: { id: number; title: string; isDone: boolean; outcome: ReversalCounts } }>(
        'GET',
        `/change-sets/${body.changeSet}`,
      )
    ).body;
  await until(
    () => house.rows('select id from change_sets where reverses = any(?) and not is_done', [[set, ...others]]),
    (rows) => rows.length === 0,
  );
  return (await read()).set;
}
