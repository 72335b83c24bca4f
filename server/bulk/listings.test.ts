// The listings of one market chosen and changed in bulk, through the server's own doors.
import type { BulkCounts, BulkTrial, ChoiceShape, Job, SampleItem } from '@basileus/contract';
import type { ChangeOperation, ChangeStep } from '@basileus/core/change';
import { type Clause, type Which, whichSchema } from '@basileus/core/choose';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse, takeBack, until } from '../tests/house';

let house: House;
beforeAll(async () => {
  house = await openHouse('bulk_listings_test', { size: 240, with: ['torgvik'] });
});
afterAll(() => house.close());

interface Listed {
  id: number;
  product: number;
  sku: string;
  kind: string;
  category: string | null;
  state: string;
  values: Record<string, string | string[]>;
  overrides: Record<string, string | string[]>;
}
/** Listings of a market as they stand, without asking the server. */
const listings = (market: string) =>
  house.rows<Listed>(
    `select l.id, p.id as product, p.sku, p.kind, l.category, l.market_state as state, l."values", l.overrides
      from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
      where m.key = '${market}' order by l.id`,
  );
const step = (field: string, operation: ChangeOperation): ChangeStep => ({ field, operation });
const whichOf = (...clauses: Clause[]): Which => whichSchema.parse({ clauses });
const meant = async (...clauses: Clause[]): Promise<string[]> => {
  const choice = (await house.call<ChoiceShape>('POST', '/choices', { which: whichOf(...clauses) })).body;
  const rows = (
    await house.call<{ rows: { sku: string }[] }>('GET', `/products?choice=${choice.id}&open=all&limit=500`)
  ).body.rows;
  return rows.map((r) => r.sku).sort();
};
const skusOf = (rows: readonly Listed[]): string[] => rows.map((r) => r.sku).sort();
const text = (l: Listed, field: string): string => [l.values[field] ?? ''].flat().join(' | ');

interface Begun {
  changeSet: number;
  job: string;
  message: string;
}
async function change(which: Which, steps: ChangeStep[]): Promise<number> {
  const begun = await house.call<Begun>('POST', '/bulk', { which, steps, title: '' });
  expect([begun.status, begun.body.message]).toEqual([200, undefined]);
  await until(
    async () => (await house.rows<Job>(`select state from jobs where id = '${begun.body.job}'`))[0]!.state,
    (s) => s === 'done',
  );
  return begun.body.changeSet;
}

describe('a condition on a field of a market', () => {
  it('means the items whose listings there hold it, in whatever words of its list', async () => {
    const all = await listings('torgvik');
    const { words } = (
      await house.call<{ codeLists: Record<string, { entries: { code: string; label: string }[] }> }>(
        'GET',
        '/markets/torgvik/rulebook',
      )
    ).body.codeLists['farg']!.entries.reduce((n, e) => ({ words: { ...n.words, [e.code]: e.label } }), {
      words: {} as Record<string, string>,
    });
    const code = Object.keys(words).find((c) => words[c] !== c && all.some((l) => text(l, 'farg') === c))!;
    const expected = skusOf(all.filter((l) => text(l, 'farg') === code));
    expect(expected.length).toBeGreaterThan(0);
    expect(await meant({ is: 'equals', field: 'torgvik/farg', value: code })).toEqual(expected);
    expect(await meant({ is: 'equals', field: 'torgvik/farg', value: words[code]!.toUpperCase() })).toEqual(expected);
    const dear = all.filter((l) => Number(text(l, 'pris@de')) > 20);
    expect(dear.length).toBeGreaterThan(0);
    expect(await meant({ is: 'over', field: 'torgvik/pris@de', value: '20' })).toEqual(skusOf(dear));
  });
  it('means by what it lacks only what is asked for the field', async () => {
    const all = await listings('quillhaven');
    const without = all.filter((l) => text(l, 'colour') === '');
    const asked = new Set(
      (
        await house.rows<{ key: string }>(
          `select distinct l.category as key from listings l join markets m on m.id = l.market_id where m.key = 'quillhaven' and l."values" ->> 'colour' <> ''`,
        )
      ).map((r) => r.key),
    );
    const said = await meant({ is: 'empty', field: 'quillhaven/colour' });
    expect(said.length).toBeGreaterThan(0);
    expect(said.length).toBeLessThan(without.length);
    expect(said.filter((s) => !without.some((l) => l.sku === s))).toEqual([]);
    // Whatever stands in a leaf where others have a colour, and has none, is meant.
    expect(skusOf(without.filter((l) => asked.has(l.category ?? ''))).filter((s) => !said.includes(s))).toEqual([]);
  });
  it('is refused in words where it cannot be asked', async () => {
    const ask = async (clause: Clause) =>
      (await house.call<{ message: string }>('POST', '/choices', { which: whichOf(clause) })).body.message;
    expect(await ask({ is: 'equals', field: 'quillhaven/no_such', value: 'x' })).toBe(
      'There is no field “quillhaven/no_such” any more; choose another.',
    );
    expect(await ask({ is: 'over', field: 'quillhaven/price', value: 'ten' })).toMatch(
      /^Price on Quillhaven is compared with numbers/,
    );
    expect(await ask({ is: 'equals', field: 'quillhaven/category', value: 'no leaf' })).toBe(
      'Category on Quillhaven has no word “no leaf”; choose one of its list.',
    );
  });
});

