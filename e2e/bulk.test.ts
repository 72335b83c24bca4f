// A change of many items in the browser: chosen by conditions, written with what it will do before the eyes, done, read and
// taken back; kept as a recipe and done again.
import { readFile } from 'node:fs/promises';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openWorld, until, type World } from './world';

let world: World, page: Page;
beforeAll(async () => {
  world = await openWorld('bulk_e2e', { size: 300, markets: ['quillhaven'], work: 200, review: 300 });
  page = await world.newPage();
});
afterAll(() => world.close());
const goto = async (path: string) => {
  await page.goto(world.base + path);
};
const button = (name: string | RegExp) => page.getByRole('button', { name });
const prices = (where: string) =>
  world.query<{ sku: string; price: string; sale_price: string | null }>(
    `select sku, price::text, sale_price::text from products where price is not null and ${where} order by sku`,
  );
const cents = (price: string): number => Math.round(Number(price) * 100);

describe('items are chosen', () => {
  it('by conditions, counted while they are written, and the catalog shows them', async () => {
    const dear = await prices('price > 30');
    await goto('/all/gather');
    await button('Conditions …').click();
    await button('A field').click();
    await page.getByLabel('Field', { exact: true }).selectOption('price');
    await page.getByLabel('What is asked').selectOption('over');
    await page.getByLabel('Compared with').pressSequentially('thirty');
    await page
      .getByText('Price is compared with numbers; “thirty” is none. Write digits with a point, such as 12.5.')
      .first()
      .waitFor();
    expect(await button(/^Show/).isDisabled()).toBe(true);
    await page.getByLabel('Compared with').fill('30');
    await button(`Show ${dear.length} rows`).waitFor();
    await page.getByLabel('Name of this choice').fill('Dear ones');
    await button('Keep').click();
    await page.getByText('Kept as “Dear ones”.').waitFor();
    await button(`Show ${dear.length} rows`).click();
    await page.getByText(`${dear.length} found of`).waitFor();
    await button('Dear ones').waitFor();
  });
  it('by pasted SKUs, of which it says what is not in the catalog', async () => {
    const [a, b] = await prices('true');
    await goto('/all/gather');
    await button('Conditions …').click();
    await page.getByLabel(/^Only these SKUs/).fill(`${a!.sku}\n${b!.sku}\nNO-SUCH-1`);
    await page.getByText('Not in the catalog: NO-SUCH-1').waitFor();
    await button('Show 2 rows').click();
    await page.getByText('2 found of').waitFor();
  });
  it('by marking rows of the table', async () => {
    await goto('/all/gather?kind=variant');
    const cell = (row: number) => page.locator(`[data-row="${row}"][data-column="2"]`);
    await cell(1).click();
    await cell(4).click({ modifiers: ['Shift'] });
    await button('Change the 4 marked …').click();
    await page.getByText('4 marked rows').first().waitFor();
  });
});

