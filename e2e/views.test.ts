// Every view by keyboard and by assistive technology, light and dark; the table as a spreadsheet.
import AxeBuilder from '@axe-core/playwright';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openWorld, until, type World } from './world';

let world: World, page: Page;
beforeAll(async () => {
  world = await openWorld('views');
  page = await world.newPage();
});
afterAll(async () => {
  await world.close();
});

const views: [string, string, string][] = [
  ['home', '/', 'What needs you today'],
  ['catalog', '/all/gather', 'Catalog'],
  ['imports', '/all/gather/imports', 'Imports'],
  ['listings', '/quillhaven/prepare', 'Prepare for Quillhaven'],
  ['categories', '/quillhaven/prepare?view=categories', 'Prepare for Quillhaven'],
  ['fields', '/quillhaven/prepare?view=fields', 'Prepare for Quillhaven'],
  ['values', '/quillhaven/prepare?view=values', 'Prepare for Quillhaven'],
  ['look-up', '/quillhaven/prepare?view=look-up', 'Prepare for Quillhaven'],
  ['check', '/quillhaven/check', 'Check for Quillhaven'],
  ['send', '/quillhaven/send', 'Send to Quillhaven'],
  ['settle', '/quillhaven/settle?state=live', 'Settle with Quillhaven'],
  ['rulebook', '/quillhaven/rulebook?leaf=frying_pans', 'Rulebook of Quillhaven'],
  ['history', '/all/history', 'Change history'],
];

describe('every view', () => {
  /** What axe finds, once colours have come to rest: a button that has just been enabled is half-way between two for a fifth of a second. */
  const findFaults = async (p: Page, narrow: (axe: AxeBuilder) => AxeBuilder): Promise<string[]> => {
    await p.waitForFunction(() =>
      document.getAnimations().every((a) => a.playState !== 'running' || a.effect?.getTiming().iterations === Infinity),
    );
    // Of what passes nothing is told: on a page of thousands of choices the telling takes longer than the looking.
    const { violations } = await narrow(new AxeBuilder({ page: p }).options({ resultTypes: ['violations'] })).analyze();
    return violations.map(
      (v) =>
        `${v.id}: ${v.nodes
          .slice(0, 3)
          .map((n) => `${n.html.slice(0, 160)} ${n.any[0]?.message ?? ''}`)
          .join(' | ')}`,
    );
  };
  it.each(views)('%s has no fault that axe finds, light and dark, and says its name', async (_, path, title) => {
    const p = await world.newPage();
    await p.goto(world.base + path);
    await p.getByRole('heading', { name: title, level: 1 }).waitFor();
    await p.locator('.loading').first().waitFor({ state: 'detached' });
    expect(await findFaults(p, (axe) => axe.withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa']))).toEqual([]);
    const ground = () => p.evaluate(() => getComputedStyle(document.body).backgroundColor);
    const light = await ground();
    await p.getByRole('button', { name: 'Dark theme' }).click();
    await until(ground, (g) => g !== light);
    expect(await findFaults(p, (axe) => axe.withRules(['color-contrast']))).toEqual([]);
    await p.context().close();
  });
  it('fits a narrow window without scrolling sideways', async () => {
    const p = await world.newPage({ width: 720 });
    for (const [, path, title] of views) {
      await p.goto(world.base + path);
      await p.getByRole('heading', { name: title, level: 1 }).waitFor();
      expect(await p.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth), path).toBe(true);
    }
    await p.context().close();
  });
});

describe('by keyboard', () => {
  it('goes along the path, opens the keys and the palette, and finds an item', async () => {
    await page.goto(world.base);
    await page.getByRole('heading', { name: 'What needs you today' }).waitFor();
    await page.keyboard.press('Alt+3');
    await page.getByRole('heading', { name: /^Check for/ }).waitFor();
    await page.keyboard.press('?');
    await page.getByRole('dialog', { name: 'Keys' }).waitFor();
    await page.keyboard.press('Escape');
    await page.getByRole('dialog', { name: 'Keys' }).waitFor({ state: 'detached' });
    await page.keyboard.press('Control+k');
    await page.getByPlaceholder('SKU, title, barcode or a command').fill('FP-HEAR-24');
    await page.getByRole('option', { name: /FP-HEAR-24CM/ }).waitFor();
    await page.keyboard.press('Enter');
    await page.getByRole('heading', { name: 'Catalog' }).waitFor();
    expect(new URL(page.url()).searchParams.get('q')).toBe('FP-HEAR-24CM');
  });
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
