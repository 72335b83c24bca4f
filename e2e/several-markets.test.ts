// Five markets that differ in everything, side by side: one family goes to each in its own shape, and what each says of it
// is seen in the browser.
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openWorld, until, type World } from './world';

const markets = ['quillhaven', 'torgvik', 'cedarpost', 'wadiline', 'lumbara'];
let world: World, page: Page;
beforeAll(async () => {
  world = await openWorld('several_e2e', { size: 200, markets, work: 100, review: 400 });
  page = await world.newPage();
});
afterAll(() => world.close());
const goto = async (path: string) => {
  await page.goto(world.base + path);
};
interface Row {
  id: number;
  sku: string;
  market: string;
  state: string;
}
const rowsOf = (where: string, ...bindings: unknown[]) =>
  world.query<Row>(
    `select l.id::int, p.sku, m.key as market, l.market_state as state from listings l
      join products p on p.id = l.product_id join markets m on m.id = l.market_id where ${where} order by p.sku`,
    bindings,
  );
const ready = (operation: string) => `l.in_flight = 0 and l.planned @> '[{"operation": "${operation}", "held": null}]'`;
const entryOf = async (market: string, sku: string): Promise<Record<string, never>> =>
  (await (await fetch(`${world.markets[market]!}/_control/entry`, { method: 'POST', body: sku })).json()) as Record<
    string,
    never
  >;

