// Who may speak to the server, tried in a real browser: a page of another origin, a name that was turned to this machine,
// and several tabs of our own.
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { type Browser, chromium } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, inject, it } from 'vitest';
import { openWorld, until, type World } from './world';

let world: World, foreign: Server, foreignBase: string, browser: Browser;
beforeAll(async () => {
  world = await openWorld('guard', { size: 120 });
  foreign = createServer((_, response) => {
    response.setHeader('Content-Type', 'text/html').end('<!doctype html><title>Another page</title>');
  });
  await new Promise<void>((done) => {
    foreign.listen(0, '127.0.0.1', done);
  });
  foreignBase = `http://127.0.0.1:${(foreign.address() as AddressInfo).port}`;
  // Somebody else's name that answers with the address of this machine: DNS rebinding.
  browser = await chromium.launch({
    executablePath: inject('chromium'),
    args: ['--no-sandbox', '--disable-gpu', '--host-resolver-rules=MAP rebound.example 127.0.0.1'],
  });
});
afterAll(async () => {
  await browser.close();
  foreign.close();
  await world.close();
});

const products = async () => (await world.query<{ n: number }>('select count(*)::int as n from products'))[0]!.n;

describe('a page of another origin', () => {
  it('changes nothing, by whatever way a page may send without asking', async () => {
    const page = await browser.newPage();
    await page.goto(foreignBase);
    const before = await products();
    const tickets = async () =>
      ((await (await fetch(`${world.market}/_control/counts`, { method: 'POST' })).json()) as { tickets: number })
        .tickets;
    const sent = await tickets();
    const answers = await page.evaluate(
      async ({ base, market }) => {
        const tried: string[] = [];
        const attempt = async (name: string, send: () => Promise<Response>) => {
          try {
            const r = await send();
            tried.push(`${name}: ${r.type} ${r.status}`);
          } catch {
            tried.push(`${name}: refused`);
          }
        };
        const json = JSON.stringify({ sku: 'FOREIGN-1', title: 'Not ours' });
        const simple: RequestInit = { method: 'POST', mode: 'no-cors', body: json };
        await attempt('text', () =>
          fetch(`${base}/api/products`, { ...simple, headers: { 'Content-Type': 'text/plain' } }),
        );
        await attempt('asked', () =>
          fetch(`${base}/api/products`, {
            method: 'POST',
            body: json,
            headers: { 'Content-Type': 'application/json' },
          }),
        );
        const form = new FormData();
        form.append('file', new Blob(['SKU,Title\nFOREIGN-2,Not ours\n']), 'x.csv');
        await attempt('file', () => fetch(`${base}/api/imports`, { method: 'POST', mode: 'no-cors', body: form }));
        await attempt('control', () =>
          fetch(`${market}/_control/mood`, { method: 'POST', mode: 'no-cors', body: '{"failNext":50}' }),
        );
        await attempt('reading', () => fetch(`${base}/api/products`));
        return tried;
      },
      { base: world.base, market: world.market },
    );
    expect(answers).toHaveLength(5);
    // What is answered without asking cannot be read by the page; what would be, is refused.
    for (const a of answers) expect(a).toMatch(/: (opaque 0|refused)$/);
    const stream = await page.evaluate(
      (base) =>
        new Promise<string>((done) => {
          const source = new EventSource(`${base}/api/events`);
          source.onopen = () => {
            done('open');
          };
          source.onerror = () => {
            done('refused');
          };
        }),
      world.base,
    );
    expect(stream).toBe('refused');
    // A form that a click sends goes as a navigation, with the foreign origin in its head.
    await page.setContent(
      `<form method="post" action="${world.base}/api/products" enctype="text/plain"><input name='{"sku":"FOREIGN-3","title":"x","a":"' value='"}'><button>Go</button></form>`,
    );
    await Promise.all([page.waitForNavigation(), page.getByRole('button').click()]);
    expect(await page.textContent('body')).toContain('Another web page asked for this');
    expect(await products()).toBe(before);
    expect(await world.query(`select 1 from imports where name = 'x.csv'`)).toEqual([]);
    expect(await tickets()).toBe(sent);
    await page.close();
  });
  it('may hold a link to ours, which opens', async () => {
    const page = await browser.newPage();
    await page.goto(foreignBase);
    await page.setContent(`<a href="${world.base}/all/gather">Basileus</a>`);
    await page.getByRole('link').click();
    await page.getByRole('grid', { name: 'Catalog' }).waitFor();
    await page.close();
  });
  it('cannot show ours in a frame', async () => {
    const page = await browser.newPage();
    await page.goto(foreignBase);
    await page.setContent(`<iframe src="${world.base}/all/gather"></iframe>`);
    const frame = await until(
      () => Promise.resolve(page.frames()[1]),
      (f) => f !== undefined && f.url() !== '' && f.url() !== 'about:blank',
    );
    expect(frame!.url()).toMatch(/^chrome-error:/);
    await page.close();
  });
});

