import { defineEndpoint } from '@basileus/contract';
import express from 'express';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import pino from 'pino';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { z } from 'zod';
import { connect, type Db } from '../database';
import { createErrorHandler } from './errors';
import { route } from './route';

const endpoint = (id: string) =>
  defineEndpoint({
    id,
    method: 'post',
    path: `/${id}`,
    about: 'For this test only.',
    params: z.object({}),
    query: z.object({}),
    body: z.object({}),
    response: z.object({ tries: z.number() }),
  });

let db: Db, server: Server, base: string;
const tries: Record<string, number> = {};
/** Both hold their first lock before either asks for its second. */
let bothHold: () => Promise<void>;
beforeAll(async () => {
  db = connect(inject('serverCluster'));
  let waiting: (() => void)[] = [];
  bothHold = () =>
    new Promise((done) => {
      waiting.push(done);
      if (waiting.length === 2) {
        for (const go of waiting) go();
        waiting = [];
      }
    });
  const app = express();
  app.use(express.json());
  const take = (id: string, locks: readonly [number, number]) => {
    route(app, endpoint(id), async () => {
      const attempt = (tries[id] = (tries[id] ?? 0) + 1);
      await db.transaction(async (tx) => {
        await tx.raw('select pg_advisory_xact_lock(77, ?)', [locks[0]]);
        if (attempt === 1) await bothHold();
        await tx.raw('select pg_advisory_xact_lock(77, ?)', [locks[1]]);
      });
      return { tries: attempt };
    });
  };
  take('first', [1, 2]);
  take('second', [2, 1]);
  route(app, endpoint('broken'), () => {
    tries['broken'] = (tries['broken'] ?? 0) + 1;
    return Promise.reject(Object.assign(new Error('no such table'), { code: '42P01' }));
  });
  route(app, endpoint('unlucky'), () => {
    tries['unlucky'] = (tries['unlucky'] ?? 0) + 1;
    return Promise.reject(Object.assign(new Error('deadlock'), { code: '40P01' }));
  });
  route(app, endpoint('crowded'), () =>
    Promise.reject(Object.assign(new Error('no session was free'), { name: 'KnexTimeoutError' })),
  );
  route(app, endpoint('away'), () => Promise.reject(Object.assign(new Error('gone'), { code: '57P01' })));
  app.use(createErrorHandler(pino({ level: 'silent' })));
  server = createServer(app);
  await new Promise<void>((done) => {
    server.listen(0, '127.0.0.1', done);
  });
  base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
});
afterAll(async () => {
  server.close();
  await db.destroy();
});
const post = async (path: string) => {
  const r = await fetch(`${base}/${path}`, { method: 'POST' });
  return { status: r.status, body: (await r.json()) as { tries?: number; code?: string } };
};

describe('two requests that wait for each other', () => {
  it('are both answered: the one that the database ended is done again', async () => {
    const both = await Promise.all([post('first'), post('second')]);
    expect(both.map((b) => b.status)).toEqual([200, 200]);
    expect(both.map((b) => b.body.tries).sort()).toEqual([1, 2]);
  });
});

describe('any other fault', () => {
  it('is not tried again', async () => {
    expect(await post('broken')).toMatchObject({ status: 500, body: { code: 'internal' } });
    expect(tries['broken']).toBe(1);
  });
  it('says whether the database is away, or too much is asked of it', async () => {
    expect(await post('crowded')).toMatchObject({
      status: 503,
      body: { code: 'not-ready', message: expect.stringMatching(/^More is asked/) as string },
    });
    expect(await post('away')).toMatchObject({
      status: 503,
      body: { code: 'not-ready', message: expect.stringMatching(/cannot be reached/) as string },
    });
  });
  it('ends after three tries, however it is named', async () => {
    expect((await post('unlucky')).status).toBe(500);
    expect(tries['unlucky']).toBe(3);
  });
});
