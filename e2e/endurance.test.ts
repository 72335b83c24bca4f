// What must survive: the server killed in the middle of an import and of a send, with nothing lost and nothing doubled.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createRandom } from '../core/tests/random';
import { openWorld, until, type World } from './world';

let world: World;
beforeAll(async () => {
  world = await openWorld('endurance', { size: 120, work: 600 });
});
afterAll(async () => {
  await world.close();
});

const rowCount = 9000;
const upload = async (name: string, text: string) => {
  const form = new FormData();
  form.append('file', new Blob([text]), name);
  return (await (await fetch(`${world.base}/api/imports`, { method: 'POST', body: form })).json()) as { id: number };
};
const importState = (id: number) =>
  world
    .query<{ state: string; applied: number; plan: number }>(
      `select state, (select count(*)::int from import_rows where import_id = i.id and applied) as applied, (select count(*)::int from import_rows where import_id = i.id) as plan from imports i where id = $1`,
      [id],
    )
    .then((r) => r[0]!);

describe('kill -9', () => {
  it('in the middle of reading and of writing an import: every row once, none lost', async () => {
    const text =
      'SKU,Title,Price,Stock\n' +
      Array.from({ length: rowCount }, (_, i) => `K-${i},Killed item ${i},${(i % 90) + 1}.50,${i % 40}`).join('\n') +
      '\n';
    const { id } = await upload('many.csv', text);
    await until(
      () => importState(id),
      (s) => s.plan > 0,
    );
    await world.killServer();
    await world.startServer();
    await until(
      () => importState(id),
      (s) => s.state === 'planned',
    );
    expect((await importState(id)).plan).toBe(rowCount);
    await world.api('POST', `/imports/${id}/apply`, {});
    const middle = await until(
      () => importState(id),
      (s) => s.applied > 400,
    );
    expect(middle.applied).toBeLessThan(rowCount);
    await world.killServer();
    const stopped = (await importState(id)).applied;
    expect(stopped).toBeLessThan(rowCount);
    await world.startServer();
    await until(
      () => importState(id),
      (s) => s.state === 'applied',
      90_000,
    );
    const [n] = await world.query<{ products: number; listings: number; cells: number; stock: number }>(
      `select (select count(*)::int from products where sku like 'K-%') as products, (select count(*)::int from listings l join products p on p.id = l.product_id where p.sku like 'K-%') as listings, (select sum(jsonb_array_length(c.changes))::int from change_items c join change_sets s on s.id = c.change_set_id where s.title = 'Import many.csv') as cells, (select count(*)::int from stock s join products p on p.id = s.product_id where p.sku like 'K-%') as stock`,
    );
    expect(n).toEqual({ products: rowCount, listings: rowCount, cells: rowCount * 3, stock: rowCount });
  });

  it('in the middle of sending: one submission, one receipt, every line answered', async () => {
    await world.mood({ slowMs: 400 });
    const before = (
      (await (await fetch(`${world.market}/_control/counts`, { method: 'POST' })).json()) as { tickets: number }
    ).tickets;
    const { dispatch } = await world.api<{ dispatch: { id: number; total: number } }>(
      'POST',
      '/markets/quillhaven/dispatches',
      { operation: 'create', key: 'endurance-key-1' },
    );
    // While the file is on its way, before the market's ticket is written down here.
    await until(
      () => world.query<{ attempts: number }>('select attempts from dispatches where id = $1', [dispatch.id]),
      (r) => r[0]!.attempts > 0,
    );
    await world.killServer();
    await world.startServer();
    // And again while waiting for the receipt.
    await until(
      () => world.query<{ ticket: string | null }>('select ticket from dispatches where id = $1', [dispatch.id]),
      (r) => r[0]!.ticket !== null,
    );
    await world.killServer();
    await world.startServer();
    await world.mood({ slowMs: 0 });
    const [d] = await until(
      () =>
        world.query<{ state: string; total: number; accepted: number; remarked: number; refused: number }>(
          'select state, total, accepted, remarked, refused from dispatches where id = $1',
          [dispatch.id],
        ),
      (r) => r[0]!.state === 'answered',
    );
    expect(d!.accepted + d!.remarked + d!.refused).toBe(dispatch.total);
    const after = (
      (await (await fetch(`${world.market}/_control/counts`, { method: 'POST' })).json()) as { tickets: number }
    ).tickets;
    expect(after - before).toBe(1);
    expect(await world.query(`select 1 from listings where in_flight <> 0`)).toEqual([]);
    expect(await world.query(`select 1 from dispatch_lines where state = 'waiting'`)).toEqual([]);
    const again = await world.api<{ dispatch: { id: number } }>('POST', '/markets/quillhaven/dispatches', {
      operation: 'create',
      key: 'endurance-key-1',
    });
    expect(again.dispatch.id).toBe(dispatch.id);
  });

  it('leaves an open page that finds the server again by itself', async () => {
    const page = await world.newPage();
    await page.goto(`${world.base}/all/gather`);
    await page.getByRole('grid', { name: 'Catalog' }).waitFor();
    await world.killServer();
    await page.getByText('Reconnecting').waitFor();
    await world.startServer();
    await page.getByText('Reconnecting').waitFor({ state: 'detached' });
    await world.api('POST', '/products', { sku: 'AA-AFTER', title: 'Seen without a refresh' });
    await page.getByText('Seen without a refresh').waitFor();
  });
});

