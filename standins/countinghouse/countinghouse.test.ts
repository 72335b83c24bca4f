import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import iconv from 'iconv-lite';
import Papa from 'papaparse';
import { type Article, readerKey, type RunningSystem, startSystem } from '.';

let system: RunningSystem, base: string;
const article = (n: number): Article => ({
  article: `A-${n}`,
  variant: n % 2 ? 'RED' : '',
  unit: 'PCS',
  barcode: '',
  name: `Café ${n}; "good"`,
  group: 'CUPS',
  cost: '8.5000',
  list_price: '21.9900',
  on_hand: n,
  blocked: n === 3,
  long_text: '<p>x</p>',
  changed: `2026-11-${String(n).padStart(2, '0')}T00:00:00.000Z`,
});
beforeAll(async () => {
  const port = await new Promise<number>((done) => {
    system = startSystem({ workMs: 0, reviewMs: 0, sellEveryMs: 0 }, 0, done);
  });
  base = `http://127.0.0.1:${port}`;
  const enter = (numbers: number[]) =>
    fetch(`${base}/_control/enter`, { method: 'POST', body: JSON.stringify(numbers.map(article)) });
  // Books that are begun anew hold nothing of those before.
  await enter([8, 9]);
  await fetch(`${base}/_control/begin`, { method: 'POST' });
  await enter([1, 2, 3]);
  await enter([4, 5]);
});
afterAll(() => system.stop());
const ask = (path: string, key = readerKey, method = 'GET') =>
  fetch(base + path, { method, headers: { Authorization: `Bearer ${key}` } });
const list = async (path: string) => (await (await ask(path)).json()) as { articles: Article[]; next: string | null };

describe('the business system', () => {
  it('gives its articles in pages, each with the address of the next', async () => {
    const names: string[] = [];
    for (let at: string | null = '/articles?size=2'; at !== null;) {
      const page: Awaited<ReturnType<typeof list>> = await list(at);
      names.push(...page.articles.map((a) => a.article));
      at = page.next;
    }
    expect(names).toEqual(['A-1', 'A-2', 'A-3', 'A-4', 'A-5']);
  });
  it('gives those that changed since a moment', async () => {
    expect((await list('/articles?since=2026-11-04T00:00:00Z')).articles.map((a) => a.article)).toEqual(['A-4', 'A-5']);
    expect((await ask('/articles?since=soon')).status).toBe(400);
  });
  it('knows its reader by the key, and lets nobody write', async () => {
    expect((await ask('/articles', 'guess')).status).toBe(401);
    expect((await ask('/articles', readerKey, 'POST')).status).toBe(405);
    expect((await ask('/elsewhere')).status).toBe(404);
  });
  it('writes the file of the night with decimal commas in the letters of Western Europe', async () => {
    const bytes = Buffer.from(await (await ask('/nightly/articles.csv')).arrayBuffer());
    expect(bytes.includes(Buffer.from([0x43, 0x61, 0x66, 0xe9]))).toBe(true);
    const rows = Papa.parse<string[]>(iconv.decode(bytes, 'windows-1252'), { delimiter: ';' }).data;
    expect(rows[0]!.slice(0, 3)).toEqual(['Article', 'Variant', 'Unit']);
    expect(rows[3]).toEqual([
      'A-3',
      'RED',
      'PCS',
      '',
      'Café 3; "good"',
      'CUPS',
      '8,5000',
      '21,9900',
      '3',
      'yes',
      '<p>x</p>',
    ]);
    expect(rows).toHaveLength(6);
  });
  it('moves by itself: what is sold elsewhere is newer', async () => {
    const moment = new Date().toISOString();
    const works = system.ledger.memory.articles.map((a) => a.on_hand).reduce((a, b) => a + b, 0);
    const { moveSome } = await import('./articles');
    let seed = 1;
    const moved = moveSome(system.ledger, () => (seed = (seed * 16807) % 2147483647) / 2147483647, new Date());
    expect(moved).toBeGreaterThan(0);
    expect(system.ledger.memory.articles.map((a) => a.on_hand).reduce((a, b) => a + b, 0)).toBeLessThan(works);
    expect((await list(`/articles?since=${moment}`)).articles.length).toBeGreaterThan(0);
  });
});

it('remembers all of its articles when it ends, however many they are', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'countinghouse-'));
  const open = () =>
    new Promise<RunningSystem>((done) => {
      const opened: RunningSystem = startSystem(
        { file: join(folder, 'ledger.json'), workMs: 0, reviewMs: 0, sellEveryMs: 0 },
        0,
        () => {
          done(opened);
        },
      );
    });
  const first = await open();
  for (let n = 0; n < 25_000; n++) first.ledger.memory.articles.push({ ...article(1), article: `N-${n}` });
  first.ledger.save();
  first.ledger.memory.articles.push(article(4));
  // Written a moment ago, and too many to write again at once.
  first.ledger.save();
  await first.stop();
  const again = await open();
  expect(again.ledger.memory.articles).toHaveLength(25_001);
  await again.stop();
  rmSync(folder, { recursive: true });
});