describe('a change', () => {
  it('shows what it does to every row while it is written, and what is wrong where it stands', async () => {
    await goto('/all/gather');
    await button('Change in bulk …').click();
    await page.getByText('Say what is to be changed.').waitFor();
    await button('A change').click();
    await page.getByLabel('What is done to it').selectOption('formula');
    const formula = page.getByLabel('Formula for Price');
    // Letters as fast as one types them: none is lost to what is completed and worked out meanwhile.
    await formula.pressSequentially('ending(margin([co', { delay: 20 });
    await page.getByRole('option', { name: 'Cost Price and stock' }).waitFor();
    await page.keyboard.press('Enter');
    await formula.pressSequentially(', 40%), .99)', { delay: 20 });
    expect(await formula.inputValue()).toBe('ending(margin([Cost], 40%), .99)');
    await page.getByRole('list', { name: 'What it gives' }).getByText('.99').first().waitFor();
    // Nor of what is typed before the next frame is drawn.
    await formula.fill('');
    await formula.pressSequentially('margin([co');
    await page.getByRole('option', { name: 'Cost Price and stock' }).waitFor();
    await formula.evaluate(async (box) => {
      box.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
      await Promise.resolve();
      document.execCommand('insertText', false, ',');
      await new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn)));
      document.execCommand('insertText', false, ' 40%)');
    });
    expect(await formula.inputValue()).toBe('margin([Cost], 40%)');
    const made = (await prices(`cost is not null and kind <> 'family'`)).length;
    await button(/^Change \d/).waitFor();
    expect(made).toBeGreaterThan(100);
    await formula.fill('[Price] * [Brand]');
    await page.getByText('“*” takes a number here, and this is a text. value( ) reads a number from a text.').waitFor();
    expect(await page.getByRole('button', { name: 'Change', exact: true }).isDisabled()).toBe(true);
    await formula.fill('[Price] - 25');
    await page.getByRole('tab', { name: /Left alone [1-9]/ }).click();
    await page
      .getByText(/is not a price; write digits with a point/)
      .first()
      .waitFor();
  });
  it('is done as a job, kept with before and after, and taken back', async () => {
    const before = await prices('price > 30');
    const choice = await world.api<{ id: number }>('POST', '/choices', {
      which: { clauses: [{ is: 'over', field: 'price', value: '30' }] },
    });
    await goto(`/all/gather/bulk?choice=${choice.id}`);
    await button('A change').click();
    await page.getByLabel('By how much').pressSequentially('10', { delay: 30 });
    await button('And then').click();
    await page.getByLabel('What is done to it').nth(1).selectOption('formula');
    await page.getByLabel('Formula for Sale price').fill('ending([Price] * 85%, .99)');
    await page.getByText('+10.0 %').waitFor();
    await button('What would the markets find?').click();
    await page.getByText(/^Tried on \d+ rows? and undone\.$/).waitFor();
    await page
      .getByText(/Quillhaven/)
      .last()
      .waitFor();
    expect(await prices('price > 30')).toEqual(before);
    // The address holds the change: a colleague sees the same.
    const there = await world.newPage();
    await there.goto(page.url());
    await there.getByRole('button', { name: `Change ${before.length} items` }).waitFor();
    await there.close();
    await button(`Change ${before.length} items`).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('heading', { name: `Price, Sale price, ${before.length} items: Price over 30` }).waitFor();
    await until(
      () => prices(`sku = '${before[0]!.sku}'`),
      (r) =>
        cents(r[0]!.price) === Math.round(cents(before[0]!.price) * 1.1 + 1e-6) && r[0]!.sale_price!.includes('.99'),
    );
    await dialog.getByText(before[0]!.sku).first().waitFor();
    // One item of it first, then the rest.
    await dialog.getByLabel(`Take ${before[0]!.sku} back`).first().check();
    await dialog.getByRole('button', { name: 'Take 1 item back …' }).click();
    await page.getByRole('button', { name: 'Take it back' }).click();
    await until(
      () => prices(`sku = '${before[0]!.sku}'`),
      (r) => JSON.stringify(r[0]) === JSON.stringify(before[0]),
    );
    expect((await prices(`sku = '${before[1]!.sku}'`))[0]).not.toEqual(before[1]);
    await dialog.getByRole('button', { name: 'Close' }).first().click();
    await page.getByText(/^Taken back: .*\(1 item of it\)$/).waitFor();
    await button('Take back …').nth(1).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Take it back' }).click();
    await until(
      () => prices('price > 30'),
      (r) => JSON.stringify(r) === JSON.stringify(before),
    );
  });
  it('stands in the history of its items', async () => {
    const [item] = await prices('price > 30');
    await goto(`/all/gather?open=all&q=${item!.sku}`);
    await page.locator('[data-row="0"][data-column="2"]').click();
    await page.locator('[data-row="0"][data-column="0"]', { hasText: item!.sku }).waitFor();
    await page.getByRole('button', { name: 'Item', exact: true }).click();
    await button('History …').click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('heading', { name: `History of ${item!.sku}` }).waitFor();
    await dialog.getByLabel('Field').selectOption('price');
    await until(
      () => dialog.getByRole('link', { name: /^Taken back: Price, Sale price/ }).count(),
      (n) => n === 1,
    );
    await dialog.getByRole('link', { name: /^Price, Sale price/ }).click();
    await page.waitForURL(/history\?set=\d+/);
  });
});