describe('kill -9, over every way that files take', () => {
  const markets = ['wadiline', 'cedarpost', 'lumbara'];
  let house: World;
  beforeAll(async () => {
    house = await openWorld('endurance_ways', { size: 120, work: 500, markets });
  });
  afterAll(() => house.close());
  const ticketsOf = async (market: string): Promise<number> =>
    (
      (await (await fetch(`${house.markets[market]!}/_control/counts`, { method: 'POST' })).json()) as {
        tickets: number;
      }
    ).tickets;

  it('again and again while files are on their way: each is taken once, each line answered, nothing doubled', async () => {
    const before = await Promise.all(markets.map(ticketsOf));
    for (const market of markets)
      await house.api('POST', `/markets/${market}/dispatches`, {
        operation: 'create',
        looked: true,
        by: 'wire',
        key: `way-${market}`,
      });
    // At moments that are anybody's guess, the same each time the test is run.
    const random = createRandom(20261126);
    for (let i = 0; i < 4; i++) {
      await new Promise((r) => setTimeout(r, 60 + random() * 700));
      await house.killServer();
      await house.startServer();
    }
    const sent = await until(
      () =>
        house.query<{ market: string; state: string; total: number; answered: number; attempts: number }>(
          `select m.key as market, d.state, d.total, d.accepted + d.remarked + d.refused as answered, d.attempts
            from dispatches d join markets m on m.id = d.market_id where d.key like 'way-%' order by d.id`,
        ),
      (rows) => rows.every((d) => d.state === 'answered'),
      90_000,
    );
    expect(sent.map((d) => d.market)).toEqual(markets);
    expect(sent.map((d) => d.answered)).toEqual(sent.map((d) => d.total));
    expect(sent.filter((d) => d.total < 20)).toEqual([]);
    const after = await Promise.all(markets.map(ticketsOf));
    expect(after.map((n, i) => n - before[i]!)).toEqual([1, 1, 1]);
    expect(await house.query(`select 1 from dispatch_lines where state in ('waiting', 'lost')`)).toEqual([]);
    expect(await house.query(`select 1 from listings where in_flight <> 0`)).toEqual([]);
    // What each market holds is what it said that it took.
    for (const market of markets) {
      const [line] = await house.query<{ sku: string }>(
        `select d.sku from dispatch_lines d join dispatches x on x.id = d.dispatch_id join markets m on m.id = x.market_id
          join listings l on l.id = d.listing_id join products p on p.id = l.product_id
          where m.key = $1 and d.state = 'accepted' and p.kind <> 'family' order by d.line desc limit 1`,
        [market],
      );
      const entry: unknown = await (
        await fetch(`${house.markets[market]!}/_control/entry`, { method: 'POST', body: line!.sku })
      ).json();
      expect(entry, `${market} ${line!.sku}`).not.toBeNull();
    }
  });
});
