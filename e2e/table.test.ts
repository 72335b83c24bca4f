// The table of the catalog as a person keeps it: columns, views, what it is narrowed to, what a selection adds up to, and an
// editor for every kind of cell.
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openWorld, until, type World } from './world';

let world: World, page: Page;
beforeAll(async () => {
  world = await openWorld('table_e2e', { size: 300, markets: ['quillhaven'] });
  page = await world.newPage();
});
afterAll(() => world.close());
const goto = async (path: string) => {
  await page.goto(world.base + path);
  await at(0, 0).waitFor();
};
const grid = () => page.getByRole('grid');
const at = (row: number, column: number) => grid().locator(`[id$="-${row}-${column}"]`);
const button = (name: string | RegExp) => page.getByRole('button', { name, exact: true });
const heads = async () =>
  (await grid().getByRole('columnheader').allInnerTexts()).map((t) => t.trim().split('\n')[0]!).filter(Boolean);
const head = (title: string) => grid().getByRole('columnheader', { name: title }).first();
const one = async <T>(sql: string, values: unknown[] = []) => (await world.query<T>(sql, values))[0]!;

describe('the columns', () => {
  it('are drawn to another place by their heads', async () => {
    await goto('/all/gather');
    expect((await heads()).slice(0, 4)).toEqual(['SKU', 'Title', 'Brand', 'Own category']);
    await head('Own category').dragTo(head('Brand'), { targetPosition: { x: 5, y: 15 } });
    await until(heads, (h) => h.slice(0, 4).join() === 'SKU,Title,Own category,Brand');
  });
  it('are chosen and put in order by keys, and stay so when one comes again', async () => {
    await button('Columns …').click();
    await page.getByLabel('Find a column').fill('price and stock');
    await button('None').click();
    await page.getByLabel('Find a column').fill('');
    const order = page.getByRole('list', { name: 'Columns from left to right' });
    await order.getByText('GTIN', { exact: true }).waitFor();
    expect(await order.getByText('Cost', { exact: true }).count()).toBe(0);
    await order.getByRole('listitem').filter({ hasText: 'GTIN' }).focus();
    await page.keyboard.press('Alt+ArrowUp');
    await page.keyboard.press('Alt+ArrowUp');
    await button('Close').click();
    const wanted = 'SKU,Title,GTIN,Own category,Brand';
    await until(heads, (h) => h.slice(0, 5).join() === wanted);
    await page.reload();
    await until(heads, (h) => h.slice(0, 5).join() === wanted);
  });
  it('are hidden, kept in sight and narrowed from their heads by the keyboard alone', async () => {
    await goto('/all/gather?kind=variant');
    await at(0, 3).click();
    await page.keyboard.press('Alt+ArrowDown');
    const menu = page.getByRole('dialog', { name: 'The column Own category' });
    await menu.getByRole('button', { name: 'Hide this column' }).focus();
    await page.keyboard.press('Enter');
    await until(heads, (h) => !h.includes('Own category'));
    // The keys go on in the table, where they came from.
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('Alt+ArrowDown');
    await page.getByRole('dialog', { name: 'The column GTIN' }).waitFor();
    await page.getByRole('button', { name: 'Keep in sight up to this column' }).click();
    await until(
      () => head('GTIN').evaluate((e) => getComputedStyle(e).position),
      (p) => p === 'sticky',
    );
  });
  it('have a menu of which nothing moves while it is asked what stands in the column', async () => {
    const answers: (() => void)[] = [];
    const path = '**/api/products/values';
    await page.route(path, (route) => {
      answers.push(() => void route.continue());
    });
    await at(0, 1).click();
    await page.keyboard.press('Alt+ArrowDown');
    const menu = page.getByRole('dialog', { name: 'The column Title' });
    const hide = menu.getByRole('button', { name: 'Hide this column' });
    const before = (await hide.boundingBox())!;
    await until(
      () => Promise.resolve(answers.length),
      (n) => n > 0,
    );
    for (const answer of answers) answer();
    await menu.getByRole('list').getByRole('listitem').nth(8).waitFor();
    expect((await hide.boundingBox())!.y).toBe(before.y);
    await page.unroute(path);
    await page.keyboard.press('Escape');
  });
  it('are wider when their edge is drawn, and as they were at first again', async () => {
    const before = (await head('Title').boundingBox())!;
    const x = before.x + before.width - 2,
      y = before.y + 15;
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x - 120, y, { steps: 4 });
    await page.mouse.up();
    await until(
      async () => (await head('Title').boundingBox())!.width,
      (w) => Math.abs(w - before.width + 120) < 2,
    );
    await button('Columns …').click();
    await button('As at first').click();
    await button('Close').click();
    await until(heads, (h) => h.slice(0, 4).join() === 'SKU,Title,Brand,Own category');
    expect((await head('Title').boundingBox())!.width).toBe(before.width);
  });
});

