// How files look before they go, as tables and as trees.
import { describe, expect, it } from 'vitest';
import { parseRulebook } from '../rulebook';
import { smallDocument, smallRulebook } from '../tests/builders';
import { fairRulebook } from '../tests/fair';
import { loftRulebook } from '../tests/loft';
import type { Loose } from '../tests/loft';
import { type FeedRow, findForm, lookAtFile, toRecords, writeForm } from '.';

const row = (values: FeedRow['values'], more: Partial<FeedRow> = {}): FeedRow => ({
  ...{ operation: 'create', sku: 'PAN-28', role: 'single', parentSku: undefined, axes: [], category: 'pans' },
  ...{ values, cleared: [] },
  ...more,
});

describe('a look at a table', () => {
  it('has our words over its columns, and says what divides them', () => {
    const book = smallRulebook(),
      form = findForm(book, 'create')!;
    const rows = [row({ title: 'Pan', price: '7' })];
    const look = lookAtFile(book, form, writeForm(book, form, rows), toRecords(book, form, rows), () => undefined);
    if (look.as !== 'table') throw new Error('It is no table.');
    expect([look.heads, look.delimiter, look.rows.length]).toEqual([2, 'tab', 3]);
    expect(look.rows[2]![0]).toBe('PAN-28');
    expect(look.columns.slice(0, 7).map((c) => [c.what, c.label, c.member])).toEqual([
      ['sku', '', null],
      ['operation', '', null],
      ['category', '', null],
      ['row-role', '', null],
      ['parent-sku', '', null],
      ['axes', '', null],
      ['value', 'Title', null],
    ]);
  });
  it('names the field of the record’s site by that of the first, and the place of each variant', () => {
    const fair = fairRulebook(),
      offers = fair.forms.find((f) => f.key === 'offers')!;
    const columnsOf = (book: typeof fair, form: typeof offers) => {
      const look = lookAtFile(book, form, '', [], () => undefined);
      return look.as === 'table' ? look.columns : [];
    };
    const labelOf = (key: string) => fair.attributes.find((a) => a.key === key)!.label;
    expect(columnsOf(fair, offers).map((c) => c.label)).toEqual([
      '',
      '',
      labelOf('cost@de'),
      '',
      labelOf('from@de'),
      labelOf('pieces'),
    ]);
    const loft = loftRulebook();
    const columns = columnsOf(
      loft,
      loft.forms.find((f) => f.key === 'book')!,
    );
    expect(columns.filter((c) => c.what === 'sku').map((c) => c.member)).toEqual([1, 2, 3]);
  });
});

describe('a look at a tree', () => {
  const reading = parseRulebook(
    smallDocument((d) => {
      const [form] = (d as unknown as { forms: Loose[] }).forms;
      form!['container'] = { kind: 'json-lines' };
      form!['clear'] = null;
      form!['slots'] = [
        { key: 'ref', holds: { what: 'sku' } },
        { key: 'say.name', holds: { what: 'value', attribute: 'title' } },
        { key: 'say.points[]', holds: { what: 'value', attribute: 'points' } },
        { key: 'worth.ask', as: 'number', holds: { what: 'value', attribute: 'price' } },
        { key: 'say.maker', holds: { what: 'value', attribute: 'brand' } },
      ];
    }),
  );
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  const book = reading.rulebook,
    form = findForm(book, 'revise')!;
  it('lights what is new to the market, shows what is emptied, and leaves out what is not said', () => {
    const rows = [
      row({ title: 'Pan', price: '7' }, { operation: 'revise', cleared: ['brand'] }),
      row({ title: 'Pot' }, { sku: 'POT' }),
    ];
    const look = lookAtFile(book, form, '', toRecords(book, form, rows), ({ sku }) =>
      sku === 'POT' ? undefined : new Set(['price', 'brand']),
    );
    expect(look).toEqual({
      as: 'tree',
      container: 'json-lines',
      records: [
        {
          sku: 'PAN-28',
          branches: [
            { depth: 0, name: 'ref', cell: 'PAN-28', isChanged: false },
            { depth: 0, name: 'say', isChanged: false },
            { depth: 1, name: 'name', cell: 'Pan', isChanged: false },
            { depth: 0, name: 'worth', isChanged: false },
            { depth: 1, name: 'ask', cell: '7', isChanged: true },
            { depth: 0, name: 'say', isChanged: false },
            { depth: 1, name: 'maker', cell: null, isChanged: true },
          ],
        },
        {
          sku: 'POT',
          branches: [
            { depth: 0, name: 'ref', cell: 'POT', isChanged: false },
            { depth: 0, name: 'say', isChanged: false },
            { depth: 1, name: 'name', cell: 'Pot', isChanged: false },
          ],
        },
      ],
    });
  });
});
