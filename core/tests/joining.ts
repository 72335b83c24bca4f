// A small market that has entries of other sellers, which an offer joins: for tests.
import { parseRulebook, type Rulebook } from '../rulebook';
import { smallDocument } from './builders';
import type { Loose } from './loft';

const value = (attribute: string): object => ({ key: attribute, holds: { what: 'value', attribute } });
export const joiningDocument = (change: (d: Loose) => void = () => undefined): Loose =>
  smallDocument((d) => {
    const document = d as unknown as Loose & { operations: Loose; forms: object[]; lists: Loose };
    document.operations['price'] = { form: 'full', code: 'COST', carries: 'changed' };
    document.operations['offer'] = { form: 'offers', carries: 'whole' };
    document.forms.push({
      key: 'offers',
      label: 'Offers',
      container: { kind: 'delimited', delimiter: 'tab', heads: [{ row: 'keys' }] },
      blank: 'keeps',
      clear: '#none#',
      maxRecords: 100,
      slots: [
        { key: 'sku', holds: { what: 'sku' } },
        { key: 'joins', holds: { what: 'entry' } },
        value('item_number'),
        value('price'),
        value('quantity'),
      ],
    });
    document.lists['find'] = {
      container: { kind: 'delimited', delimiter: 'tab', heads: [{ row: 'keys' }] },
      slots: {
        number: 'no',
        title: 'name',
        brand: 'maker',
        identifier: 'code',
        category: 'shelf',
        facts: { diameter: 'across', colour: 'hue' },
      },
    };
    change(document);
  }) as unknown as Loose;

export function joiningRulebook(change?: (d: Loose) => void): Rulebook {
  const reading = parseRulebook(joiningDocument(change));
  if (!reading.ok) throw new Error(JSON.stringify(reading.faults));
  return reading.rulebook;
}
