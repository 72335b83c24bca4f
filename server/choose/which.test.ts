// Which items are meant: each condition on a real database beside the same question asked of the items in plain code.
import type { ChoiceShape, Product } from '@basileus/contract';
import { type Clause, type Which, whichSchema } from '@basileus/core/choose';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse } from '../tests/house';

let house: House;
let items: Product[];
beforeAll(async () => {
  house = await openHouse('choose_test', { size: 1200, worker: false });
  const singles = (await house.call<{ rows: Product[] }>('GET', '/products?kind=variant&limit=6')).body.rows;
  const set = (n: number, field: string, after: unknown) => ({
    id: singles[n]!.id,
    field,
    before: singles[n]!.fields[field] ?? null,
    after,
  });
  const put = await house.call<{ applied: number; refused: unknown[] }>('PATCH', '/products', {
    cells: [
      set(0, 'sale_price', '3.99'),
      set(0, 'sale_start', '2026-11-27'),
      set(1, 'sale_start', '2026-12-24'),
      set(2, 'fact.allergens', ['Gluten', '100 % nuts']),
      set(3, 'fact.dishwasher', 'no'),
      set(4, 'fact.care', '50% wool_mix'),
      set(5, 'fact.published', '2026-01-31'),
      set(2, 'fact.width', '150 mm'),
      set(1, 'highlights', ['Dishwasher safe', 'Stacks']),
    ],
  });
  expect(put.body.refused).toEqual([]);
  items = await loadAll('open=all');
});
afterAll(() => house.close());

/** All items of a query, page after page. */
async function loadAll(query: string): Promise<Product[]> {
  const all: Product[] = [];
  for (;;) {
    const page = await house.call<{ rows: Product[]; total: number }>(
      'GET',
      `/products?${query}&limit=1000&offset=${all.length}`,
    );
    all.push(...page.body.rows);
    if (all.length >= page.body.total) return all;
  }
}
const remember = (which: Partial<Which>) =>
  house.call<ChoiceShape & { message: string }>('POST', '/choices', { which: whichSchema.parse(which) });
/** SKUs that a choice means, as the catalog shows them. */
async function meant(which: Partial<Which>): Promise<string[]> {
  const { id } = (await remember(which)).body;
  const rows = await loadAll(`choice=${id}`);
  const read = (await house.call<{ total: number }>('GET', `/choices/${id}`)).body;
  expect(read.total).toBe(rows.length);
  return rows.map((r) => r.sku).sort();
}
const text = (p: Product, f: string): string => {
  const v = p.fields[f];
  return v === undefined ? '' : typeof v === 'string' ? v : v.join('|');
};
const list = (p: Product, f: string): readonly string[] => {
  const v = p.fields[f];
  return v === undefined ? [] : typeof v === 'string' ? [v] : v;
};
const low = (p: Product, f: string): string => text(p, f).toLowerCase();
const num = (p: Product, f: string): number => (text(p, f) === '' ? NaN : Number(text(p, f)));
/** A length in millimetres. */
const size = (p: Product, f: string): number => {
  const m = /^([\d.]+) (mm|cm|m|in)$/.exec(text(p, f));
  return m ? Number(m[1]) * { mm: 1, cm: 10, m: 1000, in: 25.4 }[m[2] as 'mm'] : NaN;
};
const sold = (p: Product): boolean => p.kind !== 'family';

const brand = () =>
  text(
    items.find((i) => text(i, 'brand') !== '')!,
    'brand',
  );