describe('a column of a market', () => {
  const listed = async (sku: string) =>
    (
      await one<{ price: string }>(
        `select l."values" ->> 'price' as price from listings l join products p on p.id = l.product_id where p.sku = $1`,
        [sku],
      )
    ).price;
  const ask = 'Price on Quillhaven';
  afterAll(() => page.evaluate(() => localStorage.clear()));
  it('is chosen beside those of items, and is there when one comes again', async () => {
    await goto('/all/gather?kind=variant');
    await button('Columns …').click();
    await button('None').click();
    await page.getByRole('checkbox', { name: 'Title', exact: true }).check();
    await page.getByLabel('Find a column').fill('price on quill');
    await page.getByRole('checkbox', { name: ask, exact: true }).check();
    await button('Close').click();
    const wanted = (h: string[]) => h.length === 3 && h[2]!.startsWith(ask);
    await until(heads, wanted);
    await page.reload();
    await until(heads, wanted);
  });
  it('is typed over for that market alone, and taken back', async () => {
    const { sku, price } = await one<{ sku: string; price: string }>(
      `select p.sku, p.price::text from listings l join products p on p.id = l.product_id
        where l.category is not null and p.kind = 'variant' and l."values" ->> 'price' is not null order by p.sku limit 1`,
    );
    const before = await listed(sku);
    await goto(`/all/gather?q=${sku}`);
    // Until its market has told what the field is, the column only keeps its place.
    await head(ask).waitFor();
    await at(0, 2).click();
    await page.keyboard.type('33.33');
    await page.keyboard.press('Enter');
    await until(
      () => listed(sku),
      (p) => p === '33.33',
    );
    expect((await one<{ price: string }>('select price::text from products where sku = $1', [sku])).price).toBe(price);
    await page.keyboard.press('Control+z');
    await until(
      () => listed(sku),
      (p) => p === before,
    );
  });
  it('says why a cell cannot be filled there, and keeps it empty', async () => {
    const { sku } = await one<{ sku: string }>(
      `select p.sku from listings l join products p on p.id = l.product_id
        where l.category is null and p.kind = 'variant' order by p.sku limit 1`,
    );
    await goto(`/all/gather?q=${sku}`);
    await head(ask).waitFor();
    await at(0, 2).click();
    await page.keyboard.type('5');
    await page.keyboard.press('Enter');
    await page
      .getByText(/It has no category on this market yet/)
      .first()
      .waitFor();
    await until(
      () => at(0, 2).innerText(),
      (t) => t.trim() === '',
    );
  });
  it('is filled from a file of any kind, once it is said which of its columns that is', async () => {
    const { sku } = await one<{ sku: string }>(
      `select p.sku from listings l join products p on p.id = l.product_id
        where l.category is not null and p.kind = 'variant' and l."values" ->> 'price' is not null order by p.sku desc limit 1`,
    );
    await page.goto(`${world.base}/all/gather/imports`);
    await page.getByLabel('File to import').setInputFiles({
      name: 'agreed.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(`SKU,Agreed over there\n${sku},44.44\n`),
    });
    await page.getByText('2 columns: 1 taken, 1 left out').waitFor();
    const field = page.getByLabel('Field for Agreed over there');
    await field.selectOption({ label: 'A market’s field …' });
    await field.selectOption({ label: ask });
    await page.getByText('2 columns: 2 taken').waitFor();
    await page.getByRole('button', { name: 'Write 1 row' }).click();
    await until(
      () => listed(sku),
      (p) => p === '44.44',
    );
  });
  it('puts the rows in order, and narrows them to a value that is picked', async () => {
    await goto('/all/gather?kind=variant');
    await head(ask).getByTitle(`Put in order by ${ask}`).click();
    await until(
      () => head(ask).getAttribute('aria-sort'),
      (s) => s === 'ascending',
    );
    const least = await one<{ price: string }>(
      `select min((l."values" ->> 'price')::numeric)::text as price from listings l join products p on p.id = l.product_id
        where p.kind = 'variant'`,
    );
    await until(
      () => at(0, 2).innerText(),
      (t) => t.trim() === least.price,
    );
    await head(ask).hover();
    await page.getByTitle(`Narrow by ${ask}, and`).click();
    await page
      .getByRole('list', { name: `Values of ${ask}` })
      .getByRole('button', { name: new RegExp(`^${least.price.replace('.', '\\.')} `) })
      .click();
    const { n } = await one<{ n: string }>(
      `select count(*) as n from listings l join products p on p.id = l.product_id
        where p.kind = 'variant' and (l."values" ->> 'price')::numeric = $1`,
      [least.price],
    );
    await page.getByText(`${n} found of`).waitFor();
  });
});

