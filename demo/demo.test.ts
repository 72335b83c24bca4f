import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { classifyGtin, parseGtin } from '@basileus/core/identifiers';
import { findForm } from '@basileus/core/forms';
import { parseRulebook } from '@basileus/core/rulebook';
import { openWorkbook } from '@basileus/core/sheet';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { describe, expect, it } from 'vitest';
import { buildCatalog, lines } from './catalog';
import { listMorgenkrugRows, listSupplierRows, makeSupplierFile } from './files';

describe('the demo catalog', () => {
  const all = [...buildCatalog()];
  it('is the same every time', () => {
    expect(JSON.stringify([...buildCatalog()])).toBe(JSON.stringify(all));
  });
  it('has about 1,200 sellable SKUs in some forty categories, of every kind', () => {
    expect(all.filter((p) => p.kind !== 'family')).toHaveLength(1202);
    expect(new Set(all.map((p) => p.fields['category'])).size).toBeGreaterThanOrEqual(40);
    expect(new Set(all.map((p) => p.kind))).toEqual(new Set(['single', 'family', 'variant', 'bundle']));
    expect(new Set(all.map((p) => p.fields['sku'])).size).toBe(all.length);
  });
  it('has variants whose family stands before them, and bundles of parts that are there', () => {
    const seen = new Set<unknown>();
    for (const p of all) {
      if (p.kind === 'variant') expect(seen.has(p.fields['parent_sku'])).toBe(true);
      for (const part of p.parts)
        expect(
          all.some((q) => q.fields['sku'] === part.sku),
          part.sku,
        ).toBe(true);
      seen.add(p.fields['sku']);
    }
  });
  it('uses only numbers kept for examples, books and periodicals', () => {
    const classes = new Set(
      all.flatMap((p) => {
        const g = p.fields['gtin'];
        const r = typeof g === 'string' ? parseGtin(g) : undefined;
        return r?.ok ? [classifyGtin(r.digits)] : [];
      }),
    );
    expect([...classes].every((c) => ['demonstration', 'isbn', 'issn', 'restricted'].includes(c))).toBe(true);
  });
  it('grows to any size', () => {
    let n = 0;
    const skus = new Set<unknown>();
    for (const p of buildCatalog(20_000)) {
      if (p.kind !== 'family') n++;
      skus.add(p.fields['sku']);
    }
    expect(n).toBeGreaterThanOrEqual(20_000);
    expect(skus.size).toBeGreaterThan(n);
  });
  it('names only leaves that the rulebook has', () => {
    const r = parseRulebook(quillhavenDocument);
    expect(r.ok).toBe(true);
    if (r.ok)
      for (const l of lines)
        if (l.leaf) expect(r.rulebook.tree.find((n) => n.key === l.leaf)?.takesItems, l.leaf).toBe(true);
  });
});

describe('Quillhaven’s rulebook', () => {
  const r = parseRulebook(quillhavenDocument);
  if (!r.ok) throw new Error(JSON.stringify(r.faults));
  const book = r.rulebook;
  it('is as rich as it should be', () => {
    expect(book.tree.length).toBeGreaterThanOrEqual(60);
    expect(book.attributes.length).toBeGreaterThanOrEqual(60);
  });
  it.each([
    'frying_pans',
    'kitchen_knives',
    'loose_tea',
    'table_linen',
    'electric_kettles',
    'kitchen_scales',
    'glassware',
    'cookbooks',
  ])('describes %s with demands of its own', (leaf) => {
    expect(book.tree.find((n) => n.key === leaf)!.demands.length).toBeGreaterThanOrEqual(5);
  });
  it('has a form for every operation', () => {
    for (const op of ['create', 'revise', 'price', 'stock', 'withdraw'] as const)
      expect(findForm(book, op), op).toBeDefined();
  });
});

describe('the supplier’s file', () => {
  it('is the one in the folder', () => {
    expect(
      makeSupplierFile().equals(readFileSync(resolve(import.meta.dirname, 'files/tidewrack-autumn-list.csv'))),
    ).toBe(true);
  });
  it('from another country is the one in the folder, read as it was laid out', async () => {
    const workbook = await openWorkbook(async function* () {
      yield await Promise.resolve(readFileSync(resolve(import.meta.dirname, 'files/morgenkrug-preisliste.xlsx')));
    });
    const rows: string[][] = [];
    for await (const batch of workbook.rows()) rows.push(...batch);
    const blank = (row: readonly (string | number | null)[]) =>
      row
        .map((c) => String(c ?? ''))
        .join('|')
        .replace(/\|+$/, '');
    // What a sheet has beneath a cell over several rows, or beside it, is no matter.
    const kept = listMorgenkrugRows();
    expect(rows.map((r, n) => blank(r.map((c, i) => (kept[n]![i] === null ? '' : c))))).toEqual(kept.map(blank));
  });
  it('has what such files have', () => {
    const skus = listSupplierRows().map((r) => r[0]);
    expect(new Set(skus).size).toBeLessThan(skus.length);
    expect(makeSupplierFile().includes(0xe9)).toBe(true);
  });
});