/** A price in euro in the middle of those that there are. */
const eur = (): string => {
  const all = items.map((i) => text(i, 'fact.price@eur')).filter(Boolean);
  return all.sort((a, b) => Number(a) - Number(b))[all.length >> 1]!;
};
const cases: [string, () => Clause, (p: Product) => boolean][] = [
  [
    'a text is',
    () => ({ is: 'equals', field: 'brand', value: brand().toUpperCase() }),
    (p) => low(p, 'brand') === brand().toLowerCase(),
  ],
  [
    'a text is not, empty ones too',
    () => ({ is: 'differs', field: 'brand', value: brand() }),
    (p) => low(p, 'brand') !== brand().toLowerCase(),
  ],
  [
    'a text contains',
    () => ({ is: 'contains', field: 'title', value: 'GLASS' }),
    (p) => low(p, 'title').includes('glass'),
  ],
  [
    'a text does not contain',
    () => ({ is: 'lacks', field: 'description', value: 'the' }),
    (p) => !low(p, 'description').includes('the'),
  ],
  ['a text begins with', () => ({ is: 'starts', field: 'sku', value: 'k' }), (p) => low(p, 'sku').startsWith('k')],
  ['a text ends in', () => ({ is: 'ends', field: 'sku', value: '2' }), (p) => low(p, 'sku').endsWith('2')],
  [
    'signs of patterns mean themselves',
    () => ({ is: 'contains', field: 'fact.care', value: '50% wool_' }),
    (p) => low(p, 'fact.care').includes('50% wool_'),
  ],
  [
    'a text is one of',
    () => ({ is: 'one-of', field: 'fact.colour', values: ['WHITE', 'Blue', 'Red'] }),
    (p) => ['white', 'blue', 'red'].includes(low(p, 'fact.colour')),
  ],
  [
    'a text is none of, empty ones too',
    () => ({ is: 'none-of', field: 'fact.colour', values: ['White'] }),
    (p) => low(p, 'fact.colour') !== 'white',
  ],
  ['a text is empty', () => ({ is: 'empty', field: 'brand' }), (p) => text(p, 'brand') === ''],
  ['a fact is filled', () => ({ is: 'filled', field: 'fact.material' }), (p) => text(p, 'fact.material') !== ''],
  ['a price over', () => ({ is: 'over', field: 'price', value: '20' }), (p) => num(p, 'price') > 20],
  ['a price at most', () => ({ is: 'at-most', field: 'price', value: '20' }), (p) => num(p, 'price') <= 20],
  [
    'a price between',
    () => ({ is: 'between', field: 'price', from: '10', to: '20' }),
    (p) => num(p, 'price') >= 10 && num(p, 'price') <= 20,
  ],
  [
    'a price in another currency between, both ends too',
    () => ({ is: 'between', field: 'fact.price@eur', from: '10', to: eur() }),
    (p) => num(p, 'fact.price@eur') >= 10 && num(p, 'fact.price@eur') <= Number(eur()),
  ],
  [
    'a day between, both ends too',
    () => ({ is: 'between', field: 'sale_start', from: '2026-11-27', to: '2026-12-01' }),
    (p) => text(p, 'sale_start') >= '2026-11-27' && text(p, 'sale_start') <= '2026-12-01',
  ],
  [
    'a price ends in .99',
    () => ({ is: 'ends', field: 'sale_price', value: '.99' }),
    (p) => text(p, 'sale_price').endsWith('.99'),
  ],
  [
    'a price ends in 5',
    () => ({ is: 'ends', field: 'price', value: '4.5' }),
    (p) => Math.abs((num(p, 'price') % 10) - 4.5) < 1e-9,
  ],
  ['only what is sold lacks a cost', () => ({ is: 'empty', field: 'cost' }), (p) => sold(p) && text(p, 'cost') === ''],
  [
    'a price in another currency',
    () => ({ is: 'filled', field: 'fact.price@eur' }),
    (p) => text(p, 'fact.price@eur') !== '',
  ],
  [
    'a whole number among the facts',
    () => ({ is: 'at-least', field: 'fact.pieces', value: '2' }),
    (p) => num(p, 'fact.pieces') >= 2,
  ],
  [
    'stock under, that of bundles by their parts',
    () => ({ is: 'under', field: 'stock', value: '10' }),
    (p) => num(p, 'stock') < 10,
  ],
  ['stock is none', () => ({ is: 'equals', field: 'stock', value: '0' }), (p) => num(p, 'stock') === 0],
  ['stock is not', () => ({ is: 'differs', field: 'stock', value: '0' }), (p) => sold(p) && num(p, 'stock') !== 0],
  [
    'a day after',
    () => ({ is: 'over', field: 'sale_start', value: '27/11/2026' }),
    (p) => text(p, 'sale_start') > '2026-11-27',
  ],
  [
    'a day on or before',
    () => ({ is: 'at-most', field: 'sale_start', value: '2026-11-27' }),
    (p) => text(p, 'sale_start') !== '' && text(p, 'sale_start') <= '2026-11-27',
  ],
  [
    'a day among the facts',
    () => ({ is: 'under', field: 'fact.published', value: '2026-02-01' }),
    (p) => text(p, 'fact.published') !== '' && text(p, 'fact.published') < '2026-02-01',
  ],
  [
    'a measure over, whatever its unit',
    () => ({ is: 'over', field: 'fact.width', value: '200 mm' }),
    (p) => size(p, 'fact.width') > 200,
  ],
  [
    'a measure in the unit of its field',
    () => ({ is: 'at-most', field: 'fact.width', value: '20' }),
    (p) => size(p, 'fact.width') <= 200,
  ],
  [
    'a list has an entry',
    () => ({ is: 'equals', field: 'fact.allergens', value: 'GLUTEN' }),
    (p) => list(p, 'fact.allergens').some((i) => i.toLowerCase() === 'gluten'),
  ],
  [
    'a list has an entry with',
    () => ({ is: 'contains', field: 'highlights', value: 'dish' }),
    (p) => list(p, 'highlights').some((i) => i.toLowerCase().includes('dish')),
  ],
  [
    'a list has no entry with',
    () => ({ is: 'lacks', field: 'highlights', value: 'dish' }),
    (p) => !list(p, 'highlights').some((i) => i.toLowerCase().includes('dish')),
  ],
  ['a list is empty', () => ({ is: 'empty', field: 'pictures' }), (p) => list(p, 'pictures').length === 0],
  [
    'yes or no',
    () => ({ is: 'equals', field: 'fact.dishwasher', value: 'no' }),
    (p) => text(p, 'fact.dishwasher') === 'no',
  ],
];