describe('one family on every market', () => {
  let members: string[];
  it('is sent to each, and is live on each in its own shape', async () => {
    // Members that nothing holds on any of the five, of a family that is divided by as much as can be had.
    const [family] = await world.query<{ id: number; skus: string[] }>(
      `select id, array_agg(sku order by sku) as skus
        from (
          select p.parent_id as id, p.sku, p.axes
          from products p join listings l on l.product_id = p.id
          where p.parent_id is not null and ${ready('create')}
          group by 1, 2, 3 having count(*) = 5) as free
        group by id, axes having count(*) >= 3 order by jsonb_array_length(to_jsonb(axes)) desc, id limit 1`,
    );
    expect(family).toBeDefined();
    for (const market of markets) {
      const rows = await rowsOf(
        `m.key = $1 and (p.sku = any($2) or p.id = $3) and ${ready('create')}`,
        market,
        family!.skus,
        family!.id,
      );
      expect(rows.length, market).toBeGreaterThan(2);
      const { dispatch } = await world.api<{ dispatch: { id: number } }>('POST', `/markets/${market}/dispatches`, {
        operation: 'create',
        ids: rows.map((r) => r.id),
        looked: true,
        by: 'wire',
        key: `several-${market}`,
      });
      expect(dispatch).toBeDefined();
    }
    members = family!.skus;
    const all = await until(
      () => rowsOf('p.sku = any($1)', members),
      (rows) => rows.every((r) => r.state === 'live'),
    );
    expect(all).toHaveLength(members.length * markets.length);
    const [sku] = members;
    const shapes = await Promise.all(markets.map((m) => entryOf(m, sku!)));
    const text = shapes.map((s) => JSON.stringify(s));
    // Under two header rows; with a decimal comma in two currencies; nested, with numbers; in two scripts, of three places;
    // as one of the items in its family's entry, in yen.
    expect(text[0]).toContain('"house_sku"');
    expect(text[1]).toMatch(/"pris_de":"\d+,\d{2}","pris_se":"\d+,\d{2}"/);
    expect(text[2]).toMatch(/"kin":\{"of":"[^"]+","part":"member","vary":\[("[a-z_]+",?)+\]\}/);
    expect(text[2]).toMatch(/"ask":\d+(\.\d+)?[,}]/);
    expect(text[3]).toMatch(/"words\[tongue=ar\]\.name":"[^"]*\p{Script=Arabic}/u);
    expect(text[3]).toMatch(/"terms\.price":"\d+\.\d{3}"/);
    expect(text[4]).toMatch(/"枝\{n\}値":"\d+"/);
  });
  it('shows each market what it alone would get of a change, and the file as it will be', async () => {
    const [row] = await rowsOf(`m.key = 'cedarpost' and p.sku = $1`, members[0]);
    await world.api('PATCH', '/markets/cedarpost/listings', {
      cells: [{ id: row!.id, field: 'state', before: 'sealed', after: 'opened' }],
    });
    await goto('/cedarpost/send?operation=revise');
    await page.getByRole('button', { name: 'Look at the file' }).click();
    const dialog = page.getByRole('dialog', { name: /^cedarpost-goods-/ });
    await dialog.getByText(/one object of JSON a line, in UTF-8\.$/).waitFor();
    const record = dialog.getByRole('region', { name: members[0]!, exact: true });
    await record.getByText('opened').waitFor();
    expect(await record.getByText('(changed)').count()).toBe(1);
    await page.keyboard.press('Escape');
    expect(await rowsOf(`${ready('revise')} and m.key <> 'cedarpost' and p.sku = $1`, members[0])).toEqual([]);
  });
  it('shows a sheet of XML with its tongues, each the way it runs', async () => {
    await goto('/wadiline/send?operation=create');
    await page.getByRole('button', { name: 'Look at the file' }).click();
    const dialog = page.getByRole('dialog', { name: /^wd-full-/ });
    await dialog.getByText(/a document of XML, in UTF-8\.$/).waitFor();
    const first = dialog.getByRole('region').first();
    const names = await first
      .locator('dd [dir="auto"]')
      .evaluateAll((all) => all.map((e) => getComputedStyle(e).direction));
    expect(new Set(names)).toEqual(new Set(['rtl', 'ltr']));
    await page.keyboard.press('Escape');
  });
  it('shows a file of records of families under our words for its columns', async () => {
    await goto('/lumbara/send?operation=create');
    await page.getByRole('button', { name: 'Look at the file' }).click();
    const dialog = page.getByRole('dialog', { name: /^lb-ichiran-/ });
    await dialog.getByText(/divided by commas, in Shift_JIS, under our words for its columns\.$/).waitFor();
    const columns = await dialog.getByRole('columnheader').allInnerTexts();
    expect([columns[1], columns[3]]).toEqual(['Family', 'Name']);
    const rows = dialog.getByRole('row');
    const price = columns.indexOf('Variant 2: Price');
    expect(await rows.nth(1).getByRole('cell').nth(price).innerText()).toBe('枝2値');
    expect(await rows.nth(2).getByRole('cell').nth(price).innerText()).toMatch(/^\d+$/);
    expect(await rows.nth(2).getByRole('cell').nth(3).innerText()).toMatch(/\p{Script=Katakana}/u);
    await page.keyboard.press('Escape');
  });
  it('counts a Japanese name in the bytes of the market, and mends it where it is too long', async () => {
    const [head] = await world.query<{ id: number; sku: string; name: string }>(
      `select l.id::int, p.sku, l."values" ->> 'na' as name from listings l join products p on p.id = l.product_id
        join markets m on m.id = l.market_id
        where m.key = 'lumbara' and p.kind = 'family' and ${ready('create')} order by p.id limit 1`,
    );
    await world.api('PATCH', '/markets/lumbara/listings', {
      cells: [{ id: head!.id, field: 'na', before: head!.name, after: `${head!.name}　毎日使える丈夫で長持ちの逸品` }],
    });
    const heldOf = async () =>
      (
        await world.query<{ held: string | null }>(
          `select distinct l.planned -> 0 ->> 'held' as held from listings l join products p on p.id = l.product_id
            join markets m on m.id = l.market_id
            where m.key = 'lumbara' and p.parent_id = (select product_id from listings where id = $1)`,
          [head!.id],
        )
      ).map((r) => r.held);
    expect(await heldOf()).toEqual(['family']);
    await goto('/lumbara/check?cause=text-length.tooManyBytes.na');
    await page
      .getByText(/Name takes \d+ bytes in Shift_JIS; Lumbara takes 56\./)
      .first()
      .waitFor();
    await page.getByRole('button', { name: 'Remedy …' }).click();
    const remedy = page.getByRole('dialog');
    await remedy.getByRole('checkbox', { name: `Mend ${head!.sku}`, exact: true }).check();
    await remedy.getByRole('button', { name: 'Mend 1' }).click();
    await until(heldOf, (held) => held.length === 1 && held[0] === null);
  });
  it('says why a market took something back days later, and asks for it to be made anew', async () => {
    const sku = members.at(-1)!;
    const [row] = await rowsOf(`m.key = 'wadiline' and p.sku = $1`, sku);
    const [{ name }] = (await world.query<{ name: string }>(
      `select "values" ->> 'name@en' as name from listings where id = $1`,
      [row!.id],
    )) as [{ name: string }];
    await world.api('PATCH', '/markets/wadiline/listings', {
      cells: [{ id: row!.id, field: 'name@en', before: name, after: `${name} Replica` }],
    });
    await goto('/wadiline/send?operation=revise');
    await page.getByRole('button', { name: /^Send \d+ now$/ }).click();
    await until(
      async () => ({
        rows: await rowsOf('l.id = $1', row!.id),
        last: await world.query(`select state, fault, trouble from dispatches order by id desc limit 1`),
      }),
      ({ rows }) => rows[0]?.state === 'refused',
    );
    await goto('/wadiline/settle?state=refused');
    await page
      .getByRole('row', { name: new RegExp(sku) })
      .getByText(/This is a copy of other goods/)
      .waitFor();
    await goto('/');
    await page.getByRole('region', { name: 'Today' }).getByText('rows ready to go').waitFor();
    await page.locator('a[href^="/wadiline/send"]').first().waitFor();
  });
});

