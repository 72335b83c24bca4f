import { findInMarket, listMarkets } from '@basileus/contract';
import type { Router } from 'express';
import type { Db } from '../database';
import { route } from '../http';
import { loadMarket, loadMarkets } from './load';
import { openMarketPort } from './port';

export function addMarketRoutes(router: Router, db: Db): void {
  route(router, listMarkets, async () => ({
    rows: (await loadMarkets(db)).map((m) => ({
      key: m.key,
      name: m.name,
      sites: m.rulebook.sites.map(({ key, name, country, currency }) => ({ key, name, country, currency })),
      version: m.rulebook.version,
    })),
  }));
  route(router, findInMarket, async ({ params, query }) => ({
    rows: await openMarketPort(await loadMarket(db, params.market)).find(query.q),
  }));
}
