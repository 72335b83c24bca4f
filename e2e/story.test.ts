// The whole path in a real browser: a supplier's file in, prepared, checked, mended, sent, answered, mended, sent again,
// and later a price, a stock and a detail update of only what changed.
import { join, resolve } from 'node:path';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openWorld, until, type World } from './world';

const files = resolve(import.meta.dirname, '../demo/files');
let world: World, page: Page;
beforeAll(async () => {
  world = await openWorld('story');
  page = await world.newPage();
});
afterAll(async () => {
  await world.close();
});

const goto = (path: string) => page.goto(world.base + path);
const cell = (row: string, column: string) =>
  page.getByRole('row').filter({ hasText: row }).getByRole('gridcell').nth(Number(column));

describe('from a supplier’s file to an accepted feed', () => {
  it('reads the supplier’s file, says what it understood, and writes nothing before it is told to', async () => {
    await goto('/all/gather/imports');
    await page.getByLabel('File to import').setInputFiles(join(files, 'tidewrack-autumn-list.csv'));
    await page.getByRole('heading', { name: 'tidewrack-autumn-list.csv' }).waitFor();
    expect(await page.getByLabel('Encoding').inputValue()).toBe('windows-1252');
    expect(await page.getByLabel('Delimiter').inputValue()).toBe(';');
    expect(await page.getByLabel('Decimal sign').inputValue()).toBe(',');
    expect(await page.getByLabel('Header in row').inputValue()).toBe('3');
    expect(await page.getByLabel('Field for Barcode').inputValue()).toBe('gtin');
    await page.getByRole('button', { name: 'Write 15 rows' }).waitFor();
    await page.getByRole('tab', { name: /Refused/ }).click();
    await page.getByText('SKU TW-MUG-2 already stands in row 10; keep one of them.').waitFor();
    await page.getByRole('tab', { name: /With remarks/ }).click();
    await page.getByText('9520000001070 is what we hold for this SKU.').waitFor();
    await page.getByText('095200070014 is proven by its check digit.').waitFor();
    expect(await world.query('select 1 from products where sku like $1', ['TW-%'])).toHaveLength(0);
  });

  it('keeps creating and updating apart when asked', async () => {
    await page.getByLabel('This import may').selectOption('update');
    await page.getByRole('button', { name: 'Write 3 rows' }).waitFor();
    await page.getByLabel('This import may').selectOption('both');
    await page.getByRole('button', { name: 'Write 15 rows' }).waitFor();
  });

  it('writes the rows as a job and keeps the refused ones as a file', async () => {
    await page.getByRole('button', { name: 'Write 15 rows' }).click();
    await page.getByRole('link', { name: 'See the catalog' }).waitFor();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: 'Refused rows as a file' }).click(),
    ]);
    const text = (await import('node:fs')).readFileSync((await download.path())!, 'utf8');
    expect(text).toContain('TW-BOWL-1');
    expect(text).toContain('Why it was refused');
    const family = await world.query<{ sku: string; kind: string; axes: string[] }>(
      `select sku, kind, axes from products where sku like 'TW-SKIL%' order by sku`,
    );
    expect(family.map((f) => f.kind)).toEqual(['family', 'variant', 'variant', 'variant', 'variant']);
    expect(family[0]!.axes).toEqual(['fact.diameter']);
    const [mug] = await world.query<{ title: string; cost: string }>(
      `select title, cost from products where sku = 'TW-MUG-1'`,
    );
    expect(mug).toMatchObject({ title: 'Tidewrack Café Mug White', cost: '2.8500' });
  });

  it('shows the new items in the catalog, edits one in place and takes it back', async () => {
    await goto('/all/gather?q=TW-MUG-4');
    await cell('TW-MUG-4', '1').dblclick();
    await page.getByLabel('Title, editing').fill('Tidewrack Café Mug Cream, tall');
    await page.keyboard.press('Enter');
    await until(
      () => world.query<{ title: string }>(`select title from products where sku = 'TW-MUG-4'`),
      (r) => r[0]?.title === 'Tidewrack Café Mug Cream, tall',
    );
    await page.getByRole('grid').focus();
    await page.keyboard.press('Control+z');
    await until(
      () => world.query<{ title: string }>(`select title from products where sku = 'TW-MUG-4'`),
      (r) => r[0]?.title === 'Tidewrack Café Mug Cream',
    );
  });

  it('proposes categories with reasons and places a whole own category with one choice', async () => {
    await goto('/quillhaven/prepare?view=categories');
    const row = page.getByRole('row').filter({ hasText: 'Vases' });
    await row.getByText(/in its name or group/).waitFor();
    const before = await world.query<{ n: string }>(`select count(*) as n from listings where category = 'vases'`);
    expect(Number(before[0]!.n)).toBe(0);
    await row.getByRole('button', { name: 'Take the proposal' }).click();
    await until(
      () => world.query<{ n: number }>(`select count(*)::int as n from listings where category = 'vases'`),
      (r) => r[0]!.n > 0,
    );
  });

  it('tells each item’s category by itself, leaves one out, and puts the rest there as one change', async () => {
    await goto('/quillhaven/prepare?view=categories');
    await page.getByRole('button', { name: 'Item by item: Aprons' }).click();
    // The file was looked at as soon as it was written.
    const leaf = page.getByRole('row').filter({ hasText: 'Table linen › Aprons' });
    await leaf.getByRole('checkbox').waitFor();
    expect(new URL(page.url()).searchParams.get('of')).toBe('Aprons');
    await page.getByRole('button', { name: 'Guesses too' }).click();
    await leaf.getByRole('button').click();
    const items = page.getByRole('list', { name: 'Items' }).getByRole('listitem');
    const kept = (await items.first().getByRole('checkbox').getAttribute('aria-label'))!;
    await items.first().getByText('“apron').first().waitFor();
    await items.first().getByRole('checkbox').uncheck();
    await page.getByRole('button', { name: 'Put what is ticked into 1 category' }).click();
    await page.getByText(/put into 1 category; the change history takes it back as one/).waitFor();
    const roots = () =>
      world.query<{ sku: string; placed: boolean }>(
        `select p.sku, l.category is not null as placed from listings l join products p on p.id = l.product_id
          join markets m on m.id = l.market_id where m.key = 'quillhaven' and p.category = 'Aprons' and p.parent_id is null`,
      );
    expect((await roots()).filter((r) => !r.placed).map((r) => r.sku)).toEqual([kept]);
    expect((await roots()).length).toBeGreaterThan(1);
  });

  it('placed the imported items by the table of correspondences', async () => {
    const rows = await world.query<{ sku: string; category: string | null }>(
      `select p.sku, l.category from listings l join products p on p.id = l.product_id where p.sku in ('TW-SKIL-20', 'TW-MUG-1', 'TW-JUG-1') order by 1`,
    );
    expect(rows).toEqual([
      { sku: 'TW-JUG-1', category: 'carafes' },
      { sku: 'TW-MUG-1', category: 'mugs' },
      { sku: 'TW-SKIL-20', category: 'frying_pans' },
    ]);
  });

  it('groups what is wrong by cause, fills one value into all of its rows, and the number falls', async () => {
    await goto('/quillhaven/check');
    const cause = page
      .getByRole('navigation', { name: 'Causes' })
      .getByRole('button', { name: /“Hobs it suits” is missing/ });
    await cause.click();
    await page.getByLabel('Hobs it suits for all').fill('Gas | Induction');
    await page.getByRole('button', { name: /^Fill / }).click();
    await page.getByText('No listing has this finding.').waitFor();
    const [row] = await world.query<{ v: string[] }>(
      `select l."values" -> 'hob_kinds' as v from listings l join products p on p.id = l.product_id where p.sku = 'TW-SKIL-20'`,
    );
    expect(row!.v).toEqual(['gas', 'indu']);
  });

  it('fills the capacity of all six imported mugs at once', async () => {
    await goto('/quillhaven/check');
    await page
      .getByRole('navigation', { name: 'Causes' })
      .getByRole('button', { name: /“Capacity” is missing/ })
      .click();
    const grid = page.getByRole('grid', { name: '“Capacity” is missing' });
    await grid.getByText('TW-MUG-1', { exact: true }).waitFor();
    const skus = await grid.getByRole('row').filter({ hasText: 'TW-MUG' }).count();
    expect(skus).toBe(6);
    await page.getByLabel('Capacity for all').fill('350 ml');
    await page.getByRole('button', { name: /^Fill / }).click();
    await page.getByText('No listing has this finding.').waitFor();
  });

  it('applies a mechanical remedy to all rows of a cause after showing before and after', async () => {
    await page
      .getByRole('navigation', { name: 'Causes' })
      .getByRole('button', { name: /Title shouts/ })
      .first()
      .click();
    await page.getByRole('button', { name: 'Remedy …' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('deletion').first().waitFor();
    await dialog.getByRole('insertion').first().waitFor();
    await dialog.getByRole('button', { name: /^Mend / }).click();
    await page.getByText('No listing has this finding.').waitFor();
  });

  it('shows what would go and why, holds back what is blocked, and shows the file as the market gets it', async () => {
    await goto('/quillhaven/send?operation=create');
    await page.getByRole('button', { name: /^Send \d+ now/ }).waitFor();
    await page.getByRole('button', { name: 'Look at the file' }).click();
    const dialog = page.getByRole('dialog');
    await dialog.getByText('house_sku').waitFor();
    await dialog.getByText('NEW').first().waitFor();
    await dialog.getByRole('button', { name: 'Close' }).click();
    await page.getByRole('button', { name: /^Held back/ }).click();
    await page.getByText('has a blocker').first().waitFor();
  });

  it('looks up what the market has already, which then does not go as new', async () => {
    await goto('/quillhaven/prepare?view=look-up');
    await page.getByRole('button', { name: 'Look up what is new' }).click();
    const found = page.getByRole('region', { name: 'Entries that are there already' });
    await found.getByRole('row', { name: 'FP-FORG2-32CM' }).getByText('30 cm', { exact: true }).waitFor();
    await found.getByRole('row', { name: 'BW-DUNE2-WHI' }).getByText('Dune 2 Bowl, White').waitFor();
    // Check leads to where it is decided.
    await goto('/quillhaven/check?cause=market-entry.there.item_number');
    await page.getByRole('link', { name: 'Decide' }).click();
    await found.getByRole('row', { name: 'BW-DUNE2-WHI' }).waitFor();
  });

  it('sends, reads the answer line by line, and lights the refused field', async () => {
    await goto('/quillhaven/send?operation=create');
    await page.getByRole('button', { name: /^Send \d+ now/ }).click();
    const before = page.getByRole('dialog', { name: 'Before it goes' });
    await before.getByText(/^\d+ new entries go to Quillhaven\.$/).waitFor();
    await before.getByRole('button', { name: 'Send it' }).click();
    await page.getByRole('heading', { name: /Dispatch No\. \d+: create/ }).waitFor();
    await page
      .getByText(/answered/)
      .first()
      .waitFor();
    await page.getByRole('tab', { name: /^Refused/ }).click();
    const row = page.getByRole('row').filter({ hasText: 'TW-MUG-6' });
    await row.getByText('The brand is not cleared for your account.').waitFor();
    expect(await row.getByLabel('Brand of TW-MUG-6').inputValue()).toBe('Tidewrack Trading Co');
    // Where the market's verdict and our checks differ, it is this one thing that only the market can know.
    const refused = await world.query<{ sku: string; code: string }>(
      `select sku, code from dispatch_lines where state = 'refused'`,
    );
    expect(refused).toEqual([{ sku: 'TW-MUG-6', code: 'Q41' }]);
  });

  it('mends the refused row where it stands and sends it alone', async () => {
    const field = page.getByLabel('Brand of TW-MUG-6');
    await field.fill('Tidewrack');
    await field.press('Enter');
    await page.getByText('mended', { exact: true }).waitFor();
    await page.getByRole('button', { name: 'Send 1 mended line' }).click();
    await page.getByText('1 row', { exact: false }).first().waitFor();
    await until(
      () =>
        world.query<{ total: number; accepted: number; remarked: number; state: string }>(
          'select total, accepted, remarked, state from dispatches order by id desc limit 1',
        ),
      (r) => r[0]?.state === 'answered' && r[0].total === 1 && r[0].accepted + r[0].remarked === 1,
    );
  });

  it('sees the entries go live after review and opens the page as a buyer sees it', async () => {
    await until(
      () =>
        world.query<{ s: string }>(
          `select l.market_state as s from listings l join products p on p.id = l.product_id where p.sku = 'TW-MUG-6'`,
        ),
      (r) => r[0]?.s === 'live',
    );
    await goto('/quillhaven/settle?state=live');
    const link = page.getByRole('row').filter({ hasText: 'TW-MUG-6' }).getByRole('link', { name: 'Open the page' });
    const html = await (await fetch((await link.getAttribute('href'))!)).text();
    expect(html).toContain('Tidewrack Trading Co Café Mug Red');
    expect(html).toContain('£8.99');
  });

  it('sends a price, a stock and a detail update of only what changed', async () => {
    const [mug] = await world.query<{ id: number; stock: string }>(
      `select p.id, s.on_hand as stock from products p join stock s on s.product_id = p.id where p.sku = 'TW-MUG-1'`,
    );
    await world.api('PATCH', '/products', {
      cells: [
        { id: Number(mug!.id), field: 'price', before: '8.99', after: '9.49' },
        { id: Number(mug!.id), field: 'stock', before: String(mug!.stock), after: '77' },
        { id: Number(mug!.id), field: 'highlights', before: null, after: ['Broad handle', 'Glazed twice', 'Stacks'] },
      ],
    });
    for (const [operation, has, lacks] of [
      ['price', '9.49', 'Glazed'],
      ['stock', '75', '9.49'],
      ['revise', 'Broad handle|Glazed twice|Stacks', '9.49'],
    ] as const) {
      await goto(`/quillhaven/send?operation=${operation}`);
      await page.getByRole('cell', { name: 'TW-MUG-1', exact: true }).waitFor();
      await page.getByRole('button', { name: /^Send \d+ now/ }).click();
      await page.getByRole('heading', { name: `: ${operation}` }).waitFor();
      const [d] = await until(
        () =>
          world.query<{ id: number; state: string; refused: number }>(
            'select id, state, refused from dispatches where operation = $1 order by id desc limit 1',
            [operation],
          ),
        (r) => r[0]?.state === 'answered',
      );
      expect(d!.refused).toBe(0);
      const file = await (await fetch(`${world.base}/api/dispatches/${d!.id}/file`)).text();
      const line = file.split('\r\n').find((l) => l.includes('TW-MUG-1\t') || l.startsWith('TW-MUG-1'))!;
      expect(line).toContain(has);
      expect(line).not.toContain(lacks);
      expect(line).not.toContain('Mug White');
    }
    const entry = (await (
      await fetch(`${world.market}/_control/entry`, { method: 'POST', body: 'TW-MUG-1' })
    ).json()) as { quantity: number; cells: Record<string, string> };
    expect(entry).toMatchObject({ quantity: 75, cells: { price: '9.49', title: 'Tidewrack Café Mug White' } });
    const plan = await world.api<{ operations: { operation: string; count: number }[] }>(
      'GET',
      '/markets/quillhaven/plan',
    );
    expect(plan.operations.filter((o) => o.operation !== 'create').reduce((n, o) => n + o.count, 0)).toBe(0);
  });
});