describe('what several markets ask of one field', () => {
  it('is one line, leads to the items in the catalog, and is settled everywhere by one mend', async () => {
    const [bare] = await world.query<{ id: number; gtin: string }>(
      `select p.id::int, p.gtin from products p join listings l on l.product_id = p.id
        where p.kind in ('single', 'variant') and p.gtin ~ '^952' and l.category is not null
        group by p.id, p.gtin having count(*) = 5 order by p.id desc limit 1`,
    );
    await world.api('PATCH', '/products', {
      cells: [{ id: bare!.id, field: 'gtin', before: bare!.gtin, after: null }],
    });
    await goto('/all/check');
    const shared = page.getByRole('region', { name: 'Mended once, on the item' });
    const line = shared.getByRole('link', { name: /“GTIN” is missing/ });
    expect(await line.innerText()).toMatch(/settles \d+ on \w+, \d+ on \w+/);
    const missing = () =>
      world.query<{ sku: string; market: number }>(
        `select p.sku, l.market_id as market from findings f join listings l on l.id = f.listing_id join products p on p.id = l.product_id
          where f."check" = 'demanded-missing' and f.message = 'must' and p.gtin is null
            and f.field in ('item_number', 'streckkod', 'code', 'barcode', 'jan') order by p.sku`,
      );
    const before = await missing();
    expect(before.length).toBeGreaterThan(1);
    await line.click();
    await page.getByText('only where “GTIN” is missing').waitFor();
    const items = new Set(before.map((b) => b.sku));
    await page.getByText(new RegExp(`^${items.size} found of`)).waitFor();
    const [sku] = items;
    const [item] = await world.query<{ id: number }>('select id::int from products where sku = $1', [sku]);
    await world.api('PATCH', '/products', {
      cells: [{ id: item!.id, field: 'gtin', before: null, after: '9529990000308' }],
    });
    await until(
      () => missing(),
      (rows) => !rows.some((r) => r.sku === sku),
    );
  });
});

describe('every item on every market', () => {
  const cell = (sku: string, market: string) =>
    page
      .getByRole('row', { name: new RegExp(sku) })
      .getByRole('gridcell')
      .nth(2 + markets.indexOf(market));
  it('is seen on one board, narrowed to a state on a market, and mended from there', async () => {
    const [held] = await world.query<{ sku: string; id: number }>(
      `select p.sku, l.id::int from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
        join findings f on f.listing_id = l.id
        where m.key = 'lumbara' and l.market_state = 'none' and l.category is not null and p.kind <> 'family'
          and f.level = 'blocker' order by p.sku limit 1`,
    );
    const { sku, id } = held!;
    await goto('/all/prepare');
    await page.getByLabel('Market', { exact: true }).selectOption('lumbara');
    // The address holds one choice before the next is made.
    await page.waitForURL(/=lumbara/);
    await page.getByLabel('State').selectOption('blocked');
    // Answers to what was sent before may still come in: the two are compared until they agree.
    await until(
      async () => {
        const [all] = await world.query<{ n: number }>(
          `select count(distinct l.product_id)::int as n from listings l join markets m on m.id = l.market_id
            where m.key = 'lumbara' and listing_state(l.in_flight, l.market_state, l.refusal_open, l.category, l.blockers) = 'blocked'`,
        );
        return { found: `${all!.n} found`, told: await page.getByRole('status').allInnerTexts() };
      },
      ({ found, told }) => told.some((t) => t.includes(found)),
    );
    const there = cell(sku, 'lumbara');
    await there.getByText('blocked').first().waitFor({ state: 'attached' });
    await there.click();
    // The line under the table says what keeps it.
    const [finding] = await world.query<{ field: string }>(
      `select field from findings where listing_id = $1 and level = 'blocker' order by id limit 1`,
      [id],
    );
    expect(finding).toBeDefined();
    expect(await there.getByText(/^blocker: /).count()).toBe(1);
    await page.keyboard.press('Enter');
    await page.getByRole('dialog', { name: sku }).getByRole('list', { name: 'To be mended' }).waitFor();
    await page.keyboard.press('Escape');
    expect(page.url()).toContain('/all/prepare?');
  });
  it('has its seals in the catalog, and an edit there is seen on them', async () => {
    const [item] = await world.query<{ id: number; sku: string; gtin: string }>(
      `select p.id::int, p.sku, p.gtin from products p join listings l on l.product_id = p.id
          join markets m on m.id = l.market_id
        where m.key = 'wadiline' and p.kind <> 'family' and p.gtin is not null and ${ready('create')} order by p.sku limit 1`,
    );
    const { id, sku, gtin } = item!;
    await goto(`/all/gather?q=${sku}`);
    const seals = page
      .getByRole('row', { name: new RegExp(sku) })
      .getByRole('gridcell')
      .nth(1);
    for (const name of ['Quillhaven', 'Torgvik', 'Cedarpost', 'Wadiline', 'Lumbara'])
      await seals.getByTitle(new RegExp(`^${name}: `)).waitFor();
    await seals.getByTitle('Wadiline: ready').waitFor();
    const put = (before: string | null, after: string | null) =>
      world.api('PATCH', '/products', { cells: [{ id, field: 'gtin', before, after }] });
    await put(gtin, null);
    await seals.getByTitle('Wadiline: blocked').waitFor();
    await put(null, gtin);
    await seals.getByTitle('Wadiline: ready').waitFor();
  });
});