describe('what is shown', () => {
  it('is narrowed by values picked out of a column, counted', async () => {
    await goto('/all/gather?open=all');
    const { brand, n } = await one<{ brand: string; n: string }>(
      'select brand, count(*) as n from products where brand is not null group by 1 order by 2 desc, 1 limit 1',
    );
    await head('Brand').hover();
    await page.getByTitle(/^Narrow by Brand/).click();
    const values = page.getByRole('list', { name: 'Values of Brand' });
    await values.getByRole('checkbox', { name: brand }).first().check();
    await button('Narrow').click();
    await page.getByText(`${Number(n).toLocaleString('en-GB')} found of`).waitFor();
    await page.getByTitle('Narrowed by Brand').click();
    expect(await values.getByRole('checkbox', { name: brand }).first().isChecked()).toBe(true);
    await button('Show all again').click();
    await page.getByText(/^[\d,]+ rows of/).waitFor();
  });
  it('is narrowed by a condition on a number beside others', async () => {
    await goto('/all/gather?kind=variant');
    const { n } = await one<{ n: string }>(
      "select count(*) as n from products where kind = 'variant' and price > 20 and cost is null",
    );
    const { more } = await one<{ more: string }>(
      "select count(*) as more from products where kind = 'variant' and price > 20",
    );
    await button('Columns …').click();
    await page.getByLabel('Find a column').fill('price and stock');
    await button('None').click();
    await page.getByRole('checkbox', { name: 'Price', exact: true }).check();
    await page.getByRole('checkbox', { name: 'Cost', exact: true }).check();
    await button('Close').click();
    await grid().focus();
    await page.keyboard.press('Control+End');
    const narrow = async (title: string, test: string, value?: string) => {
      await grid()
        .getByRole('columnheader', { name: `${title} GBP`, exact: true })
        .hover();
      await page.getByTitle(`Narrow by ${title}, and`).click();
      await page.getByLabel('What is asked').selectOption(test);
      if (value) await page.getByLabel('Compared with').fill(value);
      await button('Narrow').click();
    };
    await narrow('Price', 'over', '20');
    await page.getByText(`${more} found of`).waitFor();
    await page.keyboard.press('Control+End');
    await narrow('Cost', 'empty');
    if (n !== '0') await page.getByText(`${n} found of`).waitFor();
    else await page.getByText('Nothing matches these filters.').waitFor();
    await page.evaluate(() => {
      localStorage.clear();
    });
  });
  it('is narrowed by two conditions on one column, and both are there to be changed', async () => {
    const { n } = await one<{ n: string }>(
      "select count(*) as n from products where kind = 'variant' and price > 20 and price < 30",
    );
    const { more } = await one<{ more: string }>(
      "select count(*) as more from products where kind = 'variant' and price < 30",
    );
    expect(n).not.toBe(more);
    await goto('/all/gather?kind=variant&sort=price.up');
    const price = grid().getByRole('columnheader', { name: 'Price GBP', exact: true });
    await grid().focus();
    for (let i = 0; i < 60 && (await price.count()) === 0; i++) await page.keyboard.press('ArrowRight');
    await price.hover();
    await page.getByTitle('Narrow by Price, and').click();
    await page.getByLabel('What is asked').selectOption('over');
    await page.getByLabel('Compared with').fill('20');
    await button('And another condition').click();
    await page.getByLabel('What is asked').nth(1).selectOption('under');
    await page.getByLabel('Compared with').nth(1).fill('30');
    await button('Narrow').click();
    await page.getByText(`${n} found of`).waitFor();
    await price.hover();
    await page.getByTitle('Narrowed by Price').click();
    expect(await page.getByLabel('Compared with').count()).toBe(2);
    await button('Leave condition 1 out').click();
    await button('Narrow').click();
    await page.getByText(`${more} found of`).waitFor();
  });
  it('is kept as a view, with its columns, and an address brings it to a colleague', async () => {
    await goto('/all/gather?kind=variant&sort=title.down');
    await head('Brand').dragTo(head('SKU'), { targetPosition: { x: 5, y: 15 } });
    await until(heads, (h) => h[0] === 'Brand');
    await button('Views').click();
    await page.getByLabel('Name of this view').fill('Variants by brand');
    await page.keyboard.press('Enter');
    await page.getByText('Kept as “Variants by brand”.').waitFor();
    await page.waitForURL(/kind=variant.*view=\d+/);
    const address = page.url();
    const colleague = await world.newPage();
    await colleague.goto(address);
    await until(
      async () => (await colleague.getByRole('columnheader').allInnerTexts()).map((t) => t.trim()).find(Boolean),
      (t) => t === 'Brand',
    );
    // What the colleague hides is the colleague's, until it is kept.
    await colleague.getByRole('columnheader', { name: 'Title' }).hover();
    await colleague.getByTitle(/^Narrow by Title/).click();
    await colleague.getByRole('button', { name: 'Hide this column' }).click();
    await colleague.getByRole('button', { name: /^Variants by brand/ }).click();
    await colleague.getByRole('button', { name: 'Keep it so as “Variants by brand”' }).click();
    await until(heads, (h) => h[0] === 'Brand' && !h.includes('Title'));
    await colleague.context().close();
    await button('Variants by brand').click();
    await button('Keep “Variants by brand” no more').click();
    await page.keyboard.press('Escape');
    await until(heads, (h) => h[0] === 'SKU' && h.includes('Title'));
  });
});

