// Quillhaven's own forms over the whole demo: what is written is read back as it was, in every kind of file.
import { splitByGroup } from '@basileus/core/feed';
import { createFormWriter, type FeedRow, findForm, readForm, toRecords, writeForm } from '@basileus/core/forms';
import { noCorrespondences as none, resolveListing, type Value } from '@basileus/core/listing';
import { compileCategory, operations, parseRulebook } from '@basileus/core/rulebook';
import { readRows } from '@basileus/core/sheet';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { describe, expect, it } from 'vitest';
import { buildCatalog, lines } from './catalog';

const reading = parseRulebook(quillhavenDocument);
if (!reading.ok) throw new Error('The rulebook is not valid.');
const book = reading.rulebook;
const leafOf = new Map(lines.flatMap((l) => (l.leaf ? [[l.category, l.leaf] as const] : [])));

const rows: FeedRow[] = [...buildCatalog()].flatMap((p): FeedRow[] => {
  const category = leafOf.get(String(p.fields['category']));
  const compiled = category ? compileCategory(book, category) : undefined;
  if (!category || !compiled || p.kind === 'bundle') return [];
  const role = p.kind === 'family' ? 'parent' : p.kind === 'variant' ? 'variant' : 'single';
  const values = resolveListing(compiled, p.fields, role, {}, none).values;
  return [
    {
      operation: 'create',
      sku: String(p.fields['sku']),
      role,
      parentSku: typeof p.fields['parent_sku'] === 'string' ? p.fields['parent_sku'] : undefined,
      axes: role === 'single' ? [] : ['colour'],
      category,
      values,
      cleared: [],
    },
  ];
});
/** Lists of one entry come back as lists; everything else letter for letter. */
const plain = (values: Readonly<Record<string, Value>>) =>
  Object.fromEntries(Object.entries(values).filter(([, v]) => v.length > 0));

describe('Quillhaven’s forms', () => {
  it('carry more than a thousand rows of the demo there and back', () => {
    expect(rows.length).toBeGreaterThan(1300);
    const form = findForm(book, 'create')!;
    const back = readForm(book, form, writeForm(book, form, rows), 'create');
    expect(back.ok).toBe(true);
    if (!back.ok) return;
    expect(back.rows).toHaveLength(rows.length);
    back.rows.forEach((r, i) => {
      expect({ ...r, values: plain(r.values) }, r.sku).toEqual({ ...rows[i]!, values: plain(rows[i]!.values) });
    });
  });
  it.each(['price', 'stock'] as const)('carry the group of %s alone', (operation) => {
    const form = findForm(book, operation)!;
    const sellable = rows
      .filter((r) => r.role !== 'parent')
      .slice(0, 300)
      .map((r) => ({ ...r, operation, values: splitByGroup(book, r.values)[operation] }));
    const back = readForm(book, form, writeForm(book, form, sellable), operation);
    expect(back.ok && back.rows.map((r) => [r.sku, r.values])).toEqual(sellable.map((r) => [r.sku, r.values]));
  });
  it('have the same number of cells in every line, and their two header rows', () => {
    for (const form of book.forms) {
      const operation = operations.find((o) => findForm(book, o) === form)!;
      const table = readRows(
        writeForm(
          book,
          form,
          rows.slice(0, 50).map((r) => ({ ...r, operation })),
        ),
        '\t',
      );
      expect(new Set(table.map((r) => r.length)), form.key).toEqual(new Set([form.slots.length]));
      expect(table[0]).toEqual(form.slots.map((c) => c.label));
      expect(table[1]).toEqual(form.slots.map((c) => c.key));
    }
  });
  it('are written the same in one go and in batches', () => {
    const form = findForm(book, 'create')!,
      writer = createFormWriter(book, form);
    let text = writer.header();
    for (let i = 0; i < rows.length; i += 97) text += writer.records(toRecords(book, form, rows.slice(i, i + 97)));
    expect(text).toBe(writeForm(book, form, rows));
  });
  it('tell the kinds of item number apart by letter', () => {
    const form = findForm(book, 'create')!;
    const at = form.slots.findIndex((c) => c.key === 'item_number_kind');
    const kindOf = (number: string) =>
      readRows(writeForm(book, form, [{ ...rows[1]!, values: { item_number: number } }]), '\t')[2]![at];
    expect(['96385074', '036000291452', '4006381333931', '9780306406157', '0317-8471'].map(kindOf)).toEqual([
      'B',
      'D',
      'F',
      'R',
      'S',
    ]);
  });
});