describe('what is wanted where', () => {
  const leftOut = async (market: string): Promise<string[]> =>
    (await rowsOf(`m.key = $1 and l.market_state = 'left out'`, market)).map((r) => r.sku);
  it('is decided for an own category, which then waits for no category there', async () => {
    await goto('/lumbara/prepare?view=categories');
    await page.getByRole('button', { name: 'Leave out Griddles' }).click();
    await page.getByRole('button', { name: 'Want again Griddles' }).waitFor();
    expect((await leftOut('lumbara')).every((sku) => sku.startsWith('GP-'))).toBe(true);
    expect((await leftOut('lumbara')).length).toBeGreaterThan(3);
    await page.getByRole('button', { name: 'Want again Griddles' }).click();
    await page.getByRole('button', { name: 'Leave out Griddles' }).waitFor();
    expect(await leftOut('lumbara')).toEqual([]);
  });
  it('is decided in the catalog for several markets at once, and taken back under Prepare', async () => {
    await goto('/all/gather?q=GP-HEAR&open=all');
    await page
      .getByRole('gridcell', { name: /GP-HEAR/ })
      .first()
      .click();
    await page.getByRole('button', { name: 'Item', exact: true }).click();
    await page.getByRole('button', { name: 'Markets …' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('On Lumbara').selectOption('left out');
    await dialog.getByLabel('On Wadiline').selectOption('left out');
    await dialog.getByRole('button', { name: 'Apply to 2 places' }).click();
    await page.getByText(/Wadiline: \d listings left out; nothing is asked of them there\./).waitFor();
    expect((await leftOut('lumbara')).length).toBe((await leftOut('wadiline')).length + 1);
    await goto('/lumbara/prepare?state=left%20out');
    await page
      .getByRole('gridcell', { name: /GP-HEAR/ })
      .first()
      .click();
    await page.keyboard.press('Control+a');
    await page.getByText('Standing', { exact: true }).click();
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await until(
      () => leftOut('lumbara'),
      (skus) => skus.length === 0,
    );
    expect((await leftOut('wadiline')).length).toBeGreaterThan(1);
  });
});

describe('what a market has already', () => {
  it('is looked up, joined with an offer, and on sale under the number of the entry', async () => {
    const [item] = await world.query<{ id: number; sku: string; barcode: string; maker: string }>(
      `select l.id::int, p.sku, l."values" ->> 'barcode' as barcode, l."values" ->> 'maker' as maker
        from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
        where m.key = 'wadiline' and ${ready('create')} and l."values" ->> 'barcode' is not null
          and l."values" ->> 'across' is not null order by p.sku desc limit 1`,
    );
    const { id, sku, barcode, maker } = item!;
    const other = {
      number: 'W920001',
      name: 'A thing of that house',
      maker,
      barcode,
      shelf: 'HC-TIN',
      facts: { across: '9 cm' },
    };
    await fetch(`${world.markets['wadiline']!}/_control/other`, { method: 'POST', body: JSON.stringify(other) });
    await goto('/wadiline/prepare?view=look-up');
    await page.getByRole('button', { name: 'Look up what is new' }).click();
    const found = page.getByRole('region', { name: 'Entries that are there already' });
    const row = found.getByRole('row', { name: sku });
    await row.getByText('A thing of that house').waitFor();
    await row.getByText('9 cm').waitFor();
    await row.getByLabel(sku).check();
    await found.getByRole('button', { name: 'Join 1' }).click();
    await page.getByText('1 item is to go as an offer on the market’s entry.').waitFor();
    await found.getByRole('button', { name: 'Joined' }).click();
    await row.getByRole('link', { name: sku }).click();
    const editor = page.getByRole('dialog', { name: sku });
    await editor.getByText('Goes as an offer on entry').waitFor();
    await editor
      .getByLabel('All fields')
      .or(editor.getByRole('button', { name: 'All fields' }))
      .click();
    expect(await editor.getByLabel('Diameter').count()).toBe(0);
    await goto('/wadiline/send?operation=offer');
    await page.getByRole('button', { name: 'Send 1 now' }).click();
    const [sent] = await until(
      () =>
        world.query<{ state: string; number: string | null }>(
          'select market_state as state, number from listings where id = $1',
          [id],
        ),
      ([l]) => l?.state === 'live',
    );
    expect(sent!.number).toBe('W920001');
    expect((await entryOf('wadiline', sku))['joins']).toBe(true);
  });
});

describe('all that is ready', () => {
  it('goes to every market at once, but to those that are left out, and says of each what became of it', async () => {
    await goto('/all/send');
    await page.getByRole('button', { name: /^Send all that is ready/ }).click();
    const dialog = page.getByRole('dialog', { name: 'Send all that is ready' });
    await dialog.getByLabel('Torgvik').uncheck();
    const before = await world.query<{ n: number }>('select count(*)::int as n from dispatches');
    await dialog.getByRole('button', { name: /^Send [\d,]+ rows to 4 markets$/ }).click();
    const done = page.getByRole('dialog', { name: 'What was sent' });
    await done.waitFor();
    await done.getByText(': on the way').first().waitFor();
    const sent = await world.query<{ market: string }>(
      `select m.key as market from dispatches d join markets m on m.id = d.market_id where d.by_whom is not null order by d.id offset $1`,
      [before[0]!.n],
    );
    expect(new Set(sent.map((s) => s.market))).toEqual(new Set(['quillhaven', 'cedarpost', 'wadiline', 'lumbara']));
    await done.getByRole('link', { name: 'See them under Settle' }).click();
    const ended = await until(
      () =>
        world.query<{ state: string; refused: number }>('select state, refused from dispatches order by id offset $1', [
          before[0]!.n,
        ]),
      (rows) => rows.every((r) => r.state === 'answered'),
    );
    expect(ended.reduce((n, r) => n + r.refused, 0)).toBe(0);
  });
});

describe('a connection by name and key', () => {
  it('shows who we are there and what its host has shown, and never the key', async () => {
    await goto('/wadiline/connection');
    await page.getByText(/Its host showed SHA256:/).waitFor();
    expect(await page.getByLabel('Name that the market knows us by').inputValue()).toBe('brindlewick');
    const key = page.getByLabel('Key that the market gave you');
    expect([await key.getAttribute('type'), await key.inputValue()]).toEqual(['password', '']);
    await page.getByRole('button', { name: 'Try the connection' }).click();
    await page.getByText(/The market answers and lists \d+ entries of ours/).waitFor();
    await key.fill('not-the-key');
    await page.getByRole('button', { name: 'Try the connection' }).click();
    await page.getByText(/does not take the name and the key/).waitFor();
    expect(await page.content()).not.toContain('brindlewick-desk');
  });
  it('takes a new key, and forgets what was typed', async () => {
    await goto('/cedarpost/connection');
    const key = page.getByLabel('Key that the market gave you');
    await key.fill('brindlewick-desk');
    await page.getByRole('button', { name: 'Save address and key' }).click();
    await page.getByText('Saved.').waitFor();
    await until(
      () => key.inputValue(),
      (v) => v === '',
    );
    await page.getByRole('button', { name: 'Try the connection' }).click();
    await page.getByText(/The market answers and lists \d+ entries of ours/).waitFor();
  });
});