describe('a list of several pages', () => {
  it('is gone through to its end and back by one key', async () => {
    await goto('/all/gather?open=all');
    const { n } = await one<{ n: string }>('select count(*) as n from products');
    expect(Number(n)).toBeGreaterThan(300);
    await grid().focus();
    await page.keyboard.press('Control+End');
    await at(Number(n) - 1, 0).waitFor();
    const { sku } = await one<{ sku: string }>('select sku from products order by shelf_order desc, id desc limit 1');
    await grid().getByText(sku, { exact: true }).first().waitFor();
    await page.keyboard.press('Control+Home');
    await at(0, 0).waitFor();
    await head('Brand').waitFor();
  });
});

describe('a selection', () => {
  it('is added up under the table, where not all rows are here too', async () => {
    await goto('/all/gather?open=all');
    const { sum, n } = await one<{ sum: string; n: string }>(
      "select round(sum(price), 2)::text as sum, count(*) filter (where price is not null) as n from products where kind <> 'family'",
    );
    await page.evaluate(() => {
      localStorage.setItem(
        'basileus-table:catalog',
        JSON.stringify({ columns: ['sku', 'price'], widths: {}, frozen: 1 }),
      );
    });
    await page.reload();
    await at(0, 1).click();
    await page.keyboard.press('Control+Shift+End');
    await page.getByText(`${n} filled · sum ${sum} · mean`).waitFor();
  });
  it('is changed in bulk by one key, and by another what is found in it is replaced', async () => {
    await goto('/all/gather?open=all');
    await at(1, 1).click();
    await at(3, 1).click({ modifiers: ['Shift'] });
    await page.keyboard.press('Control+b');
    await page.getByText('3 marked rows').first().waitFor();
    await goto('/all/gather?kind=variant');
    await page.evaluate(() => {
      localStorage.clear();
    });
    await page.reload();
    await at(0, 1).click();
    await at(5, 1).click({ modifiers: ['Shift'] });
    await page.keyboard.press('Control+h');
    await page.getByText('6 marked rows').first().waitFor();
    await page.getByLabel('Find', { exact: true }).waitFor();
  });
});