describe('a condition means the items of which it is true:', () => {
  it.each(cases)('%s', async (_, clause, holds) => {
    const expected = items
      .filter(holds)
      .map((i) => i.sku)
      .sort();
    expect(expected.length).toBeGreaterThan(0);
    expect(expected.length).toBeLessThan(items.length);
    expect(await meant({ clauses: [clause()] })).toEqual(expected);
  });
});

describe('a choice', () => {
  it('finds entries of lists whole, whatever signs they hold', async () => {
    const [item] = items;
    const entries = ['Say "Dishwasher safe', 'A\\B 50%_', 'Two\nlines', 'Grün Ä'];
    await house.db.raw('update products set highlights = ?::jsonb where id = ?', [JSON.stringify(entries), item!.id]);
    const isMeant = async (clause: Clause) => (await meant({ clauses: [clause] })).includes(item!.sku);
    for (const value of entries) {
      expect(await isMeant({ is: 'equals', field: 'highlights', value: value.toUpperCase() }), value).toBe(true);
      expect(await isMeant({ is: 'contains', field: 'highlights', value: value.slice(2) }), value).toBe(true);
      expect(await isMeant({ is: 'differs', field: 'highlights', value }), value).toBe(false);
    }
    // The end of an entry behind a sign of its own is no entry.
    expect(await isMeant({ is: 'equals', field: 'highlights', value: 'Dishwasher safe' })).toBe(false);
    expect(await isMeant({ is: 'lacks', field: 'highlights', value: 'dishwasher safe' })).toBe(false);
    // What stands between entries stands in none of them.
    for (const value of [',', '", "', '[', ' ,'])
      expect(await isMeant({ is: 'contains', field: 'highlights', value }), value).toBe(false);
    const many = ['a', 'b', 'c', 'd', 'e', entries[3]!];
    expect(await isMeant({ is: 'one-of', field: 'highlights', values: many })).toBe(true);
    expect(await isMeant({ is: 'none-of', field: 'highlights', values: many })).toBe(false);
    await house.db.raw('update products set highlights = ?::jsonb where id = ?', [
      JSON.stringify(item!.fields['highlights'] ?? []),
      item!.id,
    ]);
  });
  it('finds nothing between a greater and a lesser', async () => {
    const nothing = { is: 'between', field: 'price', from: '20', to: '10' } as const;
    expect(await meant({ clauses: [nothing] })).toEqual([]);
    const { length } = await meant({ match: 'any', clauses: [nothing, { is: 'over', field: 'price', value: '0' }] });
    expect(length).toBeGreaterThan(1000);
  });
  it('wants all of its conditions, or one of them', async () => {
    const clauses: Clause[] = [
      { is: 'over', field: 'price', value: '20' },
      { is: 'equals', field: 'stock', value: '0' },
    ];
    const dear = (p: Product): boolean => num(p, 'price') > 20,
      gone = (p: Product): boolean => num(p, 'stock') === 0;
    expect(await meant({ clauses })).toEqual(
      items
        .filter((p) => dear(p) && gone(p))
        .map((p) => p.sku)
        .sort(),
    );
    expect(await meant({ clauses, match: 'any' })).toEqual(
      items
        .filter((p) => dear(p) || gone(p))
        .map((p) => p.sku)
        .sort(),
    );
    const also: Clause[] = [{ is: 'equals', field: 'brand', value: brand() }];
    const narrower = items
      .filter((p) => (dear(p) || gone(p)) && text(p, 'brand') === brand())
      .map((p) => p.sku)
      .sort();
    expect(narrower.length).toBeGreaterThan(0);
    expect(await meant({ clauses, match: 'any', also })).toEqual(narrower);
  });
  it.each(['sold', 'single', 'family', 'variant', 'bundle'] as const)('means rows of a kind: %s', async (rows) => {
    const expected = items
      .filter((p) => (rows === 'sold' ? sold(p) : p.kind === rows))
      .map((p) => p.sku)
      .sort();
    expect(expected.length).toBeGreaterThan(0);
    expect(await meant({ rows })).toEqual(expected);
  });
  it('means those in a category and under it', async () => {
    const [category] = [...new Set(items.map((i) => text(i, 'category')))].filter((c) => c !== '');
    await house.call('POST', '/own-categories', { name: 'Everything of that sort' });
    await house.call('POST', '/own-categories/change', { name: category, parent: 'Everything of that sort' });
    expect(await meant({ clauses: [{ is: 'within', field: 'category', value: 'everything of that sort' }] })).toEqual(
      items
        .filter((p) => text(p, 'category') === category)
        .map((p) => p.sku)
        .sort(),
    );
  });
  it('means named SKUs, and says which are not in the catalog', async () => {
    const skus = [items[0]!.sku, items[5]!.sku, 'NO-SUCH'];
    expect(await meant({ skus })).toEqual([items[0]!.sku, items[5]!.sku].sort());
    const { id } = (await remember({ skus })).body;
    expect((await house.call<{ unknown: string[] }>('GET', `/choices/${id}`)).body.unknown).toEqual(['NO-SUCH']);
  });
  it('means what stands so on a market, what a check finds, and what a change has changed', async () => {
    const bySql = async (sql: string) => (await house.rows<{ sku: string }>(sql)).map((r) => r.sku).sort();
    const live = await bySql(
      `select p.sku from products p join listings l on l.product_id = p.id where l.market_state = 'live'`,
    );
    expect(live.length).toBeGreaterThan(0);
    expect(await meant({ clauses: [{ is: 'state', market: 'quillhaven', state: 'live' }] })).toEqual(live);
    const [cause] = await house.rows<{ check: string; message: string }>(
      `select "check", message from findings where field = 'item_number' group by 1, 2 order by count(*) desc limit 1`,
    );
    const found = await bySql(
      `select distinct p.sku from findings f join listings l on l.id = f.listing_id join products p on p.id = l.product_id
        where f.field = 'item_number' and f.market_id = 1 and f."check" = '${cause!.check}' and f.message = '${cause!.message}'`,
    );
    expect(await meant({ clauses: [{ is: 'finding', ...cause!, field: 'gtin' }] })).toEqual(found);
    const { changeSet } = (
      await house.call<{ changeSet: number }>('PATCH', '/products', {
        cells: [{ id: items[3]!.id, field: 'mpn', before: items[3]!.fields['mpn'] ?? null, after: 'NEW-1' }],
      })
    ).body;
    expect(await meant({ clauses: [{ is: 'change-set', set: changeSet }] })).toEqual([items[3]!.sku]);
    await house.db.raw(`update products set updated_at = '2020-01-01' where id <> ?`, [items[3]!.id]);
    expect(await meant({ clauses: [{ is: 'changed', since: '2026-01-01' }] })).toEqual([items[3]!.sku]);
  });
  it('is one choice however often it is asked, and has a name that no other has', async () => {
    const first = (await remember({ rows: 'variant', search: 'mug' })).body,
      again = (await remember({ rows: 'variant', search: 'mug' })).body,
      other = (await remember({ rows: 'variant', search: 'pan' })).body;
    expect(again.id).toBe(first.id);
    expect(other.id).not.toBe(first.id);
    expect((await house.call('PUT', `/choices/${first.id}`, { name: 'Mugs' })).status).toBe(200);
    const refused = await house.call<{ message: string }>('PUT', `/choices/${other.id}`, { name: 'Mugs' });
    expect([refused.status, refused.body.message]).toEqual([409, 'Another choice is called “Mugs”.']);
    const named = (await house.call<{ rows: ChoiceShape[] }>('GET', '/choices')).body.rows;
    expect(named.map((c) => [c.id, c.name])).toEqual([[first.id, 'Mugs']]);
    await house.call('PUT', `/choices/${first.id}`, { name: null });
    expect((await house.call<{ rows: ChoiceShape[] }>('GET', '/choices')).body.rows).toEqual([]);
  });
  it('is forgotten half a year after it was last asked for, unless it has a name', async () => {
    const ids = [];
    for (const search of ['named', 'asked again', 'old']) ids.push((await remember({ search })).body.id);
    await house.call('PUT', `/choices/${ids[0]!}`, { name: 'Named' });
    await house.db.raw(`update choices set at = now() - interval '181 days' where id = any(?)`, [[ids[0]!, ids[2]!]]);
    await remember({ search: 'asked again' });
    const status = async (id: number) => (await house.call('GET', `/choices/${id}`)).status;
    expect([await status(ids[0]!), await status(ids[1]!), await status(ids[2]!)]).toEqual([200, 200, 404]);
    await house.call('PUT', `/choices/${ids[0]!}`, { name: null });
  });
  it('that cannot be asked is refused in words', async () => {
    const refused = await remember({ clauses: [{ is: 'over', field: 'price', value: 'ten' }] });
    expect([refused.status, refused.body.message]).toEqual([
      400,
      'Price is compared with numbers; “ten” is none. Write digits with a point, such as 12.5.',
    ]);
    expect((await house.call('GET', '/choices/99999')).status).toBe(404);
    expect((await house.call('GET', '/products?choice=99999')).status).toBe(404);
  });
});

