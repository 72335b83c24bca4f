// What the prices of listings leave: kept with each listing, counted for the home page, and a field that can be asked, put in
// order by and taken out, but not written.
import type { ChoiceShape, ListedProduct, Overview, SumOfField } from '@basileus/contract';
import { everyItem, type FieldClause } from '@basileus/core/choose';
import { computeMargin, convertCost, countMarginBands, findFees, prepareTaxRate } from '@basileus/core/pricing';
import type { Values } from '@basileus/core/listing';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { loadMarket } from '../markets';
import { type House, openHouse } from '../tests/house';
import { refreshMarket } from './index';

let house: House;
const field = 'quillhaven/~margin';
beforeAll(async () => {
  house = await openHouse('margins_test', { size: 600, with: ['torgvik'], worker: false });
});
afterAll(() => house.close());

interface Kept {
  sku: string;
  kind: string;
  cost: string | null;
  category: string | null;
  state: string;
  values: Values;
  margin: number | null;
}
const loadKept = (market: string): Promise<Kept[]> =>
  house.rows<Kept>(
    `select p.sku, p.kind, p.cost::text as cost, l.category, l.market_state as state, l."values", l.margin
      from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
      where m.key = '${market}' order by p.sku`,
  );
const meant = async (clause: FieldClause): Promise<string[]> => {
  const { id } = (await house.call<ChoiceShape>('POST', '/choices', { which: { ...everyItem, clauses: [clause] } }))
    .body;
  const { rows } = (
    await house.call<{ rows: ListedProduct[] }>('GET', `/products?choice=${id}&open=all&limit=1000&sort=sku`)
  ).body;
  return rows.map((r) => r.sku).sort();
};
const skus = (rows: readonly Kept[]): string[] => rows.map((r) => r.sku).sort();

describe('the margin that is kept with a listing', () => {
  it.each(['quillhaven', 'torgvik'])('is on %s what the least of its prices leaves, to a thousandth', async (key) => {
    const { rulebook, rates } = await loadMarket(house.db, key);
    const rows = (await loadKept(key)).filter((r) => r.category !== null && r.kind !== 'family');
    const known = rows.filter((r) => r.margin !== null);
    expect(known.length).toBeGreaterThan(200);
    for (const r of known) {
      const each = rulebook.offers.flatMap(({ site, price, salePrice }) => {
        const amount = (salePrice && r.values[salePrice]) ?? r.values[price],
          cost = convertCost(r.cost!, site.currency, rates);
        if (typeof amount !== 'string' || cost === undefined) return [];
        const fees = { ...findFees(rulebook, r.category!, '0', site), taxRate: prepareTaxRate(site)(r.values) };
        return computeMargin({ price: amount, cost, ...fees })
          .margin.times(1000)
          .plus('1e-25')
          .floor()
          .toNumber();
      });
      expect([r.sku, r.margin]).toEqual([r.sku, Math.min(...each)]);
    }
  });
  it('is none of a family, of what is left out, and where there is no cost or no price', async () => {
    const rows = await loadKept('quillhaven');
    const none = rows.filter((r) => r.margin === null);
    expect(none.filter((r) => r.kind === 'family').length).toBeGreaterThan(10);
    expect(
      none.filter(
        (r) =>
          r.kind !== 'family' &&
          r.cost !== null &&
          r.category !== null &&
          Number(r.values['price'] ?? 0) > 0 &&
          !['left out', 'withdrawn'].includes(r.state),
      ),
    ).toEqual([]);
    expect(rows.filter((r) => r.margin !== null && ['left out', 'withdrawn'].includes(r.state))).toEqual([]);
  });
  it('follows a cost that no attribute of the market takes, and goes with what is left out', async () => {
    const before = (await loadKept('quillhaven')).find(
      (r) => r.margin !== null && r.margin > 100 && r.state === 'none',
    )!;
    const [item] = await house.rows<{ id: number }>(`select id from products where sku = '${before.sku}'`);
    const now = async () => (await loadKept('quillhaven')).find((r) => r.sku === before.sku)!.margin;
    const setCost = (was: string | null, after: string | null) =>
      house.call('PATCH', '/products', { cells: [{ id: item!.id, field: 'cost', before: was, after }] });
    await setCost(before.cost, '999');
    expect(await now()).toBeLessThan(-999);
    await setCost('999', null);
    expect(await now()).toBeNull();
    await setCost(null, before.cost);
    expect(await now()).toBe(before.margin);
    const [listing] = await house.rows<{ id: number }>(
      `select l.id from listings l join markets m on m.id = l.market_id where m.key = 'quillhaven' and l.product_id = ${item!.id}`,
    );
    const want = (wanted: boolean) =>
      house.call('POST', '/markets/quillhaven/listings/wanted', { ids: [listing!.id], wanted });
    await want(false);
    expect(await now()).toBeNull();
    await want(true);
    expect(await now()).toBe(before.margin);
  });
  it('is put right where a market is checked again, though nothing else of the listing is new', async () => {
    const was = await loadKept('quillhaven');
    await house.db.raw(
      `update listings set margin = null where market_id = (select id from markets where key = 'quillhaven')`,
    );
    await house.db.raw(
      `update markets set revision = revision + 1, checks_from = revision + 1 where key = 'quillhaven'`,
    );
    await refreshMarket(house.db, await loadMarket(house.db, 'quillhaven'), () => Promise.resolve());
    expect(await loadKept('quillhaven')).toEqual(was);
  });
});