describe('the editor of a cell', () => {
  const sku = async (row: number) => (await at(row, 0).innerText()).trim();
  const open = async (field: string, row = 2) => {
    await goto('/all/gather?kind=variant');
    await page.evaluate((f) => {
      localStorage.setItem(
        'basileus-table:catalog',
        JSON.stringify({ columns: ['sku', 'title', f], widths: {}, frozen: 1 }),
      );
    }, field);
    await page.reload();
    await at(row, 2).click();
    await page.keyboard.press('Enter');
    return sku(row);
  };
  const kept = async <T>(name: string, column: string) =>
    (await one<{ v: T }>(`select ${column} as v from products where sku = $1`, [name])).v;
  it('of a shared text offers what stands in others, and takes what is typed all the same', async () => {
    const name = await open('fact.colour');
    await page.keyboard.type('oli', { delay: 20 });
    await page.getByRole('option', { name: 'Olive' }).waitFor();
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await until(
      () => kept<string>(name, "facts ->> 'colour'"),
      (v) => v === 'Olive',
    );
    const next = await sku(3);
    await page.keyboard.type('Oliv', { delay: 20 });
    await page.keyboard.press('Enter');
    await until(
      () => kept<string>(next, "facts ->> 'colour'"),
      (v) => v === 'Oliv',
    );
  });
  it('of a day has a month to pick from', async () => {
    const name = await open('sale_end');
    await page.keyboard.type('27/11/2026');
    await page.getByText('November 2026').waitFor();
    await page.getByRole('button', { name: /November 30/ }).click();
    await until(
      () => kept<string>(name, 'sale_end::text'),
      (v) => v === '2026-11-30',
    );
  });
  it('of a measure offers the same in other units', async () => {
    const name = await open('fact.width');
    await page.keyboard.type('24 cm');
    await page.getByRole('button', { name: '240 mm' }).click();
    await page.keyboard.press('Enter');
    await until(
      () => kept<string>(name, "facts ->> 'width'"),
      (v) => v === '240 mm',
    );
  });
  it('of a list puts its entries elsewhere and takes them out, the pictures beside their links', async () => {
    const name = await open('pictures');
    const before = await kept<string[]>(name, 'pictures');
    expect(before.length).toBeGreaterThan(1);
    await page.getByRole('button', { name: 'Entry 2 up' }).click();
    await page.keyboard.press('Enter');
    await until(
      () => kept<string[]>(name, 'pictures'),
      (v) => v[0] === before[1] && v[1] === before[0] && v.length === before.length,
    );
  });
  it('of a long text takes several lines', async () => {
    const name = await open('description');
    await page.keyboard.press('Control+a');
    await page.keyboard.type('First line');
    await page.keyboard.press('Alt+Enter');
    await page.keyboard.type('second line');
    await page.getByText('22 characters').waitFor();
    await page.keyboard.press('Enter');
    await until(
      () => kept<string>(name, 'description'),
      (v) => v === 'First line\nsecond line',
    );
  });
  it('keeps what stood there with Escape, and with Enter where nothing was typed', async () => {
    const name = await open('fact.colour', 4);
    const before = await kept<string | null>(name, "facts ->> 'colour'");
    await page.keyboard.type('Nonsense');
    await page.keyboard.press('Escape');
    await page.keyboard.press('Enter');
    await page.getByLabel('Colour, editing').waitFor();
    await page.keyboard.press('Enter');
    await until(
      () => page.getByLabel('Colour, editing').count(),
      (n) => n === 0,
    );
    expect(await kept<string>(name, "facts ->> 'colour'")).toBe(before);
    expect(await at(4, 2).innerText()).toBe(before ?? '');
  });
});

