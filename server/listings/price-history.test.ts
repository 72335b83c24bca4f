// Prices at which a market has sold an entry are noted as it takes them; a sale in the European Union is compared with them.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse } from '../tests/house';
import { openSending } from '../tests/sending';

let house: House;
beforeAll(async () => {
  house = await openHouse('price_history_test', { size: 120, with: ['torgvik'] });
});
afterAll(() => house.close());

const history = (listing: number) =>
  house.rows<{ days: number; price: string | null }>(
    `select round(extract(epoch from now() - at) / 86400)::int as days, prices ->> 'pris@de' as price
      from price_history where listing_id = ? order by at`,
    [listing],
  );
const findings = async (listing: number) =>
  house.rows<{ message: string; field: string; params: { lowest: string } }>(
    `select message, field, params from findings where listing_id = ? and "check" = 'prior-price'`,
    [listing],
  );

describe('the price before a sale', () => {
  it('is the lowest of the thirty days before, as the market has taken it', async () => {
    const { loadItems, patch, send } = openSending(house, 'torgvik');
    const [item] = await loadItems(
      `l.market_state = 'live' and l.in_flight = 0 and l.planned = '[]' and p.kind = 'variant' and (l.accepted_price ->> 'pris@de')::numeric > 9`,
    );
    const id = item!.id,
      price = item!.values['pris@de']!;
    expect(await history(id)).toMatchObject([{ price }]);
    await house.rows(
      `update price_history set at = now() - interval '200 days' where listing_id = ? returning 1 as x`,
      [id],
    );
    const dearer = (Number(price) * 1.1).toFixed(2);
    expect((await patch(id, 'pris@de', price, dearer)).status).toBe(200);
    expect(await send('price', [id])).toMatchObject({ state: 'answered', accepted: 1 });
    expect(await history(id)).toEqual([
      { days: 200, price },
      { days: 0, price: dearer },
    ]);
    const sale = (Number(price) * 0.8).toFixed(2);
    await patch(id, 'reapris@de', null, sale);
    expect(await findings(id)).toEqual([]);
    const soon = new Date(Date.now() + 5 * 86_400_000).toISOString().slice(0, 10);
    await patch(id, 'rea_fran@de', null, soon);
    expect(await findings(id)).toMatchObject([{ message: 'raised', field: 'pris@de', params: { lowest: price } }]);
    await patch(id, 'pris@de', dearer, price);
    expect(await findings(id)).toEqual([]);
  });
  it('is kept for a hundred days, and the last before that', async () => {
    const { loadItems } = openSending(house, 'torgvik');
    const [item] = await loadItems(`l.market_state = 'live' and l.accepted_price is not null and p.kind = 'variant'`);
    const id = item!.id;
    await house.rows(
      `insert into price_history (listing_id, at, prices)
        select ?, now() - make_interval(days => d), jsonb_build_object('pris@de', d::text) from unnest(array[300, 150, 120, 20]) d
        on conflict do nothing returning 1 as x`,
      [id],
    );
    await house.rows(
      `update listings set accepted_price = accepted_price || '{"pris@de": "1.00"}' where id = ? returning id`,
      [id],
    );
    const kept = (await history(id)).map((h) => h.days);
    expect(kept).toContain(120);
    expect(kept).toContain(20);
    expect(kept).not.toContain(150);
    expect(kept).not.toContain(300);
    await house.rows('update listings set accepted_price = null where id = ? returning id', [id]);
    expect((await history(id)).at(-1)).toEqual({ days: 0, price: null });
  });
});
