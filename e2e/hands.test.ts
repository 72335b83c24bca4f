// Hands and eyes: what the table does with keys and clipboard, what stays in its place, what is said before it is done.
import ExcelJS from 'exceljs';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openWorld, until, type World } from './world';

let world: World, page: Page;
beforeAll(async () => {
  world = await openWorld('hands', { size: 700 });
  page = await world.newPage();
});
afterAll(async () => {
  await world.close();
});
const goto = (path: string) => page.goto(world.base + path);
const grid = () => page.getByRole('grid');
const at = (row: number, column: number) => grid().locator(`[id$="-${row}-${column}"]`);
const titleOf = async (sku: string) =>
  (await world.query<{ title: string }>('select title from products where sku = $1', [sku]))[0]!.title;

describe('the table', () => {
  beforeAll(async () => {
    await goto('/all/gather?category=Cookbooks');
    await at(2, 1).waitFor();
  });
  it('takes back right after Enter, before the server has answered', async () => {
    const sku = (await at(0, 0).innerText()).trim();
    const before = await titleOf(sku);
    await at(0, 1).click();
    await page.keyboard.type('A slip of the pen');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Control+z');
    await page.getByText('Taken back: 1 cell.').waitFor();
    expect(await titleOf(sku)).toBe(before);
  });
  it('takes back and makes again after a visit elsewhere', async () => {
    const sku = (await at(1, 0).innerText()).trim();
    const before = await titleOf(sku);
    await at(1, 1).click();
    await page.keyboard.type('Changed and left');
    await page.keyboard.press('Enter');
    await until(
      () => titleOf(sku),
      (t) => t === 'Changed and left',
    );
    await page.getByRole('link', { name: /^Settle/ }).click();
    await page.getByRole('heading', { name: 'Settle' }).waitFor();
    await page.goBack();
    await at(1, 1).waitFor();
    await grid().focus();
    await page.keyboard.press('Control+z');
    await until(
      () => titleOf(sku),
      (t) => t === before,
    );
    await page.keyboard.press('Control+y');
    await until(
      () => titleOf(sku),
      (t) => t === 'Changed and left',
    );
    await page.keyboard.press('Control+z');
    await until(
      () => titleOf(sku),
      (t) => t === before,
    );
  });
  it('keeps the active cell where a selection began', async () => {
    await at(2, 1).hover();
    await page.mouse.down();
    await at(4, 2).hover();
    await page.mouse.up();
    const active = await grid().getAttribute('aria-activedescendant');
    expect(active).toMatch(/-2-1$/);
    await page.getByText('3 × 2 selected').waitFor();
  });
  it('shows the selection in frozen columns too', async () => {
    await at(2, 0).click();
    await at(3, 2).click({ modifiers: ['Shift'] });
    const shadow = (row: number, column: number) => at(row, column).evaluate((e) => getComputedStyle(e).boxShadow);
    expect(await shadow(2, 0)).toMatch(/inset/);
    expect(await shadow(3, 2)).toMatch(/inset/);
    expect(await shadow(4, 0)).toBe('none');
  });
  it('stays on the page with Enter on a SKU', async () => {
    await at(2, 0).click();
    await page.keyboard.press('Enter');
    expect(new URL(page.url()).pathname).toBe('/all/gather');
  });
  it('has heads of thirty pixels that put in order by every column, as people count', async () => {
    await goto('/all/gather?kind=single');
    expect((await page.getByRole('columnheader', { name: /^Title/ }).boundingBox())!.height).toBe(30);
    await page
      .getByRole('columnheader', { name: /^Title/ })
      .getByTitle('Put in order by Title')
      .click();
    await until(
      () => page.getByRole('columnheader', { name: /^Title/ }).getAttribute('aria-sort'),
      (s) => s === 'ascending',
    );
    expect(new URL(page.url()).searchParams.get('sort')).toBe('title.up');
    await goto('/quillhaven/prepare?q=FP-HEAR');
    await page.getByRole('columnheader', { name: /^SKU/ }).getByTitle('Put in order by SKU').click();
    const first = await until(
      () => at(0, 0).innerText(),
      (t) => !['FP-HEAR', ''].includes(t.trim()),
    );
    expect(first.trim()).toMatch(/^FP-HEAR[23]$/);
  });
  it('keeps both of two filters that are set before the page has heard of the first', async () => {
    await goto('/quillhaven/prepare?view=listings');
    await page.getByLabel('Market category').getByRole('option').nth(1).waitFor({ state: 'attached' });
    // As quick hands or an assistive tool would do it: the second change comes before the first has been drawn.
    await page.evaluate(() => {
      for (const label of ['Market category', 'State']) {
        const select = document.querySelector<HTMLSelectElement>(`select[aria-label="${label}"]`)!;
        select.selectedIndex = 1;
        select.dispatchEvent(new Event('change', { bubbles: true }));
      }
    });
    await page.waitForURL((url) => url.searchParams.has('state'));
    expect(new URL(page.url()).searchParams.has('category')).toBe(true);
    for (const label of ['Market category', 'State'])
      await until(
        () => page.getByLabel(label).inputValue(),
        (v) => v !== '',
      );
  });
  it('copies every row of the catalog, fetched where it is not here yet', async () => {
    await goto('/all/gather?open=all');
    await at(0, 0).waitFor();
    await at(0, 0).click();
    await page.keyboard.press('Control+a');
    await page.keyboard.press('Control+c');
    const [all] = await world.query<{ n: string }>('select count(*) as n from products');
    await page.getByText(new RegExp(`^${Number(all!.n).toLocaleString('en-GB')} rows copied`)).waitFor();
    const copied = await page.evaluate(() => navigator.clipboard.readText());
    expect(copied.split('\r\n').filter((l) => /^[A-Z0-9]+-/.test(l)).length).toBeGreaterThan(650);
  });
  it('says what of a paste found no place, and brings it in as new items', async () => {
    await goto('/all/gather?category=Cookbooks');
    await at(0, 0).waitFor();
    await page.evaluate(() =>
      navigator.clipboard.writeText('X-1\tFirst\r\nX-2\tSecond\r\nNEW-901\tAn added book\r\nNEW-902\tAnother book\r\n'),
    );
    await at(0, 0).click();
    await page.keyboard.press('Control+End');
    await page.keyboard.press('Home');
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('Control+v');
    await page.getByText('2 rows of what was pasted found no place at the edge of the table').waitFor();
    await page.getByRole('button', { name: 'Add them as new items' }).click();
    await page.getByRole('heading', { name: 'pasted-rows.tsv' }).waitFor();
    await page.getByRole('button', { name: 'Write 2 rows' }).click();
    await page.getByRole('link', { name: 'See the catalog' }).click();
    await page.getByText('only what pasted-rows.tsv changed').waitFor();
    await until(
      () => grid().getAttribute('aria-rowcount'),
      (n) => n === '3',
    );
  });
  it('names the item, the row and the value that a field cannot hold', async () => {
    await goto('/all/gather?q=FP-HEAR-24CM');
    await at(0, 0).waitFor();
    await at(0, 7).click();
    await page.keyboard.type('12.999');
    await page.keyboard.press('Enter');
    await page
      .getByRole('alert', { name: 'Message' })
      .getByText('FP-HEAR-24CM, row 1: Price “12.999” has 3 places after the point; 2 are kept. Round it.')
      .waitFor();
    await page.getByRole('button', { name: 'Read', exact: true }).click();
  });
});