describe('listings of one market', () => {
  const offered = (where: string) =>
    world.query<{ sku: string; price: string; ours: string }>(
      `select p.sku, l."values" ->> 'price' as price, p.price::text as ours from listings l join products p on p.id = l.product_id
        where p.kind <> 'family' and l.category is not null and l."values" ->> 'price' is not null and ${where} order by p.sku`,
    );
  it('are chosen by what stands there, and changed there alone', async () => {
    const [leaf] = await world.query<{ category: string; n: number }>(
      `select l.category, count(*)::int as n from listings l join products p on p.id = l.product_id
        where l.category is not null and p.kind <> 'family' group by 1 order by 2 desc limit 1`,
    );
    const before = await offered(`l.category = '${leaf!.category}'`);
    await goto(`/quillhaven/prepare?view=listings&category=${leaf!.category}`);
    await button('Change in bulk …').click();
    await page
      .getByText(/^Category on Quillhaven is /)
      .first()
      .waitFor();
    expect(await page.getByLabel('What is changed').inputValue()).toBe('quillhaven');
    await button('A change').click();
    await page.getByLabel('Field that is changed').selectOption({ label: 'Price on Quillhaven' });
    await page.getByLabel('By how much').pressSequentially('10', { delay: 30 });
    await button(`Change ${before.length} items`).click();
    const dialog = page.getByRole('dialog');
    await dialog
      .getByRole('heading', { name: /^Price on Quillhaven, \d+ items: Category on Quillhaven is / })
      .waitFor();
    const after = await until(
      () => offered(`l.category = '${leaf!.category}'`),
      (rows) => rows.every((r, i) => cents(r.price) === Math.round(cents(before[i]!.price) * 1.1 + 1e-6)),
    );
    expect(after.map((r) => r.ours)).toEqual(before.map((r) => r.ours));
    // A condition finds what was typed for the market.
    await goto('/all/gather');
    await button('Conditions …').click();
    await button('A market’s field').click();
    await page.getByLabel('Field', { exact: true }).selectOption({ label: 'Price on Quillhaven' });
    await page.getByLabel('What is asked').selectOption({ label: 'was typed for this market' });
    await button(/^Show [1-9]\d* rows/).click();
    await page.getByText('Price on Quillhaven was typed for this market').first().waitFor();
  });
});

