// Every box that searches keeps every letter, at the pace of any hand, and keeps the focus while its page fetches anew.
import type { Locator, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openWorld, until, type World } from './world';

let world: World;
beforeAll(async () => {
  world = await openWorld('typing', { size: 300 });
});
afterAll(async () => {
  await world.close();
});

const text = 'MP-MUG-06 mug';
const paces = [20, 40, 90, 250];

async function typeAtEveryPace(page: Page, box: Locator): Promise<void> {
  for (const delay of paces) {
    await box.fill('');
    await box.focus();
    await page.keyboard.type(text, { delay });
    expect({ delay, is: await box.inputValue() }).toEqual({ delay, is: text });
    expect(await box.evaluate((e) => e === document.activeElement)).toBe(true);
  }
}

// A slow hand is waited for; each box has a page of its own and all are typed into at once.
describe.concurrent('a search box', () => {
  it.each([
    ['/all/gather', 'Find in the catalog', 'q'],
    ['/quillhaven/prepare?view=listings', 'Find listings', 'q'],
    ['/quillhaven/check', 'Find in findings', 'q'],
    ['/quillhaven/prepare?view=look-up', 'Look up on Quillhaven', 'look'],
  ])('of %s keeps what is typed, and the address follows', async (path, label, name) => {
    const page = await world.newPage();
    await page.goto(world.base + path);
    const box = page.getByRole('searchbox', { name: label });
    await typeAtEveryPace(page, box);
    await until(
      () => Promise.resolve(new URL(page.url()).searchParams.get(name)),
      (q) => q === text,
    );
    // What the address says is in the box again after going back to it.
    await page.reload();
    expect(await page.getByRole('searchbox', { name: label }).inputValue()).toBe(text);
  });
  it('of the fields keeps what is typed', async () => {
    const page = await world.newPage();
    await page.goto(`${world.base}/quillhaven/prepare?view=fields`);
    await typeAtEveryPace(page, page.getByRole('searchbox', { name: 'Find an attribute' }));
  });
  it('of the palette has the focus when it opens, and arrow keys reach what is found', async () => {
    const page = await world.newPage();
    await page.goto(`${world.base}/all/gather`);
    await page.getByRole('grid').waitFor();
    await page.keyboard.press('Control+k');
    const box = page.getByRole('dialog').getByRole('combobox');
    await until(
      () => box.evaluate((e) => e === document.activeElement),
      (is) => is,
    );
    await typeAtEveryPace(page, box);
    await box.fill('');
    await page.keyboard.type('check', { delay: 20 });
    await page.keyboard.press('ArrowDown');
    expect(await page.getByRole('dialog').getByRole('option', { selected: true }).count()).toBe(1);
  });
  it('of the category picker has the focus, forgives a slip, and chooses with arrow keys', async () => {
    const page = await world.newPage();
    await page.goto(`${world.base}/quillhaven/prepare?view=categories`);
    await page
      .getByRole('button', { name: /Choose/ })
      .first()
      .click();
    const dialog = page.getByRole('dialog');
    const box = dialog.getByRole('combobox', { name: 'Search the tree' });
    await until(
      () => box.evaluate((e) => e === document.activeElement),
      (is) => is,
    );
    await typeAtEveryPace(page, box);
    await box.fill('towl tea');
    await dialog.getByRole('option', { name: /Tea towels/ }).waitFor();
    await page.keyboard.press('Enter');
    await dialog.waitFor({ state: 'detached' });
  });
});