describe('the shell', () => {
  it.each([
    '/',
    '/all/gather',
    '/all/gather/imports',
    '/quillhaven/prepare',
    '/quillhaven/prepare?view=categories',
    '/quillhaven/prepare?view=fields',
    '/all/check',
    '/all/send',
    '/all/settle?state=live',
    '/quillhaven/rulebook?leaf=frying_pans',
    '/all/history',
  ])('never scrolls at %s, and opens cold', async (path) => {
    await goto(path);
    await page.getByRole('heading', { level: 1 }).waitFor();
    expect(await page.getByRole('alert').count()).toBe(0);
    const over = await page.evaluate(() => {
      const main = document.querySelector('main')!;
      return [
        document.documentElement.scrollHeight - window.innerHeight,
        main.scrollHeight - main.clientHeight,
        main.scrollWidth - main.clientWidth,
      ];
    });
    expect(over.map((n) => Math.max(0, n))).toEqual([0, 0, 0]);
  });
  it('says so where there is no such market', async () => {
    await goto('/nowhere/check');
    await page.getByText('There is no market “nowhere”.').waitFor();
  });
  it('shows each market by its seal where its name has no room', async () => {
    const narrow = await world.newPage({ width: 900 });
    await narrow.goto(`${world.base}/quillhaven/prepare`);
    const link = narrow.getByRole('navigation', { name: 'The scope' }).getByRole('link', { name: /Quillhaven/ });
    await link.locator('svg').waitFor();
    const seal = (await link.locator('svg').boundingBox())!;
    expect(seal.width).toBe(24);
    await narrow.close();
  });
});

