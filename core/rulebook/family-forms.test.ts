// Forms whose records are families, and answers that are the file as it was sent: what is refused, with the path of the fault.
import { describe, expect, it } from 'vitest';
import { smallDocument } from '../tests/builders';
import { type Loose, loftDocument } from '../tests/loft';
import { parseRulebook } from '.';

const faultsIn = (document: unknown): string[] => {
  const reading = parseRulebook(document);
  return reading.ok ? [] : reading.faults.map((f) => f.path);
};
const formOf = (d: Loose, n = 0): Loose => (d['forms'] as Loose[])[n]!;
const answerOf = (d: Loose, n = 0): Loose => (d['answers'] as Loose[])[n]!;
const memberSlots = (d: Loose): Loose[] => (formOf(d)['members'] as { slots: Loose[] }).slots;

describe('a form of families', () => {
  it('is taken as it should be', () => {
    expect(faultsIn(loftDocument())).toEqual([]);
  });
  it.each<[string, (d: Loose) => void, string]>([
    ['it does not say where variants stand', (d) => delete formOf(d)['members'], 'forms[0].members'],
    ['another form has members', (d) => (formOf(d, 1)['members'] = formOf(d)['members']), 'forms[1].members'],
    ['it is nested', (d) => (formOf(d)['container'] = { kind: 'json-lines' }), 'forms[0].container.kind'],
    ['a blank clears', (d) => (formOf(d)['blank'] = 'clears'), 'forms[0].blank'],
    ['families have rows of their own', (d) => (d['families'] = { maxVariants: 3 }), 'families.parents'],
    [
      'nothing names the family',
      (d) => (formOf(d)['slots'] = (formOf(d)['slots'] as Loose[]).filter((s) => s['key'] !== 'entry')),
      'forms[0].slots',
    ],
    [
      'a column of a variant has no place',
      (d) => (memberSlots(d)[1]!['key'] = 'colour'),
      'forms[0].members.slots[1].key',
    ],
    [
      'a variant has a category of its own',
      (d) => (memberSlots(d)[1]!['holds'] = { what: 'category' }),
      'forms[0].members.slots[1].holds',
    ],
    [
      'a variant holds what is not known',
      (d) => (memberSlots(d)[1]!['holds'] = { what: 'value', attribute: 'wing' }),
      'forms[0].members.slots[1].holds.attribute',
    ],
    [
      'a family may have more variants than there is room for',
      (d) => (d['families'] = { parents: 'inside', maxVariants: 4 }),
      'families.maxVariants',
    ],
    ['two columns are the same', (d) => (memberSlots(d)[1]!['key'] = '{n} sku'), 'forms[0].slots[8].key'],
    ['no variant has a SKU', (d) => memberSlots(d).shift(), 'forms[0].slots'],
  ])('is refused where %s', (_, change, path) => {
    expect(faultsIn(loftDocument(change))).toContain(path);
  });
});

describe('an answer that is the file as it was sent', () => {
  it.each<[string, (d: Loose) => void, string]>([
    [
      'a slot is no column of the file',
      (d) => (answerOf(d)['slots'] = { sku: 'elsewhere', verdict: 'word', code: 'notes' }),
      'answers[0].slots.sku',
    ],
    ['nothing says which field is at fault', (d) => delete answerOf(d)['fault'], 'answers[0].slots.field'],
    ['the pattern finds no code', (d) => (answerOf(d)['fault'] = '^(?<field>.+)$'), 'answers[0].fault'],
    [
      'the file has no columns',
      (d) => (formOf(d, 1)['container'] = { kind: 'xml', root: 'a', record: 'b' }),
      'answers[1].container',
    ],
  ])('is refused where %s', (_, change, path) => {
    expect(faultsIn(loftDocument(change))).toContain(path);
  });
  it('alone may leave out of which line it speaks, and what columns are called', () => {
    const container = { kind: 'delimited', delimiter: 'tab', heads: [] };
    expect(
      faultsIn(
        smallDocument((d) => {
          const answer = (d as unknown as { answers: { slots: Loose; container: object }[] }).answers[0]!;
          delete answer.slots['line'];
          answer.container = container;
          (d as unknown as { lists: { shelf: { container: object } } }).lists.shelf.container = container;
        }),
      ),
    ).toEqual(['answers[0].container.heads', 'answers[0].slots.line', 'lists.shelf.container.heads']);
  });
});