describe('a measure', () => {
  it.each([
    ['35 cm', '300 mm', true],
    ['35cm', '300 mm', true],
    ['35.5  cm', '355 mm', false],
    ['35.5 cm', '354.9 mm', true],
    ['0.4 m', '39 cm', true],
    ['-5 cm', '-60 mm', true],
    ['-5 cm', '1 mm', false],
    ['35 kg', '1 mm', false],
  ])('of %s is compared with %s however it is written', async (width, value, isOver) => {
    const item = items.find((p) => p.kind === 'single')!;
    const put = (to: unknown) =>
      house.rows(
        `update products set facts = jsonb_strip_nulls(facts || jsonb_build_object('width', ?::text)) where id = ? returning id`,
        [to, item.id],
      );
    await put(width);
    try {
      expect((await meant({ clauses: [{ is: 'over', field: 'fact.width', value }] })).includes(item.sku)).toBe(isOver);
    } finally {
      await put(item.fields['fact.width'] ?? null);
    }
  });
});

describe('what stands in a field from when it was of another kind', () => {
  it.each(['5 -cm', '5.cm', '-', '.', '--3 cm', 'about 3 cm', '12', 'cm', '1.2.3 cm', '7 cm 2', '12 3cm', '7  -cm'])(
    'is passed over, and fails no question: “%s”',
    async (odd) => {
      const item = items.find((p) => p.kind === 'single')!;
      const put = (width: unknown, price: unknown) =>
        house.rows(
          `update products set facts = jsonb_strip_nulls(facts || jsonb_build_object('width', ?::text, 'price@eur', ?::text)) where id = ? returning id`,
          [width, price, item.id],
        );
      await put(odd, odd);
      try {
        for (const clause of [
          { is: 'over', field: 'fact.width', value: '1 mm' },
          { is: 'at-most', field: 'fact.width', value: '100 cm' },
          { is: 'over', field: 'fact.price@eur', value: '100000' },
        ] as const) {
          const { id } = (await remember({ clauses: [clause] })).body;
          const { status } = await house.call('GET', `/choices/${id}`);
          expect(status).toBe(200);
        }
        expect(await meant({ clauses: [{ is: 'over', field: 'fact.width', value: '1 mm' }] })).not.toContain(item.sku);
      } finally {
        await put(item.fields['fact.width'] ?? null, item.fields['fact.price@eur'] ?? null);
      }
    },
  );
});