describe('items as wholes', () => {
  const menu = async (rows: string, entry: string) => {
    await button(rows).click();
    await button(entry).click();
  };
  const free = () =>
    world.query<{ sku: string; id: string; parent: string }>(
      `select p.sku, p.id, f.sku as parent from products p join products f on f.id = p.parent_id
        where not exists (select 1 from listings l where l.product_id = p.id and (l.market_state <> 'none' or l.number is not null))
          and not exists (select 1 from bundle_parts b where b.part_id = p.id) order by p.shelf_order, p.id`,
    );
  const names = async (where: string) =>
    (await world.query<{ sku: string }>(`select sku from products where ${where} order by sku`)).map((r) => r.sku);
  const takeBackLast = async () => {
    await page.goto(`${world.base}/all/history`);
    await button('Take back …').first().click();
    await button('Take it back').click();
  };
  beforeAll(async () => {
    await page.evaluate(() => {
      localStorage.clear();
    });
  });

  it('are taken out after it was said what goes and what stays, and come again', async () => {
    const [gone] = await free();
    const { variants } = await one<{ variants: number }>(
      'select count(*)::int as variants from products v join products f on f.id = v.parent_id where f.sku = $1',
      [gone!.parent],
    );
    await goto(`/all/gather?q=${gone!.parent}`);
    await grid().getByText(gone!.parent, { exact: true }).first().click();
    await menu('Item', 'Take out …');
    await page.getByText(/items go, 1 family and \d+ variants among them/).waitFor();
    await page.getByRole('button', { name: `Take ${variants + 1} items out` }).click();
    await until(
      () => names(`sku like '${gone!.parent}%'`),
      (n) => !n.includes(gone!.parent),
    );
    await takeBackLast();
    await until(
      () => names(`sku like '${gone!.parent}%'`),
      (n) => n.includes(gone!.parent) && n.includes(gone!.sku),
    );
  });
  it('go into a new family, which says what it leaves behind', async () => {
    const [gone] = await free();
    await goto(`/all/gather?q=${gone!.sku}`);
    await grid().getByText(gone!.sku, { exact: true }).first().click();
    await menu('Item', 'Family …');
    await page.getByLabel('Into a new family').check();
    await page.getByLabel('SKU of the family').fill('FAM-NEW');
    await page.getByRole('textbox', { name: 'Title', exact: true }).fill('A family of one');
    await page.getByText(/^Left with fewer: /).waitFor();
    await button('Move 1 item').click();
    await page.getByText('1 item is in the family FAM-NEW.').waitFor();
    expect(await names(`parent_id = (select id from products where sku = 'FAM-NEW')`)).toEqual([gone!.sku]);
    await takeBackLast();
    await until(
      () => names(`sku = 'FAM-NEW'`),
      (n) => n.length === 0,
    );
  });
  it('go into the families that are found among them, all at once', async () => {
    for (const [sku, title, fact, says] of [
      ['NAP-R', 'Quirkish Napkin', 'colour', 'Red'],
      ['NAP-B', 'Quirkish Napkin', 'colour', 'Blue'],
      ['MAT-S', 'Quirkish Mat small', 'size', 'Small'],
      ['MAT-L', 'Quirkish Mat large', 'size', 'Large'],
      ['LID-1', 'Quirkish Lid', 'size', 'Small'],
    ] as const) {
      await world.api('POST', '/products', { sku, title });
      await world.query(
        'update products set facts = facts || jsonb_build_object($2::text, $3::text) where sku = $1 returning 1',
        [sku, fact, says],
      );
    }
    await goto('/all/gather?q=Quirkish');
    await grid().getByText('LID-1', { exact: true }).click();
    await page.keyboard.press('Control+a');
    await menu('5 items', 'Family …');
    await page.getByLabel('Into the families that are found among them').check();
    await page.getByText('2 variants by Colour').waitFor();
    await page.getByText('1 item is called like no other and stays by itself.').waitFor();
    await page.getByRole('checkbox', { name: 'Make NAP' }).uncheck();
    await page.getByRole('textbox', { name: 'SKU of MAT' }).fill('MATS');
    await button('Put 2 items into 1 new family').click();
    await page.getByText('2 items are in 1 new family.').waitFor();
    expect(await names(`parent_id = (select id from products where sku = 'MATS' and title = 'Quirkish Mat')`)).toEqual([
      'MAT-L',
      'MAT-S',
    ]);
    expect(await names(`sku in ('NAP-R', 'NAP-B', 'LID-1') and kind = 'single'`)).toHaveLength(3);
    await takeBackLast();
    await until(
      () => names(`sku = 'MATS'`),
      (n) => n.length === 0,
    );
  });
  it('become a bundle of others, with as many as these are there for, and an item again', async () => {
    const parts = await world.query<{ id: string; sku: string }>(
      `select p.id, p.sku from products p join stock s on s.product_id = p.id where p.kind = 'variant'
        group by 1, 2 having sum(s.on_hand) > 9 and sum(s.reserved) = 0 order by p.sku limit 2`,
    );
    const [first, second] = parts as [(typeof parts)[0], (typeof parts)[0]];
    await world.api('POST', '/products', { sku: 'SET-OF-TWO', title: 'A set of two' });
    const open = async () => {
      await goto('/all/gather?q=SET-OF-TWO');
      await at(0, 0).click();
      await menu('Item', 'Parts of a bundle …');
    };
    const dialog = page.getByRole('dialog', { name: 'Parts of SET-OF-TWO' });
    const keep = dialog.getByRole('button', { name: 'Keep these parts' });
    await open();
    await dialog.getByLabel('SKU of part 1').fill(first.sku);
    await dialog.getByLabel('How many of part 1').fill('3');
    await dialog.getByRole('button', { name: 'Another part' }).click();
    await dialog.getByLabel('SKU of part 2').fill('NO-SUCH-PART');
    await keep.click();
    await dialog.getByRole('alert').getByText('There is no item NO-SUCH-PART').waitFor();
    await dialog.getByLabel('SKU of part 2').fill(second.sku);
    await keep.click();
    await page.getByText('SET-OF-TWO is a bundle of these.').waitFor();
    const held = () =>
      world.query<{ sku: string; count: number }>(
        `select q.sku, b.count from bundle_parts b join products p on p.id = b.bundle_id join products q on q.id = b.part_id
          where p.sku = 'SET-OF-TWO' order by b.count desc`,
      );
    expect(await held()).toEqual([
      { sku: first.sku, count: 3 },
      { sku: second.sku, count: 1 },
    ]);
    expect((await one<{ kind: string }>(`select kind from products where sku = 'SET-OF-TWO'`)).kind).toBe('bundle');
    await open();
    await dialog.getByRole('button', { name: 'Take part 2 out' }).click();
    await keep.click();
    await until(held, (h) => h.length === 1);
    await open();
    await dialog.getByRole('button', { name: 'Take part 1 out' }).click();
    await keep.click();
    await page.getByText('SET-OF-TWO is no bundle any more.').waitFor();
    expect((await one<{ kind: string }>(`select kind from products where sku = 'SET-OF-TWO'`)).kind).toBe('single');
  });
  it('are made one, with the values that are picked', async () => {
    const [gone] = await free();
    await goto(`/all/gather?q=${gone!.sku}`);
    await grid().getByText(gone!.sku, { exact: true }).first().click();
    await menu('Item', 'Copy …');
    await page.getByLabel(/^SKUs of the copies/).fill(`${gone!.sku}-B\tTitle of the copy`);
    await button('Add 1 copy').click();
    await page.getByText(`1 copy of ${gone!.sku} added.`).waitFor();
    await goto(`/all/gather?q=${gone!.sku}`);
    await grid().getByText(`${gone!.sku}-B`, { exact: true }).waitFor();
    await at(0, 1).click();
    await at(1, 1).click({ modifiers: ['Shift'] });
    await menu('2 items', 'Join to one …');
    await page.getByRole('dialog').getByText('Title of the copy').click();
    await button(`Join to ${gone!.sku}`).click();
    await page.getByText(`1 item is joined to ${gone!.sku}.`).waitFor();
    expect(await names(`title = 'Title of the copy'`)).toEqual([gone!.sku]);
    expect(await names(`sku = '${gone!.sku}-B'`)).toEqual([]);
  });
});
