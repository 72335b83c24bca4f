// A business system in the browser: connected, looked at, its rules mended where rows clash, brought in, and kept in step.
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openWorld, until, type World } from './world';

let world: World, page: Page;
beforeAll(async () => {
  world = await openWorld('sources_e2e', { size: 60, markets: ['quillhaven', 'countinghouse'] });
  page = await world.newPage();
});
afterAll(() => world.close());
const button = (name: string | RegExp) => page.getByRole('button', { name, exact: true });
const skus = async (where: string) =>
  (await world.query<{ sku: string }>(`select sku from products where ${where} order by sku`)).map((r) => r.sku);

describe('a business system', () => {
  it('is connected by its address and key, and says what its rows would be', async () => {
    await page.goto(`${world.base}/all/gather/sources`);
    await page.getByRole('link', { name: 'Countinghouse' }).waitFor();
    await button('Connect one').click();
    await page.getByLabel('Name', { exact: true }).fill('The night');
    await page.getByLabel(/^A text file/).check();
    await page.getByLabel('Address').fill(`${world.markets['countinghouse']!}/nightly/articles.csv`);
    await page.getByLabel('Key, where it asks for one').fill('wrong');
    await page.getByLabel(/decimal/).selectOption(',');
    await button('Connect it').click();
    await button('Fetch the rows').click();
    await page.getByText('The night does not take the key that it was given (401).').waitFor();
    await page.getByLabel(/^Another key/).fill('ch-4471-tally');
    await button('Keep the changes').click();
    await page.getByText('Kept.').waitFor();
    await button('Fetch the rows').click();
    // Boxes beside pieces: the rule that was guessed makes one SKU of both.
    await page.getByText(/SKUs? would be several rows/).waitFor();
    expect(await page.getByLabel('SKU', { exact: true }).inputValue()).toBe('textjoin("-", [Article], [Variant])');
  });
  it('has its rules mended while one sees what they do', async () => {
    const only = page.getByLabel('Which rows come', { exact: true });
    await only.pressSequentially('[Un', { delay: 15 });
    await page.getByRole('option', { name: 'Unit Columns' }).waitFor();
    await page.keyboard.press('Enter');
    await page.getByText('The rules on the left cannot be worked out yet.').waitFor();
    await only.pressSequentially(' = "PCS"', { delay: 15 });
    await until(
      () => page.getByText(/would be several rows/).count(),
      (n) => n === 0,
    );
    await page.getByRole('status').getByText(/ new/).waitFor();
    expect(await button('Bring in …').isDisabled()).toBe(true);
    await button('Keep the changes').click();
    await until(
      () => button('Bring in …').isDisabled(),
      (is) => !is,
    );
  });
  it('is brought in after a look, its families with it', async () => {
    await page.goto(`${world.base}/all/gather/sources`);
    await page.getByRole('link', { name: 'Countinghouse' }).click();
    await button('Fetch the rows').click();
    await page
      .getByRole('status')
      .getByText(/15 new/)
      .waitFor();
    await button('Bring in …').click();
    await page.getByRole('link', { name: 'Look and decide' }).click();
    await page.getByRole('heading', { name: /^Countinghouse, / }).waitFor();
    await page.getByRole('button', { name: /^Write \d+ rows$/ }).click();
    await until(
      () => skus(`sku like 'GL-FEN-TUM%'`),
      (s) => s.length === 4,
    );
    expect(await skus(`kind = 'family' and sku like 'GL-FEN%'`)).toHaveLength(5);
  });
  it('is asked by the clock from then on', async () => {
    await page.goto(`${world.base}/all/gather/sources`);
    await page.getByRole('link', { name: 'Countinghouse' }).click();
    await page.getByLabel('When it is brought in').selectOption('day');
    await page.getByLabel('at', { exact: true }).fill('05:30');
    await button('Keep the changes').click();
    await page.getByText(/^next /).waitFor();
    await page.goto(`${world.base}/all/gather/sources`);
    await page.getByText('every day at 05:30').waitFor();
  });
});
