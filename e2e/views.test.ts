// Every view by keyboard and by assistive technology, light and dark.
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
  ['item by item', '/quillhaven/prepare?view=categories&by=item', 'Prepare for Quillhaven'],
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
    // No page has frames, so that none is opened to put together what was found in each, which takes longer still.
    const axe = new AxeBuilder({ page: p }).setLegacyMode(true).options({ resultTypes: ['violations'] });
    const { violations } = await narrow(axe).analyze();
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
