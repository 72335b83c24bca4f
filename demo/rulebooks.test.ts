// Every rulebook that ships: valid, and as it is meant to be.
import { findOperation } from '@basileus/core/forms';
import { compileCategory, listLeaves, operations, parseRulebook, type Rulebook } from '@basileus/core/rulebook';
import { cedarpostDocument } from '@basileus/rulebooks/cedarpost';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { torgvikDocument } from '@basileus/rulebooks/torgvik';
import { wadilineDocument } from '@basileus/rulebooks/wadiline';
import { describe, expect, it } from 'vitest';

const read = (document: unknown): Rulebook => {
  const reading = parseRulebook(document);
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.rulebook;
};
const books = [quillhavenDocument, torgvikDocument, cedarpostDocument, wadilineDocument].map(read);

describe.each(books.map((b) => [b.market.name, b] as const))('the rulebook of %s', (_, book) => {
  it('demands something in every category that takes items, and has a slot for all that it demands in a whole entry', () => {
    const form = book.forms.find((f) => f.key === findOperation(book, 'create')!.form)!;
    const held = new Set(form.slots.flatMap((s) => ('attribute' in s.holds ? [s.holds.attribute] : [])));
    const leaves = listLeaves(book);
    expect(leaves.length).toBeGreaterThan(15);
    for (const { key } of leaves) {
      const used = compileCategory(book, key)!.attributes.filter((a) => a.strongest !== 'unused');
      expect(used.length, key).toBeGreaterThan(10);
      expect(
        used.filter((a) => !held.has(a.attribute.key)).map((a) => a.attribute.key),
        key,
      ).toEqual([]);
    }
  });
  it('can create, revise, price, stock and withdraw', () => {
    const lacking = operations.filter((o) => findOperation(book, o) === undefined);
    expect(lacking.filter((o) => o !== 'replace' && o !== 'restore' && o !== 'offer')).toEqual([]);
  });
});
