import { findInMarket, listMarkets } from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import { openGate } from './gate';
import { loadMarket, loadMarkets } from './load';
import { openMarketPort } from './port';

export function addMarketRoutes(router: Router, db: Db): void {
  route(router, listMarkets, async () => ({
    rows: (await loadMarkets(db)).map((m) => ({
      key: m.key,
      name: m.name,
      sites: m.rulebook.sites.map(({ key, name, country, currency, optional }) => ({
        key,
        name,
        country,
        currency,
        optional,
      })),
      version: m.rulebook.version,
    })),
  }));
  route(router, findInMarket, async ({ params, query }) => {
    const market = await loadMarket(db, params.market);
    return { rows: await openMarketPort(market, openGate(db, market)).find(query.q) };
  });
}