describe('margins on the home page', () => {
  it('are counted by their bands, market by market', async () => {
    const { margins } = (await house.call<Overview>('GET', '/overview')).body;
    expect(margins.map((m) => m.market).sort()).toEqual(['quillhaven', 'torgvik']);
    for (const { market, bands } of margins) {
      const kept = (await loadKept(market)).flatMap((r) => (r.margin === null ? [] : [[r.margin, 1] as const]));
      expect(bands).toEqual(countMarginBands(kept));
      expect(bands.filter((n) => n > 0).length).toBeGreaterThan(2);
    }
  });
});

describe('the margin as a field', () => {
  it('is asked like any number, of what is sold alone', async () => {
    const rows = await loadKept('quillhaven');
    const losing = skus(rows.filter((r) => r.margin !== null && r.margin < 0));
    expect(losing.length).toBeGreaterThan(0);
    expect(await meant({ is: 'under', field, value: '0' })).toEqual(losing);
    expect(await meant({ is: 'between', field, from: '12.5', to: '20' })).toEqual(
      skus(rows.filter((r) => r.margin !== null && r.margin >= 125 && r.margin <= 200)),
    );
    expect(await meant({ is: 'empty', field })).toEqual(
      skus(rows.filter((r) => r.margin === null && r.kind !== 'family' && r.state !== 'left out')),
    );
  });
  it('that is a price lacks nothing in the row of a family either', async () => {
    const [item] = await house.rows<{ id: number; price: string }>(
      `select p.id, p.price::text as price from products p
        join listings l on l.product_id = p.id join markets m on m.id = l.market_id
        where m.key = 'quillhaven' and l.margin is not null and p.price is not null and not jsonb_exists(l.overrides, 'price')
        order by p.id limit 1`,
    );
    await house.call('PATCH', '/products', {
      cells: [{ id: item!.id, field: 'price', before: item!.price, after: null }],
    });
    const rows = await loadKept('quillhaven');
    const empty = await meant({ is: 'empty', field: 'quillhaven/price' });
    expect(empty.filter((sku) => rows.find((r) => r.sku === sku)!.kind === 'family')).toEqual([]);
    expect(empty.length).toBeGreaterThan(0);
  });
  it('is a column that can be put in order, losses first, and added up', async () => {
    const { rows } = (
      await house.call<{ rows: ListedProduct[] }>(
        'GET',
        `/products?kind=variant&limit=1000&sort=${encodeURIComponent(field)}&direction=up&listed=${encodeURIComponent(field)}`,
      )
    ).body;
    const shown = rows.flatMap((r) => (r.fields[field] === undefined ? [] : [Number(r.fields[field])]));
    const kept = (await loadKept('quillhaven')).flatMap((r) =>
      r.kind === 'variant' && r.margin !== null ? [r.margin / 10] : [],
    );
    expect(shown[0]).toBeLessThan(0);
    expect(shown).toEqual(kept.sort((a, b) => a - b));
    const [sum] = (
      await house.call<{ fields: SumOfField[] }>('POST', '/products/sums', {
        kind: 'variant',
        offset: 0,
        limit: 100_000,
        fields: [field],
      })
    ).body.fields;
    expect(sum).toMatchObject({ numbers: kept.length, least: kept[0]!.toFixed(1) });
  });
  it('is not written: in a cell, in bulk, or from a file', async () => {
    const [item] = await house.rows<{ id: number; was: number }>(
      `select p.id, l.margin as was from products p join listings l on l.product_id = p.id where l.margin is not null and l.market_id = 1 limit 1`,
    );
    const put = await house.call<{ applied: number; refused: { field: string; fault: unknown }[] }>(
      'PATCH',
      '/products',
      {
        cells: [{ id: item!.id, field, before: (item!.was / 10).toFixed(1), after: '50' }],
      },
    );
    expect(put.body.refused).toMatchObject([{ field, fault: { kind: 'worked-out' } }]);
    expect(put.body.applied).toBe(0);
    const bulk = await house.call<{ message: string }>('POST', '/bulk/count', {
      which: everyItem,
      steps: [{ field, operation: { do: 'set', value: '50' } }],
    });
    expect([bulk.status, bulk.body.message]).toEqual([400, 'Margin (%) on Quillhaven is not changed in bulk.']);
  });
});
