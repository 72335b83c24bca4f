// A second language of the interface is one more file. This one is made of the list that translators start from, each
// sentence between brackets (in the manner of the pseudo-locale en-XA), so that what is said past the table can be seen.
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openWorld, until, type World } from './world';

type Forms = string | Record<string, string>;
interface List {
  says: Record<string, Forms>;
  findings: Record<string, Record<string, string>>;
}
const list = JSON.parse(readFileSync(resolve(import.meta.dirname, '../languages/sentences.json'), 'utf8')) as List;
const mark = (text: string): string => `⟦${text}⟧`;
const markAll = (forms: Forms): Forms =>
  typeof forms === 'string'
    ? mark(forms)
    : Object.fromEntries(Object.entries(forms).map(([form, text]) => [form, mark(text)]));
const pseudo = {
  language: 'en-XA',
  name: 'Brackets',
  says: Object.fromEntries(Object.entries(list.says).map(([key, says]) => [key, markAll(says)])),
  findings: Object.fromEntries(Object.entries(list.findings).map(([key, says]) => [key, markAll(says)])),
};

let world: World, page: Page;
const folder = mkdtempSync(join(tmpdir(), 'basileus-tongues-'));
beforeAll(async () => {
  writeFileSync(join(folder, 'en-XA.json'), JSON.stringify(pseudo));
  writeFileSync(join(folder, 'ar.json'), JSON.stringify({ ...pseudo, language: 'ar', name: 'Mirror' }));
  writeFileSync(join(folder, 'sv.json'), '{ "language": "sv" }');
  world = await openWorld('language_e2e', { size: 150, markets: ['quillhaven', 'torgvik'], languages: folder });
  page = await world.newPage();
});
afterAll(async () => {
  await world.close();
  rmSync(folder, { recursive: true });
});
const choice = () => page.locator('header select:has(option[value="en-XA"])');

/** What stands on headings, buttons, links of the path, labels and legends in words, without a bracket anywhere in it. */
const listUnsaid = () =>
  page.evaluate(() =>
    [
      ...document.querySelectorAll(
        'h1, h2, h3, button, legend, label, header a, nav a, .join button, p, option, summary',
      ),
    ]
      // Columns are called like the fields that they hold.
      .filter((e) => e instanceof HTMLElement && e.offsetParent !== null && !e.closest('[role=columnheader]'))
      .flatMap((e) => [e.getAttribute('aria-label') ?? e.textContent, e.getAttribute('title') ?? ''])
      .map((t) => t.trim())
      .filter((t) => /\p{L}{2}/u.test(t) && !t.includes('⟦')),
  );

/** What is the house’s or a market’s own, and no word of the interface: names, brands, categories, fields. */
const markets = ['Quillhaven', 'Torgvik'];
async function listNames(): Promise<Set<string>> {
  const own = await world.query<{ name: string }>(
    `select name from own_categories union select distinct brand from products
     union select label from own_fields union select group_name from own_fields union select name from people`,
  );
  const { tree } = await world.api<{ tree: { label: string }[] }>('GET', '/markets/quillhaven/rulebook/document');
  return new Set([...own.map((r) => r.name), ...tree.map((n) => n.label), 'English', 'Mirror', 'Brackets', 'sv']);
}

/** Pages with a heading or a table each. */
const pages = [
  '/',
  '/all/gather',
  '/all/gather/imports',
  '/all/people',
  '/all/gather/exports',
  '/all/gather/pictures',
  '/all/gather/recipes',
  '/all/gather/sources',
  '/all/prepare',
  '/quillhaven/prepare',
  '/quillhaven/prepare?view=categories',
  '/quillhaven/prepare?view=categories&by=item',
  '/quillhaven/prepare?view=fields',
  '/quillhaven/prepare?view=values',
  '/quillhaven/check',
  '/all/check',
  '/quillhaven/send',
  '/all/send',
  '/quillhaven/settle',
  '/quillhaven/rulebook',
  '/quillhaven/connection',
  '/all/markets/new',
  '/all/own?view=categories',
  '/all/own?view=languages',
  '/all/own?view=pictures',
  '/all/history',
];

