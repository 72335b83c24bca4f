import { describe, expect, it } from 'vitest';
import { smallRulebook } from '../tests/builders';
import { formatOneDocument } from '../tests/format-one';
import { parseRulebook } from '.';

/** Takes out what the first format has no words for. */
function leaveNewerTerms(d: Record<string, never>): void {
  const document = d as unknown as {
    attributes: { key: string; maxColumns?: number }[];
    tree: { demands?: { attribute: string }[] }[];
    families: object;
    codeLists: Record<string, object>;
    unitPrice?: object;
    parcel?: object;
    roles: Record<string, string>;
    pictures: Record<string, unknown>;
  };
  const isNewer = (key: string): boolean =>
    key === 'reading' || key === 'inside' || key === 'sold_by' || key.startsWith('box_');
  document.attributes = document.attributes.filter((a) => !isNewer(a.key));
  for (const a of document.attributes) delete a.maxColumns;
  for (const n of document.tree) n.demands = (n.demands ?? []).filter((x) => !isNewer(x.attribute));
  document.families = {};
  delete document.unitPrice;
  delete document.parcel;
  const { min, advised, max, schemes, endings } = document.pictures;
  document.pictures = { min, advised, max, schemes, endings };
  delete document.codeLists['sold_by'];
  document.roles = Object.fromEntries(Object.entries(document.roles).filter(([, key]) => !isNewer(key)));
}

describe('a rulebook of the first format', () => {
  it('is the same market in the second, but for what the first format fixed for all', () => {
    const reading = parseRulebook(formatOneDocument);
    const small = smallRulebook(leaveNewerTerms);
    expect(reading).toMatchObject({ ok: true });
    if (!reading.ok) return;
    const { lists, transport, states, ...rest } = reading.rulebook;
    const { lists: _, transport: __, states: ___, ...same } = small;
    expect(rest).toEqual(same);
    expect(states).toEqual({ shown: { is: 'live', entry: 'stands' } });
    expect(lists.shelf.slots).toMatchObject({ sku: 'house_sku', state: 'standing' });
    expect(transport).toMatchObject({ kind: 'http', submit: { path: '/in?operation={operation}&name={name}' } });
  });
  it('keeps what its terms said of SKUs, states and operations', () => {
    const { sku, layouts, receipt } = formatOneDocument as {
      sku: object;
      layouts: object[];
      receipt: object;
    };
    const reading = parseRulebook({
      ...formatOneDocument,
      sku: { ...sku, burntWhenWithdrawn: true },
      states: { up: 'live', back: 'refused', down: 'withdrawn' },
      layouts: layouts.map((l) => ({ ...l, operationCodes: {} })),
      receipt,
      transport: { kind: 'by-hand', submit: '/a', receipt: '/b', shelf: '/c' },
    });
    expect(reading).toMatchObject({
      rulebook: {
        sku: { reuse: 'never' },
        states: { up: { entry: 'stands' }, back: { entry: 'gone' }, down: { is: 'withdrawn', entry: 'gone' } },
        operations: {
          create: { form: 'full', carries: 'whole' },
          revise: { carries: 'changed' },
          withdraw: { carries: 'keys' },
        },
        transport: { kind: 'by-hand' },
      },
    });
  });
  it('is refused with the path of its own words where its form is wrong', () => {
    const market = { ...(formatOneDocument['market'] as object), currency: 'XXQ' };
    expect(parseRulebook({ ...formatOneDocument, market })).toMatchObject({
      ok: false,
      faults: [{ path: 'market.currency' }],
    });
  });
  it('of another format yet is refused', () => {
    expect(parseRulebook({ ...formatOneDocument, format: 'basileus-rulebook/3' })).toMatchObject({ ok: false });
  });
});