describe('a name that was turned to this machine', () => {
  it('is not served, neither the page nor the data', async () => {
    const page = await browser.newPage();
    const address = world.base.replace('127.0.0.1', 'rebound.example');
    const answer = await page.goto(`${address}/api/products`);
    expect(answer!.status()).toBe(403);
    expect(await page.textContent('body')).toContain('not known under the name “rebound.example”');
    const read = await page.evaluate(async () => (await fetch('/api/change-sets')).status);
    expect(read).toBe(403);
    const written = await page.evaluate(
      async () =>
        (
          await fetch('/api/products', {
            method: 'POST',
            body: '{"sku":"REBOUND-1","title":"x"}',
            headers: { 'Content-Type': 'application/json' },
          })
        ).status,
    );
    expect(written).toBe(403);
    expect(await world.query(`select 1 from products where sku = 'REBOUND-1'`)).toEqual([]);
    await page.close();
  });
});

describe('eight tabs of ours', () => {
  it('share one line for live events, hear through it, and pass it on when its tab closes', async () => {
    const context = await browser.newContext();
    let lines = 0;
    context.on('request', (r) => {
      if (r.url().endsWith('/api/events')) lines++;
    });
    const tabs = await Promise.all(Array.from({ length: 8 }, () => context.newPage()));
    for (const tab of tabs) {
      await tab.goto(`${world.base}/all/gather`);
      await tab.getByRole('grid', { name: 'Catalog' }).waitFor();
    }
    expect(lines).toBe(1);
    const [item] = await world.query<{ id: number; title: string }>(
      `select id::int, title from products where parent_id is null order by sku limit 1`,
    );
    const rename = (before: string, after: string) =>
      world.api('PATCH', '/products', { cells: [{ id: item!.id, field: 'title', before, after }] });
    await rename(item!.title, 'Heard in every tab');
    for (const tab of tabs) await tab.getByText('Heard in every tab').first().waitFor();
    await tabs[0]!.close();
    await until(
      () => Promise.resolve(lines),
      (n) => n === 2,
    );
    await rename('Heard in every tab', 'Heard by the others');
    for (const tab of tabs.slice(1)) await tab.getByText('Heard by the others').first().waitFor();
    expect(lines).toBe(2);
    await context.close();
  });
});

describe('what is typed while the server is away', () => {
  it('is shown as not saved, outlives a reload, and is saved when the server answers', async () => {
    const page = await world.newPage();
    await page.goto(`${world.base}/all/gather?q=FP-HEAR-24CM`);
    const cell = page
      .getByRole('gridcell')
      .filter({ hasText: /Hearth|Typed/ })
      .first();
    await cell.waitFor();
    await world.killServer();
    await cell.dblclick();
    await page.keyboard.press('Control+A');
    await page.keyboard.type('Typed without a server');
    await page.keyboard.press('Enter');
    await page.getByRole('status').filter({ hasText: '1 change not saved yet' }).waitFor();
    await page.getByText('not saved yet', { exact: true }).waitFor({ state: 'attached' });
    await world.startServer();
    await until(
      () => world.query<{ title: string }>(`select title from products where sku = 'FP-HEAR-24CM'`),
      (r) => r[0]!.title === 'Typed without a server',
    );
    await page.getByRole('status').filter({ hasText: 'not saved yet' }).waitFor({ state: 'detached' });
    // And again, with the window closed in between.
    await world.killServer();
    await cell.dblclick();
    await page.keyboard.press('Control+A');
    await page.keyboard.type('Typed and closed');
    await page.keyboard.press('Enter');
    await page.getByRole('status').filter({ hasText: '1 change not saved yet' }).waitFor();
    const context = page.context();
    await page.close();
    await world.startServer();
    const next = await context.newPage();
    await next.goto(`${world.base}/quillhaven/check`);
    await until(
      () => world.query<{ title: string }>(`select title from products where sku = 'FP-HEAR-24CM'`),
      (r) => r[0]!.title === 'Typed and closed',
    );
    await next.close();
  });
  it('does not overwrite what another tab has changed since the editing began', async () => {
    const [a, b] = [await world.newPage(), await world.newPage()];
    for (const tab of [a, b]) await tab.goto(`${world.base}/all/gather?q=FP-HEAR-28CM`);
    const cellOf = (tab: typeof a) =>
      tab
        .getByRole('gridcell')
        .filter({ hasText: /Hearth/ })
        .first();
    await cellOf(b).waitFor();
    await cellOf(a).dblclick();
    await a.getByLabel('Title, editing').waitFor();
    await cellOf(b).dblclick();
    await b.keyboard.press('Control+A');
    await b.keyboard.type('From the other tab, Hearth');
    await b.keyboard.press('Enter');
    await until(
      () => world.query<{ title: string }>(`select title from products where sku = 'FP-HEAR-28CM'`),
      (r) => r[0]!.title === 'From the other tab, Hearth',
    );
    // The first tab has heard of it by now; its editing began before.
    await a.keyboard.press('Control+A');
    await a.keyboard.type('From the first tab');
    await a.keyboard.press('Enter');
    await a.getByText('A cell was changed by someone else meanwhile').waitFor();
    expect(await world.query(`select title from products where sku = 'FP-HEAR-28CM'`)).toEqual([
      { title: 'From the other tab, Hearth' },
    ]);
    await a.close();
    await b.close();
  });
});
