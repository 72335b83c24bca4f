// Records of a family: what speaks for it once, its variants side by side, and both read back.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { loftRulebook } from '../tests/loft';
import { type FeedRow, findForm, listColumns, readForm, toRecords, writeForm } from '.';

const book = loftRulebook(),
  form = findForm(book, 'create')!,
  terms = findForm(book, 'price')!;
const row = (sku: string, more: Partial<FeedRow> = {}): FeedRow => ({
  operation: 'create',
  sku,
  role: 'single',
  parentSku: undefined,
  axes: [],
  category: 'pans',
  values: {},
  cleared: [],
  ...more,
});
const axes = ['colour', 'diameter'];
const head = (sku: string, more: Partial<FeedRow> = {}): FeedRow =>
  row(sku, { role: 'parent', axes, values: { title: '鍋' }, ...more });
const variant = (sku: string, parentSku: string, more: Partial<FeedRow> = {}): FeedRow =>
  row(sku, { role: 'variant', parentSku, axes, values: { price: '10' }, ...more });
const lines = (rows: readonly FeedRow[]): string[] => writeForm(book, form, rows).trimEnd().split('\r\n');

describe('a record of a family', () => {
  it('has columns for so many variants as it holds, each with its place', () => {
    expect(listColumns(form).map((c) => c.key)).toEqual([
      ...['do', 'entry', 'shelf', 'split', 'title', 'brand', 'hues'],
      ...[1, 2, 3].flatMap((n) => ['sku', 'colour', 'price', 'from', 'stock'].map((k) => `${n} ${k}`)),
    ]);
    expect(listColumns(form)[12]).toMatchObject({ label: 'Item 2', labels: { ja: '品2' }, member: 2 });
  });
  it('says what speaks for it once, and its variants side by side', () => {
    const rows = [head('F'), variant('A', 'F'), variant('B', 'F', { values: { price: '12', quantity: '3' } })];
    expect(lines(rows)[1]).toBe(
      '"1","F","pans","色/径","鍋","","","A","","10","","","B","","12","","3","","","","",""',
    );
  });
  it('is one item by itself too, which speaks for itself', () => {
    expect(lines([row('S', { values: { title: '鍋', price: '9' } })])[1]).toMatch(
      /^"1","S","pans","","鍋","","","S","","9","","","",/,
    );
  });
  it('names a family of which nothing is said, and says no more', () => {
    expect(lines([variant('A', 'F')])[1]).toMatch(/^"1","F","pans","色\/径","","","","A","","10","","","",/);
  });
  it('empties a field of a variant, or of the family, on purpose', () => {
    const rows = [head('F', { values: {}, cleared: ['brand'] }), variant('A', 'F', { cleared: ['colour'] })];
    expect(lines(rows)[1]).toMatch(/^"1","F","pans","色\/径","","＊","","A","＊","10",/);
  });
  it('is followed by another where it has no more room, so that nothing is lost', () => {
    const variants = ['A', 'B', 'C', 'D'].map((s) => variant(s, 'F'));
    const records = toRecords(book, form, [head('F'), ...variants, row('S')]);
    expect(records.map((r) => [r.row.sku, r.rows.map((x) => x.sku)])).toEqual([
      ['F', ['F', 'A', 'B', 'C']],
      ['F', ['D']],
      ['S', ['S']],
    ]);
    expect(records[1]!.row.values).toEqual({});
  });
  it('writes a moment as the clock of the market shows it, and reads it back', () => {
    const rows = [row('S', { values: { title: '鍋', sale_start: '2026-11-27T00:00:00+01:00' } })];
    const text = writeForm(book, form, rows);
    expect(text).toContain('"2026/11/26 23:00:00"');
    expect(readForm(book, form, text, 'create')).toMatchObject({
      rows: [{ values: { sale_start: '2026-11-26T23:00:00+00:00' } }],
    });
  });
  it('is read back as the rows that were written (property)', () => {
    const text = fc.string({ unit: fc.constantFrom('鍋', 'a', '"', ',', '\n', ' '), minLength: 1, maxLength: 6 });
    const filled = text.filter((t) => t.trim() !== '');
    const offer = fc.record({ price: fc.nat(999).map(String), colour: fc.constantFrom('blk', 'blu') });
    const families = fc.array(fc.tuple(filled, fc.array(offer, { maxLength: 3 }), fc.boolean()), { maxLength: 4 });
    fc.assert(
      fc.property(families, (made) => {
        const rows = made.flatMap(([title, offers, isSaid], f): FeedRow[] =>
          offers.length === 0
            ? [row(`S${f}`, { values: { title, price: '5' } })]
            : [
                ...(isSaid ? [head(`F${f}`, { values: { title } })] : []),
                ...offers.map((values, v) => variant(`F${f}-${v}`, `F${f}`, { values })),
              ],
        );
        expect(readForm(book, form, writeForm(book, form, rows), 'create')).toEqual({ ok: true, rows });
      }),
    );
  });
});

describe('a form without a header row', () => {
  it('begins with its first record, and is read by the order of its columns', () => {
    const rows = [row('S', { operation: 'price', values: { price: '7' } })];
    expect(writeForm(book, terms, rows)).toBe('"S","7"\r\n');
    expect(readForm(book, terms, '"S","7"\r\n', 'price')).toMatchObject({
      rows: [{ sku: 'S', values: { price: '7' } }],
    });
  });
});