describe('listings of a market', () => {
  it('are changed there alone, told apart from then on, follow the catalog again, and are taken back', async () => {
    const before = await listings('quillhaven'),
      elsewhere = await listings('torgvik');
    const priced = before.filter((l) => l.category !== null && text(l, 'price') !== '' && l.kind !== 'family');
    const set = await change(whichOf(), [step('quillhaven/price', { do: 'raise', by: 'amount', of: '1' })]);
    const cents = (l: Listed): number => Math.round(Number(text(l, 'price')) * 100);
    const after = new Map((await listings('quillhaven')).map((l) => [l.id, l]));
    expect(priced.length).toBeGreaterThan(0);
    expect(priced.filter((l) => cents(after.get(l.id)!) !== cents(l) + 100).map((l) => l.sku)).toEqual([]);
    expect(await listings('torgvik')).toEqual(elsewhere);
    const typed = await meant({ is: 'typed', field: 'quillhaven/price' });
    expect(typed).toEqual(skusOf(priced));
    const rest = await meant({ is: 'from-catalog', field: 'quillhaven/price' });
    expect(rest.filter((s) => typed.includes(s))).toEqual([]);
    const named = await house.rows<{ title: string; target: string; market: string }>(
      `select s.title, s.target, m.key as market from change_sets s join markets m on m.id = s.market_id where s.id = ${set}`,
    );
    expect(named).toEqual([
      { title: expect.stringMatching(/^Price on Quillhaven, /), target: 'listings', market: 'quillhaven' },
    ]);
    // What was typed for the market goes, what the catalog says comes again.
    const back = await change(whichOf({ is: 'typed', field: 'quillhaven/price' }), [
      step('quillhaven/price', { do: 'follow' }),
    ]);
    const plain = (rows: readonly Listed[]) => rows.map(({ id, values, overrides }) => ({ id, values, overrides }));
    const was = new Map(before.map((l) => [l.id, l]));
    const without = (l: Listed) => {
      const { price: _, ...others } = l.overrides;
      return others;
    };
    expect((await listings('quillhaven')).map((l) => [l.sku, l.overrides])).toEqual(
      before.map((l) => [l.sku, without(l)]),
    );
    await takeBack(house, back);
    await takeBack(house, set);
    expect(
      plain(await listings('quillhaven')).filter(
        (l) => JSON.stringify(l.values) !== JSON.stringify(was.get(l.id)!.values),
      ),
    ).toEqual([]);
  });
  it('are left alone where the leaf does not ask for a field, where there is no leaf, and where the item is not wanted', async () => {
    const all = await listings('quillhaven');
    const out = all.find((l) => l.kind === 'single' && l.state === 'none' && l.category !== null)!;
    const isMeant = async () => (await meant({ is: 'from-catalog', field: 'quillhaven/price' })).includes(out.sku);
    expect(await isMeant()).toBe(true);
    await house.call('POST', '/markets/quillhaven/listings/wanted', { ids: [out.id], wanted: false });
    expect(await isMeant()).toBe(false);
    const count = (
      await house.call<BulkCounts>('POST', '/bulk/count', {
        which: whichOf(),
        steps: [step('quillhaven/colour', { do: 'set', value: 'Blue' })],
      })
    ).body;
    const kinds = count.problems.map((p) => p.problem.fault.kind).sort();
    expect(kinds).toEqual(['no-category', 'not-in-category', 'not-on-market']);
    expect(count.problems.find((p) => p.problem.fault.kind === 'not-on-market')).toMatchObject({
      count: 1,
      sku: out.sku,
    });
    expect(count.changed + count.same + count.wrong).toBe(count.total);
    await house.call('POST', '/markets/quillhaven/listings/wanted', { ids: [out.id], wanted: true });
  });
  it('take over from the items, and the items from them', async () => {
    const [sample] = (
      await house.call<{ rows: SampleItem[] }>('POST', '/bulk/samples', { which: whichOf(), market: 'quillhaven' })
    ).body.rows;
    const title = sample!.fields['quillhaven/title'] as string;
    expect(title.length).toBeGreaterThan(0);
    const only = whichSchema.parse({ ids: [sample!.id] });
    const set = await change(only, [step('quillhaven/title', { do: 'formula', formula: '[Title] & " " & [SKU]' })]);
    const now = async () => (await listings('quillhaven')).find((l) => l.product === sample!.id)!;
    expect(text(await now(), 'title')).toBe(`${String(sample!.fields['title'])} ${sample!.sku}`);
    const other = await change(only, [step('title', { do: 'copy', from: 'quillhaven/title' })]);
    expect(await house.rows<{ title: string }>(`select title from products where id = ${sample!.id}`)).toEqual([
      { title: `${String(sample!.fields['title'])} ${sample!.sku}` },
    ]);
    await takeBack(house, other);
    await takeBack(house, set);
    expect(text(await now(), 'title')).toBe(title);
  });
  it('are put into another leaf, and the field of that leaf with it', async () => {
    const free = (await listings('quillhaven')).find(
      (l) => l.category !== null && l.state === 'none' && l.kind === 'single',
    )!;
    const leaf = (await listings('quillhaven')).find(
      (l) => l.category !== null && l.category !== free.category,
    )!.category!;
    const only = whichSchema.parse({ ids: [free.product] });
    const set = await change(only, [step('quillhaven/category', { do: 'set', value: leaf })]);
    expect((await listings('quillhaven')).find((l) => l.id === free.id)!.category).toBe(leaf);
    await takeBack(house, set);
    expect((await listings('quillhaven')).find((l) => l.id === free.id)!.category).toBe(free.category);
  });
  it('are not changed beside items in one change', async () => {
    const refused = await house.call<{ message: string; field: string }>('POST', '/bulk/count', {
      which: whichOf(),
      steps: [step('price', { do: 'clear' }), step('quillhaven/price', { do: 'clear' })],
    });
    expect([refused.status, refused.body.field, refused.body.message]).toEqual([
      400,
      'steps.1',
      'Price on Quillhaven stands elsewhere than the first field; change items and the listings of each market one after the other.',
    ]);
  });
  it('are tried like items: what the market would find, nothing kept', async () => {
    const before = await listings('quillhaven');
    const tried = (
      await house.call<{ tried: number; markets: { market: string; news: { finding: { check: string } }[] }[] }>(
        'POST',
        '/bulk/try',
        {
          which: whichOf(),
          steps: [step('quillhaven/title', { do: 'set', value: 'FREE SHIPPING!!! call 0800 123456' })],
        },
      )
    ).body;
    expect(tried.tried).toBeGreaterThan(0);
    expect(tried.markets.find((m) => m.market === 'quillhaven')!.news.length).toBeGreaterThan(0);
    expect(tried.markets.find((m) => m.market === 'torgvik')!.news).toEqual([]);
    expect(await listings('quillhaven')).toEqual(before);
  });
  it('are tried all of them by a job, some at a time, and nothing is kept', async () => {
    const before = await listings('quillhaven');
    const steps = [step('quillhaven/title', { do: 'set', value: 'FREE SHIPPING!!! call 0800 123456' })];
    const count = (await house.call<BulkCounts>('POST', '/bulk/count', { which: whichOf(), steps })).body;
    // More than a step takes, so that what several have found is put together.
    expect(count.changed).toBeGreaterThan(200);
    const { trial } = (await house.call<{ trial: number }>('POST', '/bulk/trials', { which: whichOf(), steps })).body;
    const ended = await until(
      async () => (await house.call<BulkTrial>('GET', `/bulk/trials/${trial}`)).body,
      (t) => t.state !== 'running',
    );
    expect(ended).toMatchObject({ state: 'done', total: count.total, done: count.total, tried: count.changed });
    const { news } = ended.markets.find((m) => m.market === 'quillhaven')!;
    // Of each cause once, with all rows that have it.
    const causes = news.map((n) => `${n.finding.check} ${n.finding.message} ${n.finding.field}`);
    expect(new Set(causes).size).toBe(causes.length);
    expect(Math.max(...news.map((n) => n.count))).toBeGreaterThan(200);
    expect(await listings('quillhaven')).toEqual(before);
    expect((await house.call('GET', '/bulk/trials/99999')).status).toBe(404);
  });
});

