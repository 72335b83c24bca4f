// The smaller things of a morning: wrong files, correspondences, history, held prices, by hand, all in the browser.
import { readFileSync } from 'node:fs';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openWorld, until, type World } from './world';

let world: World, page: Page;
beforeAll(async () => {
  world = await openWorld('desk', { size: 700 });
  page = await world.newPage();
});
afterAll(async () => {
  await world.close();
});
const goto = (path: string) => page.goto(world.base + path);

describe('a morning at the desk', () => {
  it('drops a picture instead of a list and is told what to do', async () => {
    await goto('/all/gather/imports');
    await page.getByLabel('File to import').setInputFiles({
      name: 'photo.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex'),
    });
    const alert = page.getByRole('alert');
    await alert
      .getByText(
        '“photo.csv” is a PNG picture; rows are read from text files (CSV, tab-delimited) and from .xlsx and .ods workbooks.',
      )
      .waitFor();
    await alert.getByText('Save it as CSV, .xlsx or .ods and drop that.').waitFor();
  });
  it('gives a column another field, and the plan follows', async () => {
    await page.getByLabel('File to import').setInputFiles({
      name: 'odd.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('Item no,Title,Whatever\nOD-1,First odd thing,Brindlewick\n'),
    });
    await page.getByRole('button', { name: 'Write 1 row' }).waitFor();
    await page.getByLabel('Field for Whatever').selectOption('brand');
    await page.getByText('New: First odd thing, 2 fields: Title, Brand').waitFor();
    await page.getByRole('button', { name: 'Write 1 row' }).click();
    await page.getByRole('link', { name: 'See the catalog' }).waitFor();
    expect(await world.query(`select brand from products where sku = 'OD-1'`)).toEqual([{ brand: 'Brindlewick' }]);
  });
  it('lets a price list be written when it is valid', async () => {
    await goto('/all/gather/imports');
    await page.getByLabel('File to import').setInputFiles({
      name: 'spring.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('SKU;Price\nFP-HEAR-24CM;78,80\n'),
    });
    await page.getByRole('button', { name: 'At a time …' }).click();
    await page.getByLabel('Written at').fill(`${new Date().getFullYear() + 1}-01-01T06:00`);
    await page.getByRole('button', { name: 'Set this time' }).click();
    await page.getByText(/^It is written at 1 Jan 20\d\d, 06:00, against the catalog as it is then/).waitFor();
    await page
      .getByRole('status')
      .filter({ hasText: /^waits for 1 Jan/ })
      .waitFor();
    await goto('/all/gather/imports');
    await page
      .getByRole('row')
      .filter({ hasText: 'spring.csv' })
      .getByText(/^waits for 1 Jan/)
      .waitFor();
    await page.getByRole('link', { name: 'spring.csv' }).click();
    await page.getByRole('button', { name: 'Take the time away' }).click();
    await page.getByRole('status').filter({ hasText: 'waits for your decision' }).waitFor();
    await page.getByRole('button', { name: 'Discard' }).click();
    await page.getByText('Drop a file here').waitFor();
    expect(await world.query(`select id from imports where name = 'spring.csv'`)).toEqual([]);
  });
  it('takes the import back from the history', async () => {
    const before = await world.query<{ price: string }>(`select price from products where sku = 'FP-HEAR-24CM'`);
    await goto('/all/gather/imports');
    await page.getByLabel('File to import').setInputFiles({
      name: 'price.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('SKU;Price\nFP-HEAR-24CM;77,70\n'),
    });
    await page.getByRole('button', { name: 'Write 1 row' }).click();
    await page.getByRole('link', { name: 'See the catalog' }).waitFor();
    await goto('/all/history');
    const row = page.getByRole('row').filter({ hasText: 'Import price.csv' });
    await row.getByRole('button', { name: 'Import price.csv' }).click();
    await page.getByRole('dialog').getByText('77.7').waitFor();
    await page.keyboard.press('Escape');
    await row.getByRole('button', { name: 'Take back' }).click();
    const asked = page.getByRole('dialog', { name: 'Take this change back' });
    await asked.getByText('1 cell put back').waitFor();
    expect(await world.query(`select price from products where sku = 'FP-HEAR-24CM'`)).not.toEqual(before);
    await asked.getByRole('button', { name: 'Take it back' }).click();
    await page
      .getByRole('row')
      .filter({ hasText: 'Taken back: Import price.csv' })
      .getByText('1 cell put back.')
      .waitFor();
    await row.getByText('taken back', { exact: true }).waitFor();
    expect(await world.query(`select price from products where sku = 'FP-HEAR-24CM'`)).toEqual(before);
  });
  it('says once that “Blak” is their Black, and every item follows', async () => {
    await goto('/quillhaven/prepare?view=values');
    const row = page.getByRole('row').filter({ hasText: 'Blak' }).first();
    await row.waitFor();
    await row.getByRole('button', { name: 'Black?' }).click();
    await page.getByText(/listings were checked anew/).waitFor();
    expect(await world.query(`select 1 from findings where field = 'colour' and value = 'Blak'`)).toEqual([]);
  });
  it('gives an attribute the same text for all', async () => {
    await goto('/quillhaven/prepare?view=fields');
    await page.getByLabel('Find an attribute').fill('Responsible');
    await page.getByRole('combobox', { name: 'Source of Responsible person' }).click();
    await page.keyboard.type('same text');
    await page.keyboard.press('Enter');
    await page.getByLabel('Same text for Responsible person').fill('Brindlewick Housewares, Brindle');
    await page.keyboard.press('Enter');
    await page.getByText(/listings were checked anew/).waitFor();
    const [n] = await world.query<{ n: number }>(
      `select count(*)::int as n from listings where "values" ->> 'responsible_person' = 'Brindlewick Housewares, Brindle'`,
    );
    expect(n!.n).toBeGreaterThan(500);
  });
  it('fills an attribute by a formula for one category, having seen what it gives', async () => {
    await goto('/quillhaven/prepare?view=fields');
    await page.getByRole('combobox', { name: 'For which category' }).click();
    await page.keyboard.type('frying');
    await page.keyboard.press('Enter');
    await page.getByLabel('Find an attribute').fill('reference');
    const source = page.getByRole('combobox', { name: 'Source of Maker’s reference' });
    await source.click();
    await page.keyboard.type('formula');
    await page.keyboard.press('Enter');
    const dialog = page.getByRole('dialog');
    const formula = dialog.getByRole('combobox', { name: 'Formula for Maker’s reference' });
    await formula.fill('[Brnd] & "/" & [SKU]');
    await dialog.getByText('There is no field “Brnd”; “Brand” is nearest.').waitFor();
    expect(await dialog.getByRole('button', { name: 'Keep' }).isDisabled()).toBe(true);
    await formula.fill('[Brand] & "/" & [SKU]');
    await dialog
      .getByRole('table', { name: 'What it gives' })
      .getByText(/^\S.*\/FP-/)
      .first()
      .waitFor();
    await dialog.getByRole('button', { name: 'Keep' }).click();
    await page
      .getByText(/listings were checked anew/)
      .first()
      .waitFor();
    await until(
      () => source.inputValue(),
      (v) => v === '[Brand] & "/" & [SKU]',
    );
    const held = await world.query<{ here: boolean; is: boolean; n: number }>(
      `select l.category = 'frying_pans' as here, l."values" ->> 'maker_reference' = coalesce(p.brand, '') || '/' || p.sku as is, count(*)::int as n
        from listings l join products p on p.id = l.product_id where l."values" ->> 'maker_reference' is not null group by 1, 2`,
    );
    expect(held.map(({ here, is }) => ({ here, is })).sort((a, b) => Number(a.here) - Number(b.here))).toEqual([
      { here: false, is: false },
      { here: true, is: true },
    ]);
    // What is said for one category is seen from all of them, and taken back where it was said.
    await source.click();
    await page.keyboard.type('as suggested');
    await page.keyboard.press('Enter');
    await until(
      () => world.query(`select 1 from attribute_sources where node = 'frying_pans'`),
      (r) => r.length === 0,
    );
  });
  it('brings in a table of values that was made elsewhere, after a look at what it would change', async () => {
    await goto('/quillhaven/prepare?view=values');
    await page.getByRole('button', { name: 'Bring in a table …' }).click();
    const dialog = page.getByRole('dialog');
    await dialog
      .getByLabel(/^Attribute, our value and their value/)
      .fill('Attribute\tOur value\tTheir value\nColour\tOlive\tNatural\nColor\tNavy\tBlue\nColour\tWhite\tWhite\n');
    await dialog.getByRole('button', { name: 'Look at 3 rows' }).click();
    const look = dialog.getByRole('region', { name: 'What it would change' });
    await look.getByText('1 value becomes something else, 1 stays as it is, 1 row left out.').waitFor();
    await look.getByText(/Row 3, Color · Navy · Blue: no attribute .* “Colour” is nearest\./).waitFor();
    await look.getByRole('button', { name: 'Take 1 value' }).click();
    await dialog.waitFor({ state: 'detached' });
    const olive = page.getByRole('row').filter({ hasText: 'Olive' });
    await olive.getByText('chosen by you').waitFor();
    expect(await olive.getByRole('combobox').inputValue()).toBe('Natural');
  });
  it('leads back from a page of values on which nothing is left', async () => {
    await goto('/quillhaven/prepare?view=values&from=5000');
    await page.getByRole('button', { name: 'Go to the first page' }).click();
    await page.getByLabel('Tick all shown').waitFor();
    expect(new URL(page.url()).searchParams.get('from')).toBeNull();
  });
  it('matches several values at once, and forgets what was chosen for them', async () => {
    await goto('/quillhaven/prepare?view=values&attribute=colour');
    for (const ours of ['Olive', 'Cream']) await page.getByLabel(`Tick ${ours}, Colour`).check();
    await page.getByRole('combobox', { name: 'The same value for all ticked' }).click();
    await page.keyboard.type('green');
    await page.keyboard.press('Enter');
    const chosen = () =>
      world.query<{ ours: string; theirs: string }>(
        `select ours, theirs from correspondences where kind = 'value' and ours in ('Olive', 'Cream') order by 1`,
      );
    await until(chosen, (r) => r.length === 2);
    expect(await chosen()).toEqual([
      { ours: 'Cream', theirs: 'grn' },
      { ours: 'Olive', theirs: 'grn' },
    ]);
    await page.getByLabel('How they are matched').selectOption('chosen');
    for (const ours of ['Olive', 'Cream']) await page.getByLabel(`Tick ${ours}, Colour`).check();
    await page.getByRole('button', { name: 'Forget what was chosen' }).click();
    await until(chosen, (r) => r.length === 0);
  });
  it('opens one listing, uses the proposed number, and it is mended on the product', async () => {
    const [bad] = await world.query<{ id: number; sku: string; value: string }>(
      `select l.id, p.sku, f.value from findings f join listings l on l.id = f.listing_id join products p on p.id = l.product_id where f."check" = 'identifier-wrong' and f.message = 'checkDigit' limit 1`,
    );
    await goto(`/quillhaven/prepare?open=${bad!.id}`);
    const dialog = page.getByRole('dialog', { name: bad!.sku });
    // What is to be mended stands on top and leads to its field.
    await dialog.getByRole('list', { name: 'To be mended' }).getByText('has a wrong check digit').click();
    expect(await dialog.getByLabel('Item number').evaluate((e) => e === document.activeElement)).toBe(true);
    await dialog.getByRole('button', { name: /^Use “\d+”/ }).click();
    await dialog
      .getByRole('list', { name: 'To be mended' })
      .getByText('has a wrong check digit')
      .waitFor({ state: 'detached' });
    const [now] = await world.query<{ gtin: string }>('select gtin from products where sku = $1', [bad!.sku]);
    expect(now!.gtin.slice(0, 12)).toBe(bad!.value.slice(0, 12));
    expect(now!.gtin).not.toBe(bad!.value);
    await page.keyboard.press('Escape');
    await dialog.waitFor({ state: 'detached' });
  });
  it('puts selected listings into a category from the tree', async () => {
    await goto('/quillhaven/prepare?q=BD-TEA');
    await page.getByRole('gridcell', { name: 'BD-TEA-FOR-TWO' }).click();
    await page.getByRole('button', { name: 'Put into a category …' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('Search the tree').fill('tea bags');
    await dialog.getByRole('option', { name: 'Larder › Tea › Tea bags' }).click();
    await until(
      () =>
        world.query<{ c: string }>(
          `select l.category as c from listings l join products p on p.id = l.product_id where p.sku = 'BD-TEA-FOR-TWO'`,
        ),
      (r) => r[0]?.c === 'tea_bags',
    );
  });
  it('looks at a held price and lets it go', async () => {
    await goto('/quillhaven/send?operation=price&held=yes');
    await page.getByText('It moved far in price and waits for a look.').last().waitFor();
    await page.getByRole('button', { name: 'I have looked: let 1 go' }).click();
    await page.getByText('Nothing is held back.').waitFor();
  });
  it('builds a file for sending by hand and gives it its receipt', async () => {
    await goto('/quillhaven/send?operation=stock');
    await page.getByRole('button', { name: /^Send \d+ now/ }).waitFor();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Download' }).click(),
    ]);
    const file = readFileSync((await download.path())!, 'utf8')
      .trim()
      .split('\r\n')
      .slice(2)
      .map((l) => l.split('\t')[0]!);
    await page.getByText('waits for its receipt, by hand').waitFor();
    const receipt =
      ['line\thouse_sku\tverdict\tcode\tfield\tentry', ...file.map((sku, i) => `${i + 1}\t${sku}\tTAKEN\t\t\t`)].join(
        '\r\n',
      ) + '\r\n';
    await page
      .getByLabel('Receipt file')
      .setInputFiles({ name: 'receipt.txt', mimeType: 'text/plain', buffer: Buffer.from(receipt) });
    await page.getByRole('tab', { name: `Accepted ${file.length}` }).waitFor();
  });
  it('sees on the dispatch that the market fails, and that it is tried again by itself', async () => {
    await world.mood({ failNext: 2 });
    await goto('/quillhaven/send?operation=price');
    await page.getByRole('button', { name: /^Send \d+ now/ }).click();
    await page.getByText(/not there for the moment \(503\)\. It is tried again by itself in a moment/).waitFor();
    await page.getByText(/answered \d/).waitFor();
    expect(await page.getByRole('alert').count()).toBe(0);
  });
  it('sees every word of a change before it goes', async () => {
    const [item] = await world.query<{ id: string; title: string }>(
      `select p.id, p.title from products p join listings l on l.product_id = p.id where l.market_state = 'live' and l.blockers = 0 and l.in_flight = 0 and p.kind <> 'family' order by p.id limit 1`,
    );
    await world.api('PATCH', '/products', {
      cells: [{ id: Number(item!.id), field: 'title', before: item!.title, after: `${item!.title} with lid` }],
    });
    await goto('/quillhaven/send?operation=revise');
    const changed = page.getByRole('insertion').filter({ hasText: 'with lid' });
    await changed.waitFor();
    expect((await changed.textContent())!.trim()).toBe('with lid');
  });
  it('opens a new entry and sees each value that it would carry', async () => {
    await goto('/quillhaven/send?operation=create');
    const first = page.getByRole('row').nth(1);
    await first.getByText(/^\d+ fields: Title, /).click();
    await first.getByRole('term').filter({ hasText: 'Title' }).waitFor();
    await first.getByRole('definition').first().waitFor();
  });
  it('mends one cause of refusal in all of its lines, and sends just these again', async () => {
    const ready = await world.query<{ brand: string; ids: string[] }>(
      `select l."values" ->> 'brand' as brand, array_agg(l.id) as ids from listings l join products p on p.id = l.product_id where p.kind = 'family' and l.in_flight = 0 and l.planned @> '[{"operation": "create", "held": null}]' group by 1 having count(*) > 1 order by count(*) desc limit 1`,
    );
    const { brand, ids } = ready[0]!;
    await world.mood({ uncleared: [brand] });
    const { dispatch } = await world.api<{ dispatch: { id: number } }>('POST', '/markets/quillhaven/dispatches', {
      operation: 'create',
      ids: ids.map(Number),
      key: crypto.randomUUID(),
    });
    await goto(`/quillhaven/settle/${dispatch.id}`);
    const cause = page.getByRole('list', { name: 'Refused by cause' }).getByRole('listitem');
    await cause.getByRole('button', { name: /The brand is not cleared for your account/ }).click();
    await page.waitForURL((url) => url.searchParams.get('cause') === 'Q41.brand');
    await page
      .getByText(/refused/)
      .first()
      .waitFor();
    await cause.getByLabel('Brand for all').fill('Unbranded');
    await cause.getByRole('button', { name: `Fill ${ids.length}` }).click();
    await cause.getByText('all mended').waitFor();
    await page.getByRole('button', { name: `Send ${ids.length} mended lines` }).click();
    await until(
      () =>
        world.query<{ total: number; accepted: number; state: string }>(
          'select total, accepted, state from dispatches order by id desc limit 1',
        ),
      (r) => r[0]?.state === 'answered' && r[0].total === ids.length && r[0].accepted === ids.length,
    );
  });
  it('refuses a rulebook with the path of its fault', async () => {
    await goto('/quillhaven/rulebook');
    await page.getByLabel('Rulebook file').setInputFiles({
      name: 'r.json',
      mimeType: 'application/json',
      buffer: Buffer.from('{"format":"basileus-rulebook/1","version":"x"}'),
    });
    await page
      .getByRole('alert')
      .getByText(/^version: /)
      .waitFor();
  });
  it('shows what a new rulebook changes before it is put in force, and everything is checked by it', async () => {
    const book = await world.api<{
      version: string;
      offer: { quantityCap: number };
      attributes: { key: string; maxCharacters?: number }[];
    }>('GET', '/markets/quillhaven/rulebook/document');
    book.version = '2026.11';
    book.attributes.find((a) => a.key === 'title')!.maxCharacters = 30;
    await page.getByLabel('Rulebook file').setInputFiles({
      name: 'quillhaven-2026.11.json',
      mimeType: 'application/json',
      buffer: Buffer.from(JSON.stringify(book)),
    });
    const dialog = page.getByRole('dialog', { name: 'Version 2026.11, against 2026.10' });
    await dialog.getByText(/^Title: characters at most \d+ → 30\.$/).waitFor();
    expect((await world.query<{ n: string }>(`select version as n from rulebooks`)).map((r) => r.n)).toEqual([
      '2026.10',
    ]);
    await dialog.getByRole('button', { name: 'Put version 2026.11 in force' }).click();
    await page.getByText(/^Version 2026\.11 · /).waitFor();
    await until(
      () =>
        world.query<{ long: string; stale: string }>(
          `select (select count(*) from findings where "check" = 'text-length' and message = 'tooLong') as long,
            (select count(*) from listings l join markets m on m.id = l.market_id where l.market_revision < m.checks_from) as stale`,
        ),
      (r) => Number(r[0]?.long) > 100 && Number(r[0]?.stale) === 0,
    );
  });
  it('decides the rows that a colleague changed while the file waited', async () => {
    const [item] = await world.query<{ id: string; title: string }>(
      `select id, title from products where sku = 'FP-HEAR-28CM'`,
    );
    await goto('/all/gather/imports');
    await page.getByLabel('File to import').setInputFiles({
      name: 'titles.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('SKU,Title\nFP-HEAR-28CM,From the file\n'),
    });
    await page.getByRole('button', { name: 'Write 1 row' }).waitFor();
    await world.api('PATCH', '/products', {
      cells: [{ id: Number(item!.id), field: 'title', before: item!.title, after: 'From a colleague' }],
    });
    await page.getByRole('button', { name: 'Write 1 row' }).click();
    await page.getByText('1 row was changed by somebody else meanwhile and waits for your decision').waitFor();
    // Rows of the tab before never stand under the one that was chosen, however long its own take to come.
    let letGo = (): void => undefined;
    const held = new Promise<void>((go) => (letGo = go));
    await page.route('**/rows?action=conflict*', async (route) => {
      await held;
      await route.continue();
    });
    await page.getByRole('tab', { name: /^To decide/ }).click();
    const list = page.getByRole('region', { name: 'Rows', exact: true });
    await list.getByRole('status').getByText('Loading').waitFor();
    expect(await list.getByRole('row').count()).toBe(0);
    letGo();
    const row = page.getByRole('row').filter({ hasText: 'FP-HEAR-28CM' });
    expect((await row.getByRole('deletion').textContent())!.trim()).toBe('From a colleague');
    expect((await row.getByRole('insertion').textContent())!.trim()).toBe('From the file');
    await row.getByRole('button', { name: 'Write the file’s' }).click();
    await until(
      () => world.query<{ title: string }>(`select title from products where sku = 'FP-HEAR-28CM'`),
      (r) => r[0]!.title === 'From the file',
    );
  });
  it('chooses what goes, makes a file by hand, and gives up waiting for an answer that never comes', async () => {
    await goto('/quillhaven/send?operation=create');
    const send = page.getByRole('button', { name: /^Send \d+ now/ });
    const total = async () => Number(/Send (\d+) now/.exec((await send.textContent())!)![1]);
    await send.waitFor();
    const all = await total();
    const [brand] = await world.query<{ brand: string }>(
      `select p.brand from listings l join products p on p.id = l.product_id
        where l.in_flight = 0 and l.planned @> '[{"operation": "create", "held": null}]' group by 1 order by count(*) limit 1`,
    );
    await page.getByLabel('Brand').selectOption(brand!.brand);
    expect(await until(total, (n) => n < all)).toBeGreaterThan(0);
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Download' }).click();
    expect((await download).suggestedFilename()).toMatch(/^quillhaven-create-.*\.txt$/);
    await page.getByRole('heading', { name: /Dispatch No\. \d+: create/ }).waitFor();
    await page.getByRole('button', { name: 'No answer comes …' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Give up waiting' }).click();
    await page.getByText('given up, without an answer').waitFor();
    await page.getByRole('cell', { name: 'given up' }).first().waitFor();
    await goto('/quillhaven/send?operation=create');
    await until(total, (n) => n === all);
  });
  it('lets stock go by the clock, and sets a time for a new entry, which waits for it until that is called off', async () => {
    const [item] = await world.query<{ product_id: string; stock: string }>(
      `select l.product_id, s.on_hand::text as stock from listings l
        join products p on p.id = l.product_id join stock s on s.product_id = p.id
        where l.market_state = 'live' and l.in_flight = 0 and p.kind = 'variant' and s.on_hand > 9 order by l.id limit 1`,
    );
    const [fresh] = await world.query<{ id: string }>(
      `select l.id from listings l join products p on p.id = l.product_id
        where l.in_flight = 0 and l.planned @> '[{"operation": "create", "held": null}]' and p.kind = 'family' order by l.id limit 1`,
    );
    await goto(`/quillhaven/send?operation=create&ids=${fresh!.id}`);
    const clock = page.getByRole('region', { name: 'By the clock' }),
      dialog = page.getByRole('dialog');
    await clock.getByRole('button', { name: 'Let something go by the clock …' }).click();
    expect(await dialog.getByRole('button', { name: 'Set it' }).isDisabled()).toBe(true);
    await dialog.getByLabel('Changed stock').check();
    await dialog.getByLabel('When it is sent').selectOption('minutes');
    await dialog.getByLabel('Minutes between').selectOption('30');
    await dialog.getByRole('button', { name: 'Set it' }).click();
    await clock.getByRole('button', { name: /^Stocks\s*every 30 minutes, next / }).waitFor();
    const saved = await fetch(`${world.base}/api/products`, {
      method: 'PATCH',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        cells: [
          { id: Number(item!.product_id), field: 'stock', before: item!.stock, after: String(Number(item!.stock) - 2) },
        ],
      }),
    });
    expect(saved.status).toBe(200);
    await clock.getByRole('button', { name: /^Stocks/ }).click();
    await dialog.getByRole('button', { name: 'Send now' }).click();
    await clock.getByText(/^last: \d+ rows? went$/).waitFor();
    await clock.getByRole('button', { name: /^Stocks/ }).click();
    await dialog
      .getByRole('link', { name: /^dispatch \d+$/ })
      .first()
      .waitFor();
    await dialog.getByRole('button', { name: 'Call it off' }).click();
    await until(
      () => clock.getByRole('button', { name: /^Stocks/ }).count(),
      (n) => n === 0,
    );

    await page.getByRole('button', { name: 'At a time …' }).click();
    await dialog.getByLabel('Goes at').fill('2099-01-01T09:00');
    await dialog.getByRole('button', { name: 'Set this time' }).click();
    await dialog.getByText('That time is more than a year ahead.').waitFor();
    const tomorrow = new Date(Date.now() + 86_400_000).toISOString().slice(0, 10);
    await dialog.getByLabel('Goes at').fill(`${tomorrow}T09:00`);
    await dialog.getByRole('button', { name: 'Set this time' }).click();
    await page.getByText('1 waits for the time that was set', { exact: false }).waitFor();
    await page.getByRole('button', { name: 'Held back (1)' }).click();
    await page.getByText('It waits for the time that was set.').waitFor();
    await clock.getByRole('button', { name: /^1 new entry/ }).click();
    await dialog.getByRole('button', { name: 'Call it off' }).click();
    await page.getByRole('button', { name: 'Would go (1)' }).waitFor();
  });
  it('is told that a withdrawal is for ever, sees the wish at the row, and takes it back', async () => {
    const [item] = await world.query<{ sku: string; id: string }>(
      `select p.sku, l.id from listings l join products p on p.id = l.product_id
        where l.market_state = 'live' and l.in_flight = 0 and p.kind = 'single' order by p.sku limit 1`,
    );
    await goto(`/quillhaven/prepare?q=${item!.sku}`);
    const state = page.getByRole('gridcell').filter({ hasText: 'live' }).first();
    await state.click();
    await page.getByText('Standing', { exact: true }).click();
    await page.getByRole('button', { name: 'Withdraw …' }).click();
    const asked = page.getByRole('dialog');
    await asked.getByText('This is for ever.', { exact: false }).waitFor();
    await asked.getByRole('button', { name: 'Mark for withdrawal' }).click();
    await page.getByRole('gridcell').filter({ hasText: 'withdraw,' }).waitFor();
    await goto('/quillhaven/send?operation=withdraw');
    await page.getByRole('button', { name: 'Send 1 now' }).click();
    const before = page.getByRole('dialog', { name: 'Before it goes' });
    await before.getByText('1 withdrawal goes to Quillhaven.').waitFor();
    expect(await before.getByRole('button', { name: 'Send it' }).isDisabled()).toBe(true);
    await before.getByRole('button', { name: 'Not yet' }).click();
    await page.getByRole('button', { name: 'Leave it as it is' }).click();
    await until(
      () => world.query<{ wish: string }>('select wish from listings where id = $1', [item!.id]),
      (r) => r[0]!.wish === 'keep',
    );
  });
  it('keeps the view in the address: a link shows a colleague the same', async () => {
    await goto('/quillhaven/prepare?category=frying_pans&fields=must&state=blocked');
    await page.getByRole('grid', { name: 'Listings' }).waitFor();
    expect(await page.getByLabel('Market category').inputValue()).toBe('frying_pans');
    expect(await page.getByLabel('State').inputValue()).toBe('blocked');
    expect(await page.getByRole('button', { name: 'Must only' }).getAttribute('aria-pressed')).toBe('true');
    expect(await page.getByRole('columnheader', { name: /Coating/ }).count()).toBe(0);
  });
  it('signs what is done with the name of whoever works here, and finds it by that', async () => {
    const own = await world.newPage();
    await own.goto(`${world.base}/all/people`);
    await own.getByLabel('Name', { exact: true }).fill('Åsa Lund');
    await own.keyboard.press('Enter');
    // Who had no name until now has it.
    await own.getByText('Åsa Lund · you').waitFor();
    expect(await own.getByLabel('Who you are').inputValue()).toBe('Åsa Lund');
    await own.getByLabel('Name', { exact: true }).fill('åsa lund');
    await own.keyboard.press('Enter');
    await own.getByRole('alert').filter({ hasText: '“åsa lund” is here already.' }).waitFor();
    await own.getByLabel('Name', { exact: true }).fill('Tobias Lund');
    await own.keyboard.press('Enter');
    await own.getByRole('link', { name: 'What Åsa Lund did' }).click();
    expect(await own.getByLabel('Done by').inputValue()).toBe('Åsa Lund');
    await own.getByRole('cell', { name: 'Tobias Lund is one of the people here' }).waitFor();
    expect(new Set(await own.locator('tbody td:nth-child(2)').allTextContents())).toEqual(new Set(['Åsa Lund']));
    await own.getByLabel('Done by').selectOption('Tobias Lund');
    await own.getByText('Tobias Lund has done nothing of this kind.').waitFor();
    await own.getByLabel('Who you are').selectOption({ label: 'People …' });
    await own.getByRole('button', { name: 'Tobias Lund has left' }).click();
    // Nothing was done under the name.
    await own.getByRole('cell', { name: 'Tobias Lund', exact: true }).waitFor({ state: 'detached' });
    // Another browser is whoever works there.
    expect(await page.getByLabel('Who you are').inputValue()).toBe('');
    await own.context().close();
  });
  it('says so when the code of a page cannot be fetched, and fetches it again', async () => {
    await page.route(/HistoryPage/, (route) => route.abort());
    await goto('/all/history');
    await page.getByRole('alert').filter({ hasText: 'This page could not be fetched.' }).waitFor();
    await page.unroute(/HistoryPage/);
    await page.getByRole('button', { name: 'Try again' }).click();
    await page.getByRole('heading', { name: 'Change history' }).waitFor();
  });
});
