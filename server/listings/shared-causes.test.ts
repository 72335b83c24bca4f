// Causes of several markets from one field of ours: counted as the findings are, and settled by one mend on the item.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { SharedCause } from '@basileus/contract';
import { type House, openHouse } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('shared_causes_test', { size: 160, worker: false, with: ['torgvik', 'cedarpost'] });
  // Two items that are placed on all three lose their number.
  const items = await house.rows<{ id: number; gtin: string }>(
    `select p.id, p.gtin from products p join listings l on l.product_id = p.id
      where p.kind in ('single', 'variant') and p.gtin ~ '^952' and l.category is not null
      group by 1, 2 having count(*) = 3 order by 1 limit 2`,
  );
  await house.call('PATCH', '/products', {
    cells: items.map(({ id, gtin }) => ({ id, field: 'gtin', before: gtin, after: null })),
  });
});
afterAll(() => house.close());
const shared = async () => (await house.call<{ rows: SharedCause[] }>('GET', '/causes')).body.rows;

describe('causes that several markets share', () => {
  it('are those of one field of ours, by whatever name each market knows it, with the counts of the findings', async () => {
    const rows = await shared();
    const gtin = rows.find((r) => r.check === 'demanded-missing' && r.source === 'gtin');
    expect(gtin!.markets.map((m) => [m.market, m.field])).toEqual(
      expect.arrayContaining([
        ['torgvik', 'streckkod'],
        ['cedarpost', 'code'],
      ]),
    );
    for (const { market, field, count } of gtin!.markets)
      expect(
        await house.rows(
          `select count(*)::int as n from findings f join markets m on m.id = f.market_id
            where m.key = ? and f.field = ? and f."check" = ? and f.message = ?`,
          [market, field, gtin!.check, gtin!.message],
        ),
      ).toEqual([{ n: count }]);
    expect(gtin!.count).toBe(gtin!.markets.reduce((n, m) => n + m.count, 0));
  });
  it('are on two markets at least, no tips, blockers first', async () => {
    const rows = await shared();
    expect(rows.length).toBeGreaterThan(3);
    expect(rows.filter((r) => new Set(r.markets.map((m) => m.market)).size < 2)).toEqual([]);
    expect(rows.filter((r) => r.level === 'tip')).toEqual([]);
    const levels = rows.map((r) => r.level);
    expect(levels).toEqual([...levels].sort());
    expect(levels).toContain('blocker');
    // A price in kronor is asked for by one market alone.
    expect(rows.map((r) => r.source)).not.toContain('fact.price@sek');
  });
  it('lead to the items, and are settled on every market by one mend there', async () => {
    const listed = await house.call<{ total: number; rows: { id: number; sku: string }[] }>(
      'GET',
      '/products?finding=demanded-missing.must.gtin&limit=200',
    );
    const [{ n }] = (await house.rows<{ n: number }>(
      `select count(distinct l.product_id)::int as n from findings f join listings l on l.id = f.listing_id
        join markets m on m.id = f.market_id
        where f."check" = 'demanded-missing' and f.message = 'must'
          and (m.key, f.field) in (('quillhaven', 'item_number'), ('torgvik', 'streckkod'), ('cedarpost', 'code'))`,
    )) as [{ n: number }];
    expect([listed.body.total, listed.body.rows.length]).toEqual([n, n]);
    const item = listed.body.rows[0]!;
    const before = (await shared()).find((r) => r.source === 'gtin' && r.check === 'demanded-missing')!;
    await house.call('PATCH', '/products', {
      cells: [{ id: item.id, field: 'gtin', before: null, after: '9529990000018' }],
    });
    const after = (await shared()).find((r) => r.source === 'gtin' && r.check === 'demanded-missing');
    expect(before.count - (after?.count ?? 0)).toBeGreaterThan(1);
    expect(
      (await house.call<{ total: number }>('GET', '/products?finding=demanded-missing.must.gtin')).body.total,
    ).toBe(n - 1);
  });
  it.each(['gtin', 'a.b', 'x.y.$z', 'demanded-missing.must.'])('asked for as “%s” are refused', async (finding) => {
    expect((await house.call('GET', `/products?finding=${encodeURIComponent(finding)}`)).status).toBe(400);
  });
});