describe('a price worked out to leave a margin', () => {
  it('is the least that does, by the fees of each listing, and its margin is what was asked', async () => {
    const before = await listings('quillhaven');
    const priced = before.filter((l) => l.category !== null && l.kind === 'variant' && l.state === 'none').slice(0, 40);
    const which = whichSchema.parse({ skus: priced.map((l) => l.sku) });
    const steps = [step('quillhaven/price', { do: 'leave', margin: '33.3', ending: '' })];
    const counts = (await house.call<BulkCounts>('POST', '/bulk/count', { which, steps })).body;
    expect(counts.changed).toBeGreaterThan(20);
    const set = await change(which, steps);
    const margins = () =>
      house.rows<{ sku: string; margin: number | null; price: string; cost: string | null; sale: string | null }>(
        `select p.sku, l.margin, l."values" ->> 'price' as price, l."values" ->> 'sale_price' as sale, p.cost::text as cost
          from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
          where m.key = 'quillhaven' and p.sku = any(?) order by p.sku`,
        [priced.map((l) => l.sku)],
      );
    const after = (await margins()).filter((r) => r.cost !== null && r.sale === null);
    expect(after.length).toBeGreaterThan(20);
    // A penny is more than a thousandth of a cheap item.
    for (const r of after) {
      expect([r.sku, r.margin! >= 333]).toEqual([r.sku, true]);
      expect(r.margin! - 333).toBeLessThanOrEqual(Math.ceil(10 / Number(r.price)));
    }
    await takeBack(house, set);
  });
  it('leaves alone what has no cost, and says so', async () => {
    const [item] = (await listings('torgvik')).filter(
      (l) => l.category !== null && l.state === 'none' && l.kind === 'variant',
    );
    const [{ cost }] = (await house.rows<{ cost: string }>('select cost::text as cost from products where id = ?', [
      item!.product,
    ])) as [{ cost: string }];
    const setCost = (was: string | null, cost: string | null) =>
      house.call('PATCH', '/products', { cells: [{ id: item!.product, field: 'cost', before: was, after: cost }] });
    await setCost(cost, null);
    const counts = (
      await house.call<BulkCounts>('POST', '/bulk/count', {
        which: whichSchema.parse({ skus: [item!.sku] }),
        steps: [step('torgvik/pris@se', { do: 'leave', margin: '20', ending: '.00' })],
      })
    ).body;
    expect(counts).toMatchObject({
      changed: 0,
      wrong: 1,
      problems: [{ count: 1, sku: item!.sku, problem: { field: 'torgvik/pris@se', fault: { kind: 'cost-unknown' } } }],
    });
    await setCost(null, cost);
  });
});