describe('Check', () => {
  it('keeps a mended row in sight, greyed, so that one can fill down from it', async () => {
    await goto('/quillhaven/check?cause=demanded-missing.must.hob_kinds');
    await at(1, 2).waitFor();
    const rows = Number(await grid().getAttribute('aria-rowcount'));
    const sku = (await at(0, 0).innerText()).trim();
    await at(0, 2).click();
    await page.keyboard.type('Gas');
    await page.keyboard.press('Enter');
    await until(
      () => page.getByRole('button', { name: /“Hobs it suits” is missing/ }).innerText(),
      (t) => t.startsWith(String(rows - 2)),
    );
    expect((await at(0, 0).innerText()).trim()).toBe(sku);
    expect(Number(await grid().getAttribute('aria-rowcount'))).toBe(rows);
    await until(
      () => at(0, 2).getAttribute('class'),
      (c) => c?.includes('opacity-60') === true,
    );
    await at(0, 2).click();
    await at(1, 2).click({ modifiers: ['Shift'] });
    await page.keyboard.press('Control+d');
    await until(
      () => page.getByRole('button', { name: /“Hobs it suits” is missing/ }).innerText(),
      (t) => t.startsWith(String(rows - 3)),
    );
  });
  it('tries a value before it fills it, and offers to remember it', async () => {
    await goto('/quillhaven/check?cause=demanded-missing.mustBecause.battery_un_number');
    const pane = page.getByRole('region', { name: /UN number/ });
    await pane.getByLabel('UN number for all').fill('3090x');
    await pane.getByText(/UN number holds “3090x”; it should be/).waitFor();
    expect(await pane.getByRole('button', { name: /^Fill/ }).isDisabled()).toBe(true);
    await pane.getByLabel('UN number for all').fill('UN3481');
    await pane.getByText('Remember “UN3481” for every item that is asked for it').waitFor();
    expect(await pane.getByRole('button', { name: /^Fill/ }).isEnabled()).toBe(true);
  });
  it('offers a list with a search for a choice, and nothing for what is each item’s own', async () => {
    await goto('/quillhaven/check?cause=demanded-missing.must.tea_kind');
    const box = page.getByRole('combobox', { name: 'Kind of tea for all' });
    await box.fill('gre');
    await page.getByRole('option', { name: /Green/ }).click();
    await page.getByRole('button', { name: /^Fill \d+/ }).waitFor();
    await goto('/quillhaven/check?cause=text-length.tooShort.description');
    await page.getByRole('heading', { name: 'Description is too short' }).waitFor();
    expect(await page.getByRole('button', { name: /^Fill/ }).count()).toBe(0);
  });
  it('ticks likely remedies one by one', async () => {
    await goto('/quillhaven/check?cause=identifier-wrong.checkDigit.item_number');
    await page.getByRole('button', { name: 'Remedy …' }).click();
    const dialog = page.getByRole('dialog');
    const boxes = dialog.getByRole('checkbox', { name: /^Mend / });
    await boxes.first().waitFor();
    expect(await boxes.first().isChecked()).toBe(false);
    expect(await dialog.getByRole('button', { name: 'Mend 0' }).isDisabled()).toBe(true);
    await boxes.first().check();
    await dialog.getByRole('button', { name: 'Mend 1' }).waitFor();
    await page.keyboard.press('Escape');
  });
});

