// Two markets side by side in the browser: one that sells in two countries, and one that a person adds by its rulebook.
import { resolve } from 'node:path';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openWorld, until, type World } from './world';

let world: World, page: Page;
beforeAll(async () => {
  world = await openWorld('markets_e2e', { size: 240, markets: ['quillhaven', 'torgvik'], work: 200, review: 300 });
  page = await world.newPage();
});
afterAll(() => world.close());
const goto = async (path: string) => {
  await page.goto(world.base + path);
};

describe('a market in two countries', () => {
  it('stands beside the other, with its countries and its own counts', async () => {
    await goto('/');
    const scope = page.getByRole('navigation', { name: 'The scope' });
    await scope.getByRole('link', { name: /Torgvik.*DE · EUR, SE · SEK/ }).click();
    await page.getByRole('heading', { name: 'Prepare for Torgvik' }).waitFor();
    await goto('/');
    await page.getByText(/^rows ready to go$/).waitFor();
    const today = page.getByRole('region', { name: 'Today' });
    await today
      .getByRole('link', { name: /^Quillhaven [\d,]+$/ })
      .last()
      .waitFor();
    await today
      .getByRole('link', { name: /^Torgvik [\d,]+$/ })
      .last()
      .click();
    await page.getByRole('heading', { name: 'Send to Torgvik' }).waitFor();
  });
  it('has a text in each of its languages, marked as such, and says which one is missing', async () => {
    await goto('/torgvik/check?cause=demanded-missing.must.titel@sv');
    await page.getByRole('heading', { name: '“Title (sv)” is missing' }).first().waitFor();
    const [row] = await world.query<{ sku: string }>(
      `select p.sku from findings f join listings l on l.id = f.listing_id join products p on p.id = l.product_id
        where f.field = 'titel@sv' and f."check" = 'demanded-missing' order by p.sku limit 1`,
    );
    await goto(`/torgvik/prepare?q=${encodeURIComponent(row!.sku)}`);
    await page.locator('[data-row="0"][data-column="0"]').click();
    await page.getByRole('button', { name: 'Open', exact: true }).click();
    const german = page.getByLabel('Title (de)', { exact: true }),
      swedish = page.getByLabel('Title (sv)', { exact: true });
    expect(await german.getAttribute('lang')).toBe('de');
    expect([await swedish.getAttribute('lang'), await swedish.getAttribute('dir')]).toEqual(['sv', 'ltr']);
    await swedish.fill('Brindlewick Hearth Stekpanna, handgjord');
    await swedish.blur();
    await until(
      () =>
        world.query<{ t: string }>(
          `select l."values" ->> 'titel@sv' as t from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
            where p.sku = $1 and m.key = 'torgvik'`,
          [row!.sku],
        ),
      (r) => r[0]?.t === 'Brindlewick Hearth Stekpanna, handgjord',
    );
  });
  it('is told of an item that is not sold in one of them, under Prepare and in the catalog', async () => {
    const [row] = await world.query<{ sku: string }>(
      `select p.sku from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
        where m.key = 'torgvik' and l.market_state = 'none' and l.category is not null and p.kind = 'variant' order by p.sku limit 1`,
    );
    const out = () =>
      world.query<{ sites_out: string[] }>(
        `select l.sites_out from listings l join products p on p.id = l.product_id join markets m on m.id = l.market_id
          where m.key = 'torgvik' and p.sku = $1`,
        [row!.sku],
      );
    await goto(`/torgvik/prepare?q=${encodeURIComponent(row!.sku)}`);
    await page.locator('[data-row="0"][data-column="0"]').click();
    await page.getByText('Standing', { exact: true }).click();
    await page.getByRole('button', { name: 'Not at Torgvik SE' }).click();
    await page
      .getByText('Torgvik SE: 1 listing not sold there; what stands there ends with the next sending.')
      .waitFor();
    expect(await out()).toEqual([{ sites_out: ['se'] }]);
    await page.getByRole('button', { name: 'Open', exact: true }).click();
    await page.getByText('Not sold at Torgvik SE: nothing is asked of it there.').waitFor();
    expect(await page.getByLabel('Title (sv)', { exact: true }).count()).toBe(0);
    await goto(`/all/gather?q=${encodeURIComponent(row!.sku)}&open=all`);
    await page.getByRole('gridcell', { name: row!.sku }).first().click();
    await page.getByRole('button', { name: 'Item', exact: true }).click();
    await page.getByRole('button', { name: 'Markets …' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByLabel('On Torgvik SE').selectOption('wanted');
    await dialog.getByRole('button', { name: 'Apply to 1 place' }).click();
    await page.getByText('Torgvik SE: 1 listing wanted there again; what it demands is asked for.').waitFor();
    expect(await out()).toEqual([{ sites_out: [] }]);
  });
  it('shows beside a price what is left of it in that country', async () => {
    const [row] = await world.query<{ sku: string; cost: string; price: string }>(
      `select p.sku, p.cost, l."values" ->> 'pris@de' as price from listings l join products p on p.id = l.product_id
          join markets m on m.id = l.market_id
        where m.key = 'torgvik' and l.category = 'stekpannor' and p.cost is not null and l."values" ->> 'pris@de' is not null order by p.sku limit 1`,
    );
    await goto(`/torgvik/prepare?q=${encodeURIComponent(row!.sku)}`);
    await page.locator('[data-row="0"][data-column="0"]').click();
    await page.getByRole('button', { name: 'Open', exact: true }).click();
    // The rulebook's own terms: 19 % tax in the price, 12 % and at least 0.40 of it, 1.8 % and 0.35 for payment; a pound is 1.17 euro.
    const price = Number(row!.price);
    const left = price / 1.19 - Math.max(price * 0.12, 0.4) - price * 0.018 - 0.35 - Number(row!.cost) * 1.17;
    const said = await page
      .getByText(/^Leaves -?[\d.]+ EUR, /)
      .first()
      .innerText();
    expect(Math.abs(Number(/-?[\d.]+/.exec(said)![0]) - left)).toBeLessThan(0.011);
  });
  it('has a rate for each currency, which a person may change', async () => {
    await goto('/torgvik/connection');
    await page.getByLabel('Rate of SEK').fill('13.5');
    await page.getByRole('button', { name: 'Keep' }).nth(1).click();
    await page.getByText('The rate of SEK is kept; prices in it are being checked anew.').waitFor();
    expect(await world.query(`select rate::text as r from rates where currency = 'SEK'`)).toEqual([{ r: '13.5' }]);
    await page.getByLabel('Rate of SEK').fill('dear');
    await page.getByRole('button', { name: 'Keep' }).nth(1).click();
    await page
      .getByRole('alert')
      .getByText(/A rate is a number with a point/)
      .waitFor();
  });
  it('shows its file as it will get it, under as many headers as it has', async () => {
    await goto('/torgvik/send?operation=create');
    await page.getByRole('button', { name: 'Look at the file' }).click();
    const dialog = page.getByRole('dialog', { name: /^tv_hel_/ });
    await dialog
      .getByText(/divided by semicolons, in UTF-8 with a byte order mark, under our words for its columns\.$/)
      .waitFor();
    const heads = await dialog.locator('tr.font-semibold').allInnerTexts();
    expect(heads.map((h) => h.split('\t')[1])).toEqual(['Regal', 'Hylla', 'hylla']);
    await page.keyboard.press('Escape');
  });
  it('is sent to, takes all that our checks let go, and shows each country', async () => {
    await page.getByRole('button', { name: /^Send \d+ now$/ }).click();
    await page.getByRole('dialog').getByRole('button', { name: /^Send/ }).click();
    await page
      .getByText(/^answered/)
      .first()
      .waitFor();
    const [sent] = await world.query<{ refused: number; accepted: number; total: number }>(
      'select refused, accepted, total from dispatches order by id desc limit 1',
    );
    expect(sent).toMatchObject({ refused: 0 });
    expect(sent!.accepted).toBe(sent!.total);
    await until(
      () =>
        world.query<{ n: string }>(
          `select count(*) as n from listings l join markets m on m.id = l.market_id where m.key = 'torgvik' and l.market_state = 'in review'`,
        ),
      (r) => r[0]?.n === '0',
    );
    await goto('/torgvik/settle?state=live');
    const row = page.getByRole('row').nth(1);
    const link = row.getByRole('link', { name: 'Torgvik SE' });
    const shown = await page.request.get((await link.getAttribute('href'))!);
    expect(await shown.text()).toContain('Torgvik SE');
    expect(await row.getByText('Torgvik DE').count()).toBe(2);
  });
});

describe('all markets together', () => {
  it('show what waits on each, and lead to where it is done', async () => {
    await goto('/all/send');
    await page.getByRole('heading', { name: 'Send, all markets' }).waitFor();
    const quillhaven = page.getByRole('region', { name: 'Quillhaven' });
    await quillhaven.getByRole('link', { name: /new entries ready$/ }).click();
    await page.getByRole('heading', { name: 'Send to Quillhaven' }).waitFor();
    await goto('/all/check');
    const torgvik = page.getByRole('region', { name: 'Torgvik' });
    await torgvik.getByRole('link', { name: /Title \(de\) holds promotional words$/ }).click();
    await page.getByRole('heading', { name: 'Check for Torgvik' }).waitFor();
    await goto('/all/prepare?view=markets');
    await page.getByRole('region', { name: 'Torgvik' }).getByRole('link', { name: /live$/ }).click();
    await page.getByRole('heading', { name: 'Prepare for Torgvik' }).waitFor();
  });
  it('list what was sent to all of them', async () => {
    await goto('/all/settle');
    await page.getByRole('cell', { name: 'Torgvik' }).first().waitFor();
    expect(await page.getByRole('tab').allInnerTexts()).toEqual(['Dispatches']);
  });
});

describe('a market that a person adds', () => {
  const file = resolve(import.meta.dirname, '../docs/examples/thimble-row.json');
  it('is refused by its faults, each with its path, before anything is kept', async () => {
    await goto('/');
    await page.getByRole('link', { name: 'Add a market' }).click();
    await page.getByLabel('Rulebook or blank template of the new market').setInputFiles({
      name: 'half.json',
      mimeType: 'application/json',
      buffer: Buffer.from('{"format":"basileus-rulebook/2","version":"x"}'),
    });
    const faults = page.getByRole('alert');
    await faults.getByText('“half.json” cannot be taken: 22 faults.').waitFor();
    await faults.getByText('version: A version is year.month, such as 2026.10.').waitFor();
    await page.getByLabel('Rulebook or blank template of the new market').setInputFiles({
      name: 'x.json',
      mimeType: 'application/json',
      buffer: Buffer.from('not json'),
    });
    await faults.getByText('x.json: This is not JSON.').waitFor();
  });
  it('is looked at, added, and has its place in the scope', async () => {
    await page.getByLabel('Rulebook or blank template of the new market').setInputFiles(file);
    await page.getByText('IE (EUR, en)').waitFor();
    await page.getByRole('button', { name: 'Add Thimble Row' }).click();
    await page.getByRole('heading', { name: 'Connection to Thimble Row' }).waitFor();
    await page.getByText(/takes files by hand/).waitFor();
    await page
      .getByRole('navigation', { name: 'The scope' })
      .getByRole('link', { name: /Thimble Row/ })
      .click();
    await page.getByRole('heading', { name: 'Prepare for Thimble Row' }).waitFor();
    await goto('/thimble_row/send');
    await page.getByRole('heading', { name: 'Send to Thimble Row' }).waitFor();
    expect(await page.getByRole('button', { name: /^Send \d+ now$/ }).count()).toBe(0);
  });
  it('is paused, resumed, and removed by its name alone', async () => {
    await goto('/thimble_row/connection');
    await page.getByRole('button', { name: 'Pause this market' }).click();
    await page.getByRole('button', { name: 'Resume' }).click();
    await page.getByRole('button', { name: 'Pause this market' }).waitFor();
    await page.getByRole('button', { name: 'Remove this market …' }).click();
    const dialog = page.getByRole('dialog', { name: 'Remove Thimble Row' });
    expect(await dialog.getByRole('button', { name: 'Remove it for good' }).isDisabled()).toBe(true);
    await dialog.getByRole('textbox').fill('Thimble Row');
    await dialog.getByRole('button', { name: 'Remove it for good' }).click();
    await page.getByRole('heading', { name: 'What needs you today' }).waitFor();
    expect(await page.getByRole('link', { name: /Thimble Row/ }).count()).toBe(0);
  });
  it('answers a try of its connection at the address that was typed', async () => {
    await goto('/torgvik/connection');
    await page.getByRole('button', { name: 'Try the connection' }).click();
    await page.getByText(/^The market answers and lists \d+ entries of ours\.$/).waitFor();
    await page.getByLabel('Web address that the market gave you').fill('http://127.0.0.1:9');
    await page.getByRole('button', { name: 'Try the connection' }).click();
    await page.getByText('Torgvik cannot be reached or dropped the connection.').waitFor();
  });
  it('is made of the blank template that it gives out, which is what its files are written into', async () => {
    await goto('/all/markets/new');
    await page
      .getByLabel('Rulebook or blank template of the new market')
      .setInputFiles(resolve(import.meta.dirname, '../docs/examples/pantry-lane.xlsx'));
    await page
      .getByText('Its sheet “To fill” is filled from row 5 on: 13 columns, of which 7 must be filled.')
      .waitFor();
    await page.getByLabel('Row in which the first item stands').fill('2');
    await page.getByText('There is no row of headings over that row').waitFor();
    await page.getByLabel('Sheet to fill').selectOption('Fields');
    await page.getByText(/^Its sheet “Fields” is filled from row 2 on/).waitFor();
    await page.getByLabel('Sheet to fill').selectOption('To fill');
    await page.getByText(/^Its sheet “To fill” is filled from row 5 on/).waitFor();
    await page.getByText('Say which column holds your SKU.').waitFor();
    await page.getByLabel('What Your code is filled from').selectOption({ label: 'SKU' });
    await page.getByText('8 values: Black, White, Red').waitFor();
    expect(await page.getByLabel('What Item name is filled from').inputValue()).toBe('title');
    expect(await page.getByLabel('How much Story is wanted').inputValue()).toBe('should');
    await page.getByLabel('Name of the market').fill('Pantry Lane');
    await page.getByLabel('Category that the template is for').fill('Pans and jars');
    await page.getByLabel(/^Country/).fill('ie');
    await page.getByLabel(/^Currency/).fill('eur');
    await page.getByRole('button', { name: 'Add Pantry Lane' }).click();
    await page.getByRole('heading', { name: 'Connection to Pantry Lane' }).waitFor();
    await goto('/pantry_lane/rulebook?view=files');
    await page.getByText('Written into the market’s own “pantry-lane.xlsx”, sheet “To fill”, from row 5 on.').waitFor();
    await page.getByRole('button', { name: 'Forget it' }).click();
    await page.getByText('A workbook of one sheet.').waitFor();
    await page
      .getByLabel('Blank template of the market')
      .setInputFiles({ name: 'other.xlsx', mimeType: 'application/zip', buffer: Buffer.from('PK\u0003\u0004 torn') });
    await page.getByRole('alert').filter({ hasText: '“other.xlsx” cannot be read' }).waitFor();
    // The template of another category: what a column is, was said for the first; only the category is asked.
    await page
      .getByLabel('Blank template of a category')
      .setInputFiles(resolve(import.meta.dirname, '../docs/examples/pantry-lane-kettles.xlsx'));
    const dialog = page.getByRole('dialog', { name: 'A template of a category' });
    expect(await dialog.getByLabel('What Your code is filled from').inputValue()).toBe('sku');
    await dialog.getByText('Say for which of the market’s categories the template is.').waitFor();
    await dialog.getByLabel('Category that the template is for').fill('Kettles');
    await dialog.getByRole('button', { name: 'Look at what it changes' }).click();
    await page.getByText('Kettles takes items now.').waitFor();
    await page.getByRole('button', { name: /^Put version/ }).click();
    await page
      .getByText('Written into the market’s own “pantry-lane-kettles.xlsx”, sheet “To fill”, from row 3 on.')
      .waitFor();
    await page.getByRole('heading', { name: 'Template for Pans and jars' }).waitFor();
    await page.getByRole('button', { name: 'Kettles' }).click();
    await page.getByRole('heading', { name: 'Template for Pans and jars' }).waitFor({ state: 'detached' });
    await page.getByRole('heading', { name: 'Template for Kettles' }).waitFor();
    await world.api('DELETE', '/markets/pantry_lane?name=Pantry%20Lane');
  });
});
