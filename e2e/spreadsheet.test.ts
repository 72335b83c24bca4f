// The table as a spreadsheet: typing over, going down, taking back, copying, pasting, filling.
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openWorld, until, type World } from './world';

let world: World, page: Page;
beforeAll(async () => {
  world = await openWorld('spreadsheet', { size: 700 });
  page = await world.newPage();
});
afterAll(async () => {
  await world.close();
});

describe('the table as a spreadsheet', () => {
  const grid = () => page.getByRole('grid', { name: 'Catalog' });
  const titles = (skus: string[]) =>
    world.query<{ sku: string; title: string; brand: string | null }>(
      'select sku, title, brand from products where sku = any($1) order by sku',
      [skus],
    );
  const skus = ['BK-BREA-', 'BK-FIVE-'];
  const at = (row: number, column: number) => grid().locator(`[id$="-${row}-${column}"]`);

  beforeAll(async () => {
    await page.goto(`${world.base}/all/gather?category=Cookbooks`);
    await at(3, 1).waitFor();
  });
  it('types over a cell, goes down, and keeps every letter of fast typing', async () => {
    await at(0, 1).click();
    const wanted = ['Aaaa title', 'Bbbb title', 'Cccc title'];
    for (const w of wanted) {
      await page.keyboard.type(w);
      await page.keyboard.press('Enter');
    }
    const rows = await until(
      () =>
        world.query<{ title: string }>(`select title from products where category = 'Cookbooks' order by sku limit 3`),
      (r) => r.map((x) => x.title).join() === wanted.join(),
    );
    expect(rows.map((r) => r.title)).toEqual(wanted);
  });
  it('takes edits back one by one', async () => {
    const typed = async () =>
      (
        await world.query<{ title: string }>(
          `select title from products where category = 'Cookbooks' order by sku limit 3`,
        )
      ).filter((r) => /title$/.test(r.title)).length;
    expect(await typed()).toBe(3);
    for (let left = 2; left >= 0; left--) {
      await grid().focus();
      await page.keyboard.press('Control+z');
      await until(typed, (n) => n === left);
    }
    await page.getByText('Taken back: 1 cell.').waitFor();
    // And makes them again, faster than the server answers.
    for (let i = 0; i < 3; i++) await page.keyboard.press('Control+y');
    await until(typed, (n) => n === 3);
    for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
    await until(typed, (n) => n === 0);
  });
  it('copies a range as a spreadsheet takes it and pastes one with quotes and tabs', async () => {
    await at(0, 1).click();
    await at(1, 2).click({ modifiers: ['Shift'] });
    await page.keyboard.press('Control+c');
    const copied = await page.evaluate(() => navigator.clipboard.readText());
    const two = await world.query<{ title: string; brand: string }>(
      `select title, brand from products where category = 'Cookbooks' order by sku limit 2`,
    );
    expect(copied.replace(/\r/g, '').trim()).toBe(two.map((r) => `${r.title}\t${r.brand}`).join('\n'));
    await page.evaluate(() => navigator.clipboard.writeText('"A ""quoted""\ntitle"\tHouse\r\nPlain\tOther\r\n'));
    await at(0, 1).click();
    await page.keyboard.press('Control+v');
    await until(
      () =>
        world.query<{ title: string; brand: string }>(
          `select title, brand from products where category = 'Cookbooks' order by sku limit 2`,
        ),
      (r) => r[0]?.title === 'A "quoted"\ntitle' && r[0].brand === 'House' && r[1]?.title === 'Plain',
    );
    await grid().focus();
    await page.keyboard.press('Control+z');
    await until(
      () =>
        world.query<{ title: string; brand: string }>(
          `select title, brand from products where category = 'Cookbooks' order by sku limit 2`,
        ),
      (r) => JSON.stringify(r) === JSON.stringify(two),
    );
  });
  it('fills down and empties a selection', async () => {
    await at(0, 2).click();
    await at(3, 2).click({ modifiers: ['Shift'] });
    await page.keyboard.press('Delete');
    await until(
      () =>
        world.query<{ brand: string | null }>(
          `select brand from products where category = 'Cookbooks' order by sku limit 4`,
        ),
      (r) => r.every((x) => x.brand === null),
    );
    await at(0, 2).click();
    await page.keyboard.type('Filled');
    await page.keyboard.press('Enter');
    await at(0, 2).click();
    await at(3, 2).click({ modifiers: ['Shift'] });
    await page.keyboard.press('Control+d');
    await until(
      () =>
        world.query<{ brand: string | null }>(
          `select brand from products where category = 'Cookbooks' order by sku limit 4`,
        ),
      (r) => r.every((x) => x.brand === 'Filled'),
    );
  });
  it('says what a wrong price is and keeps the old one', async () => {
    const cell = grid().getByRole('columnheader', { name: /^Price/ });
    const column = Number(await cell.getAttribute('aria-colindex')) - 1;
    const [before] = await world.query<{ price: string }>(
      `select price from products where category = 'Cookbooks' order by sku limit 1`,
    );
    await at(0, 1).click();
    for (let i = 1; i < column; i++) await page.keyboard.press('ArrowRight');
    await page.keyboard.type('cheap');
    await page.keyboard.press('Enter');
    await page.getByText('Price “cheap” is not a price; write digits with a point, such as 12.50.').waitFor();
    expect(await world.query(`select price from products where category = 'Cookbooks' order by sku limit 1`)).toEqual([
      before,
    ]);
  });
  it('shows what a colleague changes without a refresh', async () => {
    const [row] = await world.query<{ id: number; title: string }>(
      `select id, title from products where category = 'Cookbooks' order by sku limit 1`,
    );
    await page.goto(`${world.base}/all/gather?category=Cookbooks`);
    await at(0, 1).waitFor();
    await world.api('PATCH', '/products', {
      cells: [{ id: Number(row!.id), field: 'title', before: row!.title, after: 'Changed by a colleague' }],
    });
    await page.getByText('Changed by a colleague').waitFor();
    expect(await titles(skus)).toEqual([]);
  });
});