describe('an import', () => {
  it('shows what is left out first, mends a cell in its row, and points out a new name', async () => {
    await goto('/all/gather/imports');
    await page.getByLabel('File to import').setInputFiles({
      name: 'spring.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(
        'Stock code,Name,Own category,Sell price,Photo 1,Photo 2,Bin\nSPR-1,Pan,Fryng pans,9.99,https://p.example/1.jpg,https://p.example/2.jpg,A\nSPR-2,Pot,Frying pans,nine,,,B\n',
      ),
    });
    await page.getByText('7 columns: 6 taken, 1 left out').waitFor();
    const columns = page.getByRole('region', { name: 'What was understood' }).locator('tbody tr');
    expect(await columns.first().innerText()).toMatch(/^Bin/);
    await page.getByRole('button', { name: 'Write “Frying pans” instead' }).click();
    await page.getByText('Own category “Fryng pans” is read as “Frying pans”.').waitFor();
    const cell = page.getByRole('textbox', { name: 'Sell price of row 3' });
    await cell.fill('19.90');
    await cell.press('Enter');
    await page.getByRole('button', { name: 'Write 2 rows' }).click();
    await page.getByRole('columnheader', { name: 'What happened' }).waitFor();
    await page.getByRole('link', { name: 'See the catalog' }).waitFor();
    expect(
      await world.query(
        `select sku, category, price::float as price from products where sku like 'SPR-%' order by sku`,
      ),
    ).toEqual([
      { sku: 'SPR-1', category: 'Frying pans', price: 9.99 },
      { sku: 'SPR-2', category: 'Frying pans', price: 19.9 },
    ]);
  });
  it('knows the rows of a supplier by their barcodes, before they are added a second time', async () => {
    const items = await world.query<{ sku: string; gtin: string }>(
      `select sku, gtin from products where kind = 'single' and gtin14 in (
        select gtin14 from products where gtin14 is not null group by 1 having count(*) = 1) order by id limit 3`,
    );
    await goto('/all/gather/imports');
    await page.getByLabel('File to import').setInputFiles({
      name: 'supplier.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(
        `Art.-Nr.;EAN;Bezeichnung;EK netto\n${items.map((p, n) => `4711${n};${p.gtin};Ware ${n};1${n},50`).join('\n')}\n`,
      ),
    });
    await page.getByText('3 rows would be new items with the barcode of one that is there').waitFor();
    await page.getByRole('button', { name: 'Know all rows by their barcode' }).click();
    await page.getByLabel('Rows are known by').and(page.locator(':has(option:checked[value="gtin"])')).waitFor();
    await page.getByLabel('Field for Bezeichnung').selectOption({ label: 'leave out' });
    await page.getByLabel('A new item without a SKU').selectOption({ label: 'gets its GTIN as SKU' });
    await page.getByLabel('A new item without a SKU').selectOption({ label: 'is refused' });
    await page.getByRole('cell', { name: items[2]!.sku }).waitFor();
    await page.getByRole('button', { name: 'Write 3 rows' }).click();
    await page.getByRole('link', { name: 'See the catalog' }).waitFor();
    expect(
      await world.query(`select sku, cost::float as cost from products where sku = any($1) order by id`, [
        items.map((p) => p.sku),
      ]),
    ).toEqual(items.map((p, n) => ({ sku: p.sku, cost: 10.5 + n })));
  });
  it('reads the sheets of a workbook with the same headings as one, and shows all of it in a narrow window', async () => {
    const book = new ExcelJS.Workbook();
    for (const [name, code] of [
      ['Pfannen', 'PFA'],
      ['Töpfe', 'TOE'],
    ] as const) {
      const sheet = book.addWorksheet(name);
      for (const row of [
        [`${name} 2027`],
        [],
        ['Art.-Nr.', 'Bezeichnung', 'EK netto', 'Farbe', 'Länge', 'Breite', 'Höhe'],
      ])
        sheet.addRow(row);
      for (const n of [1, 2])
        sheet.addRow([`${code}-${n}`, `${name} Nummer ${n}`, 4.5, 'Red', '30 cm', '20 cm', '9 cm']);
    }
    await goto('/all/gather/imports');
    await page.getByLabel('File to import').setInputFiles({
      name: 'gruppen.xlsx',
      mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      buffer: Buffer.from(await book.xlsx.writeBuffer()),
    });
    await page.getByText('1 other sheet has the same headings: “Töpfe”.').waitFor();
    await page.getByRole('button', { name: 'Read it too' }).click();
    await page.getByText('“Töpfe” is read after “Pfannen”.').waitFor();
    await page.getByRole('row', { name: '5 Töpfe TOE-2' }).waitFor();
    const { width, height } = page.viewportSize()!;
    await page.setViewportSize({ width: 900, height: 600 });
    const understood = page.getByRole('region', { name: 'What was understood' });
    await until(
      () => understood.evaluate((e) => e.scrollHeight - e.clientHeight),
      (cut) => cut <= 1,
    );
    await page.setViewportSize({ width, height });
    await page.getByRole('button', { name: 'Write 4 rows' }).click();
    await page.getByRole('link', { name: 'See the catalog' }).waitFor();
    expect(
      (await world.query<{ sku: string }>(`select sku from products where sku ~ '^(PFA|TOE)-' order by sku`)).map(
        (p) => p.sku,
      ),
    ).toEqual(['PFA-1', 'PFA-2', 'TOE-1', 'TOE-2']);
  });
  it('says where a list of stock would cut our names, and leaves them as they are', async () => {
    const items = await world.query<{ sku: string; title: string }>(
      `select p.sku, p.title from products p join stock s on s.product_id = p.id
        where p.kind = 'single' and length(p.title) > 20 and s.on_hand <> 50 order by p.id limit 5`,
    );
    await goto('/all/gather/imports');
    await page.getByLabel('File to import').setInputFiles({
      name: 'bestand.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(
        `Artikelnr.;Bezeichnung;Bestand\n${items.map((p) => `${p.sku};${p.title.slice(0, 16)};>50`).join('\n')}\nSumme;;250\n`,
      ),
    });
    const said = page.getByRole('alert').filter({ hasText: '“Title” would be cut: of 5 rows that would change it, 5' });
    await said.getByRole('button', { name: 'Leave “Bezeichnung” out' }).click();
    await page.getByText('3 columns: 2 taken, 1 left out').waitFor();
    await said.waitFor({ state: 'detached' });
    await page.getByText('1 row of sums').waitFor();
    await page.getByRole('button', { name: 'Write 5 rows' }).click();
    await page.getByRole('link', { name: 'See the catalog' }).waitFor();
    expect(
      await world.query(
        `select p.sku, p.title, s.on_hand::int as stock from products p join stock s on s.product_id = p.id where p.sku = any($1) order by p.id`,
        [items.map((p) => p.sku)],
      ),
    ).toEqual(items.map((p) => ({ ...p, stock: 50 })));
  });
  it('takes one answer for a cell that no row can be read with, makes a field for a column, and reads three sizes of one cell', async () => {
    await goto('/all/gather/imports');
    await page.getByLabel('File to import').setInputFiles({
      name: 'preisliste.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(
        'Art.-Nr.;Bezeichnung;Farbe;Maße (cm);Menge;Zolltarifnr.\nHOL-1;Schale;gray;9,5 x 9 x 10;auf Bestellung;69120023\nHOL-2;Teller;jet;27 x 27 x 2,5;auf Bestellung;69120023\n',
      ),
    });
    await page.getByText('6 columns: 5 taken, 1 left out').waitFor();
    const column = page.getByLabel('Field for Maße (cm)');
    expect(await column.locator('option:checked').innerText()).toBe('Length × Width × Height');
    await column.selectOption({ label: 'Width × Length × Height' });
    const answer = page.getByRole('textbox', { name: 'What “auf Bestellung” is read as in all of these rows' });
    await answer.fill('0');
    await answer.press('Enter');
    await page.getByText('Stock “auf Bestellung” is read as “0”.').waitFor();
    await page
      .getByText('Colour “gray” is new, in 1 row, first in row 2; on Quillhaven that is your “Grey”.')
      .waitFor();
    await page.getByRole('button', { name: 'Write ours for all 2 that markets know' }).click();
    await page.getByText('Colour “gray” is read as “Grey”.').waitFor();
    await page.getByLabel('Field for Zolltarifnr.').selectOption({ label: 'A new field of ours …' });
    const form = page.getByRole('dialog', { name: 'A field for “Zolltarifnr.”' });
    const label = form.getByLabel('Label');
    await label.and(page.locator(':focus')).fill('Tariff number');
    await form.getByRole('button', { name: 'Add it' }).click();
    await page.getByText('6 columns: 6 taken').waitFor();
    await page.getByRole('button', { name: 'Write 2 rows' }).click();
    await page.getByRole('link', { name: 'See the catalog' }).waitFor();
    expect(await world.query(`select sku, facts from products where sku like 'HOL-%' order by sku`)).toMatchObject([
      {
        sku: 'HOL-1',
        facts: { colour: 'Grey', width: '9.5 cm', length: '9 cm', height: '10 cm', tariff_number: '69120023' },
      },
      {
        sku: 'HOL-2',
        facts: { colour: 'Black', width: '27 cm', length: '27 cm', height: '2.5 cm', tariff_number: '69120023' },
      },
    ]);
  });
  it('reads mistyped SKUs as those of the catalog at once, says where a list ends, and takes no error of a formula', async () => {
    const [pan, other] = await world.query<{ sku: string }>(
      `select sku from products where kind = 'single' and sku ~ '^[A-Z]+-[A-Z]' order by sku limit 2`,
    );
    await goto('/all/gather/imports');
    await page.getByLabel('File to import').setInputFiles({
      name: 'shouted.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from(
        `SKU,Brand,Highlights\n${pan!.sku.toLowerCase()},Withy &amp; Wren,One; Two\n${other!.sku},#NAME?,Three; Four\n`,
      ),
    });
    await page.getByText('1 SKU differs from one of the catalog only in capitals or marks.').waitFor();
    await page.getByText('Brand “#NAME?” is what a spreadsheet shows where a formula failed').waitFor();
    await page.getByRole('button', { name: 'Read them as those of the catalog' }).click();
    await page.getByText('1 SKU is read as one of the catalog that differs only in capitals or marks.').waitFor();
    expect(await page.getByLabel('Lists divided by').inputValue()).toBe(';');
    await page.getByRole('button', { name: 'Write 1 row' }).click();
    await page.getByRole('link', { name: 'See the catalog' }).waitFor();
    expect(await world.query(`select brand, highlights from products where sku = $1`, [pan!.sku])).toEqual([
      { brand: 'Withy & Wren', highlights: ['One', 'Two'] },
    ]);
  });
});
