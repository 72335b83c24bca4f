import { defineCheck } from '../define-check';

/** The same barcode on two SKUs sells one item under the other's offer. */
export const identifierTwice = defineCheck({
  id: 'identifier-twice',
  level: 'blocker',
  docs: {
    title: 'A barcode belongs to one SKU',
    why: 'Markets merge or refuse rows that share a number.',
    source: 'GS1 General Specifications: one GTIN, one trade item',
  },
  messages: { twice: '{{value}} also stands on {{others}}; only one SKU can carry it.' },
  prepareRow(category, say) {
    const key = category.rulebook.roles.identifier;
    return (listing, context, out) => {
      if (!context.sameGtin?.length) return;
      const shown =
        context.sameGtin.slice(0, 3).join(', ') +
        (context.sameGtin.length > 3 ? ` and ${context.sameGtin.length - 3} more` : '');
      say(out, 'twice', key, listing.values[key], { others: shown }, [
        { kind: 'clear', field: key, safe: false },
        { kind: 'fill', field: key },
      ]);
    };
  },
});
