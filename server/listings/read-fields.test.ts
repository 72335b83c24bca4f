// What a market does not read of an item changes nothing that is made of it there.
import { afterAll, beforeAll, expect, it } from 'vitest';
import { loadMarket } from '../markets';
import { type House, openHouse } from '../tests/house';
import { judgeRows } from './judge';
import { loadReading } from './read-fields';
import { loadRowsToCheck } from './rows';

let house: House;
const others = ['torgvik', 'cedarpost', 'wadiline', 'lumbara'] as const;
beforeAll(async () => {
  house = await openHouse('read_fields_test', { size: 300, with: others, worker: false });
});
afterAll(async () => {
  await house.close();
});

it.each(['quillhaven', ...others])(
  'is left out for %s, and every listing is judged as with all of its facts',
  async (key) => {
    const market = await loadMarket(house.db, key),
      reading = await loadReading(house.db, market);
    const load = (unread?: readonly string[]) => loadRowsToCheck(house.db, market.id, 'true', [], unread);
    const whole = await load(),
      lean = await load(reading.unread);
    // Texts in a language that the market does not speak are most of it.
    const foreign = key === 'lumbara' ? 'description@de' : 'description@ja';
    expect(reading.unread).toContain(foreign);
    expect(whole.filter((r) => foreign in r.facts).length).toBeGreaterThan(50);
    expect(lean.filter((r) => foreign in r.facts)).toEqual([]);
    expect(lean.some((r) => Object.keys(r.facts).length > 0)).toBe(true);
    const sorted = async (rows: typeof whole) =>
      (await judgeRows(house.db, market, reading, rows)).sort((a, b) => a.id - b.id);
    const judged = await sorted(lean);
    expect(judged.length).toBeGreaterThan(100);
    expect(judged).toEqual(await sorted(whole));
  },
);