describe('another language', () => {
  it('is offered as soon as its file is there; one that cannot be read says why', async () => {
    await page.goto(world.base);
    await page.getByLabel('Language of the interface').waitFor();
    expect(await choice().locator('option').allInnerTexts()).toEqual(['English', 'Mirror', 'Brackets', 'sv']);
    const broken = choice().locator('option', { hasText: 'sv' });
    expect(await broken.isDisabled()).toBe(true);
    expect(await broken.getAttribute('title')).toContain('is missing');
  });
  it('is spoken from then on, also after the page is loaded anew', async () => {
    await choice().selectOption('en-XA');
    await page.getByRole('heading', { name: '⟦What needs you today⟧' }).waitFor();
    expect(await page.locator('html').getAttribute('lang')).toBe('en-XA');
    await page.reload();
    await page.getByRole('heading', { name: '⟦What needs you today⟧' }).waitFor();
    expect(await choice().inputValue()).toBe('en-XA');
  });
  it('is spoken on every page: on headings, buttons, labels and in paragraphs', async () => {
    const names = await listNames();
    const unsaid: Record<string, string[]> = {};
    for (const path of pages) {
      await page.goto(world.base + path);
      await page.locator('main :is(h1, h2, [role=grid])').first().waitFor();
      await page.waitForLoadState('networkidle');
      const here = (await listUnsaid()).filter((t) => !names.has(t) && !markets.some((m) => t.includes(m)));
      if (here.length > 0) unsaid[path] = here;
    }
    expect(unsaid).toEqual({});
  });
  it('is spoken by findings, by numbers with their words and by what the server refuses', async () => {
    await page.goto(`${world.base}/quillhaven/check`);
    await page
      .getByRole('button', { name: /⟦“.+” is missing⟧/ })
      .first()
      .waitFor();
    await page.goto(`${world.base}/all/gather`);
    await page.getByText(/^⟦[\d,]+ ⟦rows⟧ of [\d,]+⟧$/).waitFor();
    const [taken] = await world.query<{ sku: string }>(`select sku from products order by id limit 1`);
    await page.getByRole('button', { name: '⟦Add an item⟧' }).click();
    const ask = page.getByRole('dialog');
    await ask.getByLabel('SKU').fill(taken!.sku);
    await ask.getByLabel('⟦Title⟧').fill('Twin');
    await ask.getByRole('button', { name: '⟦Add it⟧' }).click();
    await ask.getByText(`⟦SKU ${taken!.sku} is already in the catalog.⟧`).waitFor();
    await ask.getByText('⟦Give another SKU, or change the item that has it.⟧').waitFor();
  });
  it('gives way to English again', async () => {
    await page.goto(world.base);
    await choice().selectOption('en');
    await page.getByRole('heading', { name: 'What needs you today' }).waitFor();
    expect(await page.locator('html').getAttribute('lang')).toBe('en');
  });
});

/** Pages of each kind: boards, tables, lists beside what is chosen, forms. */
const mirrored = pages.filter((p) =>
  ['/', '/all/gather', '/all/prepare', '/quillhaven/prepare', '/quillhaven/check', '/all/send'].includes(p),
);

describe('a language that runs from right to left', () => {
  const grid = () => page.getByRole('grid');
  const active = () =>
    page.evaluate(() => {
      const id = document.querySelector('[role=grid]')!.getAttribute('aria-activedescendant');
      const cell = document.getElementById(id ?? '');
      // A cell that is gone to is there once the table has been moved to it.
      if (!cell) return undefined;
      const box = document.querySelector('[role=grid]')!.getBoundingClientRect(),
        at = cell.getBoundingClientRect();
      return {
        column: Number(cell.dataset['column']),
        right: Math.round(box.right - at.right),
        isInSight: at.left >= box.left - 1 && at.right <= box.right + 1,
      };
    });
  it('turns pages round, and none of them stands over its edge', async () => {
    await page.goto(world.base);
    await choice().selectOption('ar');
    await page.getByRole('heading', { name: '⟦What needs you today⟧' }).waitFor();
    expect(await page.locator('html').getAttribute('dir')).toBe('rtl');
    const over: string[] = [];
    for (const path of mirrored) {
      await page.goto(world.base + path);
      await page.locator('main :is(h1, h2, [role=grid])').first().waitFor();
      await page.waitForLoadState('networkidle');
      const isOver = await page.evaluate(
        () => document.documentElement.scrollWidth > document.documentElement.clientWidth || window.scrollX !== 0,
      );
      if (isOver) over.push(path);
    }
    expect(over).toEqual([]);
    expect(mirrored.length).toBe(6);
  });
  it('begins the table at the right; its keys go the way they point', async () => {
    await page.goto(`${world.base}/all/gather`);
    await grid().getByRole('gridcell').first().waitFor();
    const heads = await grid().getByRole('columnheader').all();
    const rights = await Promise.all(
      heads.slice(0, 4).map(async (h) => {
        const box = (await h.boundingBox())!;
        return Math.round(box.x + box.width);
      }),
    );
    expect(rights).toEqual(rights.toSorted((a, b) => b - a));
    expect(new Set(rights).size).toBe(4);
    await grid().getByRole('gridcell').nth(1).click();
    const first = (await until(active, (a) => a !== undefined))!;
    await page.keyboard.press('ArrowLeft');
    const next = (await until(active, (a) => a?.column === first.column + 1))!;
    expect(next.right).toBeGreaterThan(first.right);
    for (let i = 0; i < 9; i++) await page.keyboard.press('ArrowLeft');
    await until(active, (a) => a?.column === first.column + 10 && a.isInSight);
    await page.keyboard.press('ArrowRight');
    await until(active, (a) => a?.column === first.column + 9);
  });
});
