import { defineCheck } from '../define-check';
import type { Remedy } from '../finding';

/** The same barcode on two SKUs sells one item under the other's offer. */
export const identifierTwice = defineCheck({
  id: 'identifier-twice',
  level: 'blocker',
  docs: {
    title: 'A barcode belongs to one SKU',
    why: 'Markets merge or refuse rows that share a number.',
    source: 'GS1 General Specifications: one GTIN, one trade item',
  },
  messages: {
    twice: {
      title: '{{field}} stands on several SKUs',
      says: '{{value}} also stands on {{others:and}}; only one SKU can carry it.',
    },
    often: {
      title: '{{field}} stands on several SKUs',
      says: '{{value}} also stands on {{first}} and {{count}} more; only one SKU can carry it.',
    },
  },
  prepareRow(category, say) {
    const key = category.rulebook.roles.identifier;
    return (listing, context, out) => {
      if (!context.sameGtin?.length) return;
      const [first = '', ...more] = context.sameGtin;
      // A number that stands everywhere is a default of somebody's system; three names are enough to see it.
      const others = more.length < 3 ? [first, ...more] : undefined;
      // Where the market demands a number, taking it away mends nothing.
      const canClear = category.byKey.get(key)?.levelFor(listing.values, listing.role) !== 'must';
      const remedies: Remedy[] = [
        ...(canClear ? [{ kind: 'clear' as const, field: key, safe: false }] : []),
        { kind: 'fill', field: key },
      ];
      if (others) say(out, 'twice', key, listing.values[key], { others }, remedies);
      else say(out, 'often', key, listing.values[key], { first, count: more.length }, remedies);
    };
  },
});
