// A small market whose entries hold their variants side by side, and whose answer is the file that was sent: for tests.
import { parseRulebook, type Rulebook } from '../rulebook';
import { smallDocument } from './builders';

const container = (heads: object[]): object => ({
  kind: 'delimited',
  encoding: 'shift_jis',
  delimiter: 'comma',
  quotes: 'always',
  heads,
});
const value = (key: string, attribute = key): object => ({ key, holds: { what: 'value', attribute } });

export type Loose = Record<string, unknown>;
export const loftDocument = (change: (d: Loose) => void = () => undefined): Loose =>
  smallDocument((d) => {
    const document = d as unknown as Loose & { attributes: { key: string; rows?: string; type: string }[] };
    for (const a of document.attributes) if (a.key === 'title' || a.key === 'brand') a.rows = 'head';
    document.attributes.find((a) => a.key === 'sale_start')!.type = 'moment';
    Object.assign(document, {
      families: { parents: 'inside', maxVariants: 3 },
      operations: {
        create: { form: 'book', code: '1', carries: 'whole' },
        revise: { form: 'book', code: '2', carries: 'changed' },
        price: { form: 'terms', carries: 'changed' },
      },
      forms: [
        {
          key: 'book',
          label: 'Book',
          record: 'family',
          container: container([{ row: 'keys' }]),
          text: { listSeparator: '/', moments: 'yyyy/MM/dd HH:mm:ss' },
          blank: 'keeps',
          clear: '＊',
          maxRecords: 10,
          slots: [
            { key: 'do', holds: { what: 'operation' } },
            { key: 'entry', holds: { what: 'family-key' } },
            { key: 'shelf', holds: { what: 'category' } },
            { key: 'split', holds: { what: 'axes', codes: { colour: '色', diameter: '径' } } },
            value('title'),
            value('brand'),
            value('hues'),
          ],
          members: {
            most: 3,
            slots: [
              { key: '{n} sku', label: 'Item {n}', labels: { ja: '品{n}' }, holds: { what: 'sku' } },
              value('{n} colour', 'colour'),
              value('{n} price', 'price'),
              value('{n} from', 'sale_start'),
              value('{n} stock', 'quantity'),
            ],
          },
        },
        {
          key: 'terms',
          label: 'Terms',
          container: container([]),
          text: {},
          blank: 'keeps',
          clear: '＊',
          maxRecords: 10,
          slots: [{ key: 'sku', holds: { what: 'sku' } }, value('price')],
        },
      ],
      answers: [
        {
          key: 'book_back',
          to: ['book'],
          container: { kind: 'as-sent', columns: ['word', 'notes'] },
          slots: { sku: 'entry', verdict: 'word', code: 'notes' },
          verdict: { words: { 0: 'accepted', 9: 'refused' } },
          severalBy: '/',
          fault: '^(?<code>\\d+)(?::(?<field>.+))?$',
        },
        {
          key: 'terms_back',
          to: ['terms'],
          container: { kind: 'as-sent', columns: ['word', 'notes'] },
          slots: { sku: 'sku', verdict: 'word', code: 'notes' },
          verdict: { words: { 0: 'accepted', 9: 'refused' } },
          fault: '^(?<code>\\d+)',
        },
      ],
    });
    change(document);
  });

export function loftRulebook(change?: (d: Loose) => void): Rulebook {
  const reading = parseRulebook(loftDocument(change));
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.rulebook;
}
