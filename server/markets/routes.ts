import {
  compareRulebook,
  findInMarket,
  listFieldMap,
  listMarkets,
  listValueMap,
  putFieldMap,
  putRulebook,
  putValueMap,
  readRulebook,
} from '@basileus/contract';
import { compareRulebooks, parseRulebook, type Rulebook } from '@basileus/core/rulebook';
import type { Router } from 'express';
import { type Db, rowOf } from '../database';
import { announce } from '../events';
import { AppError, route } from '../http';
import { refreshLater } from '../listings/stale';
import { recordHistory } from '../products/change-sets';
import { loadFieldMap, loadValueMap, putFieldSource, putValueCode } from './correspondences';
import { bumpRevision, loadMarket, loadMarkets, type Market } from './load';
import { openMarketPort } from './port';

/** A document as a rulebook of this market; a refusal with the path of the first fault where it is none. */
function readDocument(market: Market, body: unknown): Rulebook {
  const reading = parseRulebook(body);
  if (!reading.ok) {
    const f = reading.faults[0]!;
    throw new AppError('bad-input', `${f.path}: ${f.reason}`, {
      field: f.path,
      remedy: `Correct the document${reading.faults.length > 1 ? `; there are ${reading.faults.length} faults` : ''}.`,
    });
  }
  if (reading.rulebook.market.key !== market.key)
    throw new AppError('bad-input', `This rulebook is for “${reading.rulebook.market.key}”, not for ${market.name}.`, {
      field: 'market.key',
    });
  return reading.rulebook;
}

export function addMarketRoutes(router: Router, db: Db): void {
  route(router, listMarkets, async () => ({
    rows: (await loadMarkets(db)).map((m) => ({
      key: m.key,
      name: m.name,
      country: m.rulebook.market.country,
      currency: m.rulebook.market.currency,
      version: m.rulebook.version,
    })),
  }));
  route(
    router,
    readRulebook,
    async ({ params }) => (await loadMarket(db, params.market)).rulebook as unknown as Record<string, unknown>,
  );
  route(router, putRulebook, async ({ params, body, actor }) => {
    const market = await loadMarket(db, params.market);
    const rulebook = readDocument(market, body);
    const job = await db.transaction(async (tx) => {
      const row = (await rowOf<{ id: number }>(
        tx,
        `insert into rulebooks (market_key, version, document)
          values (?, ?, ?)
          on conflict (market_key, version) do update set document = excluded.document, created_at = now()
          returning id`,
        [market.key, rulebook.version, JSON.stringify(body)],
      ))!;
      await tx.raw('update markets set rulebook_id = ? where id = ?', [row.id, market.id]);
      await bumpRevision(tx, market);
      await recordHistory(tx, actor, 'put in force', `${market.name} rulebook ${rulebook.version}`);
      await announce(tx, { topic: 'markets' });
      return refreshLater(tx, market);
    });
    return { version: rulebook.version, job };
  });
  route(router, compareRulebook, async ({ params, body }) => {
    const market = await loadMarket(db, params.market);
    const rulebook = readDocument(market, body);
    return {
      version: rulebook.version,
      inForce: market.rulebook.version,
      changes: compareRulebooks(market.rulebook, rulebook),
    };
  });
  route(router, listFieldMap, async ({ params }) => loadFieldMap(db, await loadMarket(db, params.market)));
  route(router, putFieldMap, async ({ params, body }) =>
    putFieldSource(db, await loadMarket(db, params.market), params.attribute, body.source),
  );
  route(router, listValueMap, async ({ params, query }) =>
    loadValueMap(db, await loadMarket(db, params.market), query.attribute),
  );
  route(router, putValueMap, async ({ params, body }) =>
    putValueCode(db, await loadMarket(db, params.market), body.attribute, body.ours, body.theirs),
  );
  route(router, findInMarket, async ({ params, query }) => ({
    rows: await openMarketPort(await loadMarket(db, params.market)).find(query.q),
  }));
}