describe('what prices leave', () => {
  const losing = () =>
    world.query<{ id: number; sku: string; margin: number }>(
      'select l.id, p.sku, l.margin from listings l join products p on p.id = l.product_id where l.margin < 0 order by l.margin',
    );
  it('is seen at home, leads to what is sold at a loss, and is put right by the margin that is wanted', async () => {
    // Three items have become dear to buy.
    const dear = await world.query<{ id: number; cost: string; price: string }>(
      `select p.id::int as id, p.cost::text as cost, p.price::text as price from products p join listings l on l.product_id = p.id
        where l.margin > 200 and p.sale_price is null order by p.id limit 3`,
    );
    await fetch(`${world.base}/api/products`, {
      method: 'PATCH',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        cells: dear.map(({ id, cost, price }) => ({ id, field: 'cost', before: cost, after: price })),
      }),
    });
    const before = await losing();
    expect(before.length).toBeGreaterThanOrEqual(3);
    await goto('/');
    await button(`${before.length} at a loss on Quillhaven`).click();
    await page.getByText(`${before.length} found of`).waitFor();
    // The margin stands beside the titles, the greatest loss first, and nobody types it.
    const cell = page.locator('[data-row="0"][data-column="2"]');
    await cell.getByText((before[0]!.margin / 10).toFixed(1)).waitFor();
    await cell.click();
    await page.keyboard.type('50');
    await page.keyboard.press('Enter');
    expect(await losing()).toEqual(before);
    await button(/^Change all \d+ in bulk …$/).click();
    await page.getByLabel('What is changed').selectOption('quillhaven');
    await button('A change').click();
    await page.getByLabel('Field that is changed').selectOption({ label: 'Price on Quillhaven' });
    await page.getByLabel('What is done to it').selectOption({ label: 'leaves a margin of' });
    await page.getByLabel('Margin in percent').fill('150');
    await page.getByText('“150” is no margin; write percent under 100, such as 18.').first().waitFor();
    await page.getByLabel('Margin in percent').fill('12.5');
    await page.getByLabel('Ending', { exact: true }).fill('.99');
    await button(`Change ${before.length} items`).click();
    await until(losing, (rows) => rows.length === 0);
    const after = await world.query<{ price: string; margin: number }>(
      `select l."values" ->> 'price' as price, l.margin from listings l where l.id in (${before.map((r) => r.id).join(', ')})`,
    );
    expect(after.map((r) => [r.price.endsWith('.99'), r.margin >= 125, r.margin < 250])).toEqual(
      before.map(() => [true, true, true]),
    );
    await goto('/');
    await page.getByRole('region', { name: 'What prices leave' }).waitFor();
    expect(await button(/at a loss on/).count()).toBe(0);
  });
});

describe('a file', () => {
  it('goes out, is edited elsewhere, and comes back: what was changed in it is written and nothing else', async () => {
    await goto('/all/gather?kind=variant');
    await button('Export …').click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Width', { exact: true }).check();
    await button('Width: further left').click();
    await dialog.getByText('On Quillhaven', { exact: true }).click();
    await dialog.getByLabel('Price on Quillhaven', { exact: true }).check();
    expect(
      await dialog.getByRole('list', { name: 'Columns of the file' }).getByRole('listitem').allInnerTexts(),
    ).toEqual([
      'SKU',
      'Title',
      'Brand',
      'Own category',
      'GTIN',
      'Cost',
      'Price',
      'Width',
      'Stock',
      'Price on Quillhaven',
    ]);
    await dialog.getByLabel('Format').selectOption('tsv');
    await dialog.getByRole('textbox', { name: 'Name' }).fill('Desk work');
    await button('Keep these columns').click();
    await page.getByText('These columns are kept as “Desk work”.').waitFor();
    await button('Make the file').click();
    const link = page.getByRole('link', { name: 'Download' });
    await link.waitFor();
    const download = page.waitForEvent('download');
    await link.click();
    const lines = (await readFile(await (await download).path(), 'utf8')).trimEnd().split('\r\n');
    const price = lines[0]!.split('\t').indexOf('Price');
    const [first, second] = lines.slice(1, 3).map((l) => l.split('\t'));
    const [sold] = await world.query<{ id: number; brand: string }>('select id, brand from products where sku = $1', [
      second![0],
    ]);
    // Meanwhile, here.
    await world.api('PATCH', '/products', {
      cells: [{ id: Number(sold!.id), field: 'brand', before: sold!.brand, after: 'Changed here' }],
    });
    first![price] = '123.45';
    const there = lines[0]!.split('\t').indexOf('Price on Quillhaven');
    const offered = lines.slice(3).find((l) => l.split('\t')[there] !== '')!;
    const dearer = offered.split('\t').map((c, i) => (i === there ? '124.56' : c));
    const rest = lines.slice(2).map((l) => (l === offered ? dearer.join('\t') : l));
    const edited = [lines[0], first!.join('\t'), ...rest.reverse()].join('\r\n');
    await page.getByRole('link', { name: 'Bring one back' }).click();
    await page
      .getByLabel('File to import')
      .setInputFiles({ name: 'from the desk.txt', mimeType: 'text/plain', buffer: Buffer.from(edited) });
    await page.getByText(/which went out on .*: only what was changed in it is written\./).waitFor();
    await button('Write 2 rows').click();
    await page.getByText('written', { exact: true }).first().waitFor();
    await until(
      () => prices(`sku = '${first![0]!}'`),
      (r) => r[0]?.price.startsWith('123.45') ?? false,
    );
    expect(await world.query('select brand from products where sku = $1', [second![0]])).toEqual([
      { brand: 'Changed here' },
    ]);
    // On the market alone.
    expect(
      await world.query(
        `select l."values" ->> 'price' as there, p.price <> 124.56 as "isOurs" from listings l join products p on p.id = l.product_id where p.sku = $1`,
        [dearer[0]],
      ),
    ).toEqual([{ there: '124.56', isOurs: true }]);
    await goto('/all/gather/exports');
    await page.getByRole('link', { name: 'from the desk.txt' }).waitFor();
  });
});

