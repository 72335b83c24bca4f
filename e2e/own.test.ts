// What the house says of its own catalog, in the browser: a field that is added is a column at once, a category that is
// renamed takes its items along.
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openWorld, until, type World } from './world';

let world: World, page: Page;
beforeAll(async () => {
  world = await openWorld('own_e2e', { size: 150, markets: ['quillhaven', 'picturehost'], work: 200, review: 300 });
  page = await world.newPage();
});
afterAll(() => world.close());
const goto = async (path: string) => {
  await page.goto(world.base + path);
};
const head = (name: string) => page.getByRole('columnheader', { name, exact: true });
/** Brings a column into sight and answers its place. */
const findColumn = async (name: string): Promise<number> => {
  await page.getByRole('grid').focus();
  await page.keyboard.press('Home');
  for (let i = 0; i < 80 && (await head(name).count()) === 0; i++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  return Number(await head(name).getAttribute('aria-colindex')) - 1;
};
const factOf = (sku: string, fact: string) =>
  world.query<{ v: string }>('select facts ->> $2 as v from products where sku = $1', [sku, fact]);

describe('a field of our own', () => {
  it('is added on a screen, with a list of values', async () => {
    await goto('/');
    await page.getByRole('link', { name: 'Our catalog' }).click();
    await page.getByRole('button', { name: 'Add a field' }).click();
    await page.getByLabel('Label').fill('colour');
    await page.getByRole('button', { name: 'Add it' }).click();
    await page.getByText('“colour” is what the field Colour is called already. Give another name.').waitFor();
    await page.getByLabel('Label').fill('Handle');
    await page.getByLabel(/^Values to choose from/).fill('Oak\nSteel\nBeech');
    await page.getByLabel(/^What other people/).fill('Griff');
    await page.getByRole('button', { name: 'Add it' }).click();
    await page.getByText('Handle is a column of the catalog now.').waitFor();
    await page.getByRole('heading', { name: 'Handle' }).waitFor();
    await page.getByText('0 items hold it. Rulebooks name it fact.handle.').waitFor();
  });
  it('is a column of the catalog that can be typed into, refuses what is not on its list, and is sorted by', async () => {
    await goto('/all/gather?open=all&kind=family');
    await page.getByRole('gridcell').nth(3).waitFor();
    const at = await findColumn('Handle');
    const cell = (row: number) => page.locator(`[data-row="${row}"][data-column="${at}"]`);
    const skuOf = async (row: number) =>
      (await page.locator(`[data-row="${row}"][data-column="0"]`).innerText()).trim();
    const second = await skuOf(2);
    await cell(1).click();
    await page.keyboard.type('Oack');
    await page.keyboard.press('Enter');
    await page.getByText(/Handle “Oack” is not in the list of values of this field; “Oak” is\./).waitFor();
    await cell(2).click();
    await page.keyboard.type('beech');
    await page.keyboard.press('Enter');
    await until(
      () => factOf(second, 'handle'),
      (r) => r[0]?.v === 'Beech',
    );
    await head('Handle').click();
    await page.locator(`[data-row="0"][data-column="0"]`, { hasText: second }).waitFor();
    expect(new URL(page.url()).searchParams.get('sort')).toBe('fact.handle.up');
  });
  it('shows only at items of its categories', async () => {
    await goto('/all/own?field=handle');
    await page.getByLabel(/^Only items of these categories/).selectOption({ label: '\u2003Frying pans' });
    await page.getByRole('button', { name: 'Not only Frying pans' }).waitFor();
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await page.getByText('Handle is kept.').waitFor();
    const total = async (category: string) => {
      await goto(`/all/gather?category=${category}`);
      await page.getByRole('gridcell').nth(3).waitFor();
      await page.locator('[role="grid"][aria-busy="false"]').waitFor();
      return Number(await page.getByRole('grid').getAttribute('aria-colcount'));
    };
    expect((await total('Frying%20pans')) - (await total('Griddles'))).toBe(1);
    // Until the categories have been told the table says that columns may still come.
    let release = () => {};
    const held = new Promise<void>((go) => (release = go));
    await page.route('**/api/own-categories', async (route) => {
      await held;
      await route.continue();
    });
    await goto('/all/gather?category=Griddles');
    await page.getByRole('gridcell').nth(3).waitFor();
    await page.locator('[role="grid"][aria-busy="true"]').waitFor();
    release();
    await page.locator('[role="grid"][aria-busy="false"]').waitFor();
    await page.unroute('**/api/own-categories');
  });
  it('goes with what items hold in it', async () => {
    await goto('/all/own?field=handle');
    await page.getByText(/^1 item holds it\./).waitFor();
    await page.getByRole('button', { name: 'Remove …' }).click();
    await page.getByText(/^1 item holds something in it\./).waitFor();
    await page.getByRole('button', { name: 'Remove it' }).click();
    await until(
      () => world.query(`select 1 from own_fields where key = 'handle'`),
      (r) => r.length === 0,
    );
    expect(await world.query(`select 1 from products where facts -> 'handle' is not null`)).toEqual([]);
    await page.getByRole('button', { name: 'Handle', exact: true }).waitFor({ state: 'detached' });
  });
});

describe('our own categories', () => {
  it('are renamed with their items, and moved in the tree', async () => {
    await goto('/all/own?view=categories');
    await page.getByRole('button', { name: 'Frying pans', exact: true }).click();
    const one = page.getByRole('region', { name: 'Category Frying pans' });
    await one.getByLabel(/^Name;/).fill('Skillets');
    await one.getByRole('button', { name: 'Rename' }).click();
    const renamed = page.getByRole('region', { name: 'Category Skillets' });
    await renamed.getByLabel('Stands under').selectOption('Ovenware');
    await renamed.getByText('Ovenware', { exact: true }).first().waitFor();
    await until(
      () => world.query<{ n: number }>(`select count(*)::int as n from products where category = 'Frying pans'`),
      (r) => r[0]?.n === 0,
    );
    await page.getByRole('button', { name: 'Frying pans', exact: true }).waitFor({ state: 'detached' });
    await page.getByRole('link', { name: 'Items of Ovenware in the catalog' }).click();
    await page.getByRole('gridcell', { name: 'Skillets' }).first().waitFor();
    const [{ n }] = (await world.query(
      `select count(*)::int as n from products where category in (select name from own_lineage where ancestor = 'Ovenware') and parent_id is null`,
    )) as [{ n: number }];
    await page.getByText(`${n} found of`).waitFor();
  });
  it('hold a further language as columns', async () => {
    await goto('/all/own?view=languages');
    await page.getByLabel('A further language').fill('French');
    await page.getByRole('region', { name: 'Languages' }).getByRole('button', { name: 'Add' }).click();
    await page.getByRole('button', { name: 'Give up French' }).waitFor();
    await goto('/all/own?field=ingredients');
    await page.getByText('in 6 languages').waitFor();
  });
});

describe('pictures of our items', () => {
  const counts = () =>
    world.query<{ state: string; n: number }>('select state, count(*)::int as n from pictures group by 1');
  const smallOnes = () =>
    page
      .locator('[role=gridcell] img')
      .evaluateAll((all) => all.filter((i) => (i as HTMLImageElement).naturalWidth > 0).length);
  it('are looked at where their host may be asked, and shown in the table', async () => {
    await until(counts, (rows) => rows.length > 0 && !rows.some((r) => r.state === 'waiting'));
    await goto('/all/own?view=pictures');
    const line = page.getByRole('row').filter({ hasText: 'pictures.brindlewick.example' });
    await line.getByRole('button', { name: 'Look again' }).waitFor();
    const there = (await counts()).find((r) => r.state === 'there')!.n;
    expect(await line.getByRole('cell').nth(2).innerText()).toBe(there.toLocaleString('en'));
    await goto('/all/gather?open=all');
    await page.getByRole('gridcell').nth(3).waitFor();
    await findColumn('Pictures');
    await until(smallOnes, (n) => n > 10);
  });
  it('are shown at a listing with what was found of each', async () => {
    const [found] = await world.query<{ sku: string; url: string }>(
      `select p.sku, u.url from picture_uses u join pictures x on x.url = u.url join products p on p.id = u.product_id
        join listings l on l.product_id = p.id
        where x.state = 'there' and x.width = 1200 and l.category is not null and p.kind = 'single' limit 1`,
    );
    await goto(`/quillhaven/prepare?q=${encodeURIComponent(found!.sku)}`);
    await page.getByRole('gridcell', { name: found!.sku }).first().click();
    await page.getByRole('button', { name: 'Open', exact: true }).click();
    const listing = page.getByRole('dialog', { name: found!.sku });
    await listing.getByRole('button', { name: 'All fields' }).click();
    await listing
      .getByRole('list', { name: 'Pictures' })
      .getByText(/^1200 × 1200, JPEG, \d+ kB$/)
      .first()
      .waitFor();
  });
  it('that are only called by their names are matched, looked at as an import, and written', async () => {
    const items = await world.query<{ sku: string }>(
      `select sku from products where kind = 'variant' and jsonb_array_length(pictures) = 3 order by sku limit 2`,
    );
    await goto('/all/gather/imports');
    await page.getByRole('link', { name: 'Pictures by their names' }).click();
    const [a, b] = items.map((i) => i.sku);
    await page
      .getByLabel('Links, or names of files, one a line')
      .fill([`${a!}_2.jpg`, `${a!}_front.jpg`, `${b!}/01.jpg`, 'holiday.jpg'].join('\n'));
    await page.getByRole('button', { name: 'Match 4 pictures' }).click();
    await page.getByRole('alert').filter({ hasText: 'Say under which address the files are.' }).waitFor();
    await page.getByLabel(/^Address under which/).fill('https://pictures.brindlewick.example/new');
    await page.getByRole('button', { name: 'Match 4 pictures' }).click();
    await page.getByText('3 pictures are of 2 items; all of them would have others than now.').waitFor();
    await page.getByText('1 picture of no item of ours').click();
    await page.getByText('https://pictures.brindlewick.example/new/holiday.jpg').waitFor();
    await page.getByRole('button', { name: 'Go on to the import' }).click();
    await page.waitForURL(/gather\/imports\/\d+$/);
    await page
      .getByRole('button', { name: /^Write/ })
      .first()
      .click();
    await until(
      () => world.query<{ p: string[] }>('select pictures as p from products where sku = $1', [a]),
      ([r]) => r!.p.length === 2,
    );
    const [written] = await world.query<{ p: string[] }>('select pictures as p from products where sku = $1', [a]);
    expect(written!.p).toEqual(
      [`${a!}_front.jpg`, `${a!}_2.jpg`].map((n) => `https://pictures.brindlewick.example/new/${n}`),
    );
  });
  it('of a host that is left are not shown any more', async () => {
    await goto('/all/own?view=pictures');
    await page.getByRole('button', { name: 'Ask no more' }).click();
    await page.getByRole('button', { name: 'Look at its pictures' }).waitFor();
    await goto('/all/gather?open=all');
    await page.getByRole('gridcell').nth(3).waitFor();
    await findColumn('Pictures');
    await page.locator('[role=gridcell]').filter({ hasText: 'https://pictures' }).first().waitFor();
    await until(smallOnes, (n) => n === 0);
  });
});