describe('a recipe', () => {
  it('is kept with its schedule, looked at, done, and says what it did', async () => {
    await goto(
      `/all/gather/bulk?steps=${encodeURIComponent('[{"field":"price","operation":{"do":"round","ending":".95","way":"up"}}]')}`,
    );
    await button(/^Change \d/).waitFor();
    await button('Keep as a recipe …').click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Name').fill('Round up to .95');
    await dialog.getByLabel('When it is done').selectOption('week');
    await dialog.getByLabel('Day of the week').selectOption('Friday');
    await button('Keep').last().click();
    await page.getByText('“Round up to .95” is kept and is done every Friday at 06:00.').waitFor();
    await page.getByRole('link', { name: 'Recipes' }).click();
    await page.getByText('Price rounded up to .95').waitFor();
    await page.getByText('not yet').waitFor();
    await button('Look, then do …').click();
    await page.getByRole('heading', { name: 'Round up to .95' }).waitFor();
    await button(/^Change \d/).click();
    await page.getByRole('dialog').getByRole('heading', { name: 'Round up to .95' }).waitFor();
    await until(
      () => prices(`cast(price * 100 as int) % 100 <> 95`),
      (r) => r.length === 0,
    );
    await goto('/all/gather/recipes');
    await page.getByRole('link', { name: /items changed$/ }).waitFor();
    await button('Remove').click();
    await page.getByText('No recipe is kept yet.').waitFor();
  });
});

describe('what is missing', () => {
  it('is read from the texts of the items, from its cause on Check to the change', async () => {
    const colours = () =>
      world.query<{ title: string; sku: string; colour: string | null }>(
        `select title, sku, facts ->> 'colour' as colour from products where kind = 'variant' and title ~ ('\\m(Cream|Blue|Olive|White)$') order by sku`,
      );
    const before = await colours();
    expect(before.length).toBeGreaterThan(10);
    const which = { clauses: [{ is: 'filled', field: 'fact.colour' }] };
    const steps = [{ field: 'fact.colour', operation: { do: 'clear' } }];
    await page.request.post(`${world.base}/api/bulk`, { data: { which, steps, title: '' } });
    await until(colours, (rows) => rows.every((r) => r.colour === null));
    // One has kept it, so that it is known what colours are called.
    await world.query(
      `update products set facts = facts || jsonb_build_object('colour', split_part(title, ' ', -1)) where sku = $1`,
      [before[0]!.sku],
    );
    await goto('/quillhaven/check');
    await button(/“Colour” is missing on variants/).click();
    await button('Read from the texts …').click();
    await page.waitForURL(/gather\/bulk\?choice=\d+&steps=/);
    const words = page.getByLabel(/^Words, one a line/);
    await words.fill(`${await words.inputValue()}\nCream\nBlue\nOlive\nWhite`);
    await button(/^Change \d+ items$/).click();
    await until(colours, (rows) => rows.filter((r) => r.colour !== null).length > before.length / 2);
    const after = await colours();
    expect(after.filter((r) => r.colour !== null && !r.title.endsWith(r.colour))).toEqual([]);
  });
});
