import { findSkuFault, listForbiddenSkuCharacters } from '../../identifiers';
import { defineCheck } from '../define-check';

/** The SKU is what stock and orders are matched on; each market has its own rule for it. */
export const skuForm = defineCheck({
  id: 'sku-form',
  level: 'blocker',
  docs: {
    title: 'SKUs follow the market’s rule',
    why: 'A SKU the market cannot store breaks stock and orders.',
    source: 'rule from the rulebook',
  },
  messages: {
    length: 'SKU {{value}} has {{length}} characters; {{market}} takes {{min}} to {{max}}.',
    characters: 'SKU {{value}} holds {{found}}, which {{market}} does not take in a SKU.',
    lowerCase: 'SKU {{value}} has small letters; {{market}} takes capitals only.',
    edgeSpace: 'SKU “{{value}}” begins or ends with a space; take it away on the product.',
    burnt:
      'SKU {{value}} was withdrawn, and {{market}} never takes a withdrawn SKU again; add the item anew under another SKU.',
    twin: 'SKU {{value}} differs only in capitals or marks from {{others}}; one of them is probably a mistyping.',
  },
  prepareRow(category, say) {
    const rule = category.rulebook.sku;
    return (listing, context, out) => {
      const fault = findSkuFault(listing.sku, rule);
      if (fault === 'too-short' || fault === 'too-long' || fault === 'empty')
        say(out, 'length', 'sku', listing.sku, { length: listing.sku.length, min: rule.min, max: rule.max });
      else if (fault === 'forbidden-characters')
        say(out, 'characters', 'sku', listing.sku, {
          found: listForbiddenSkuCharacters(listing.sku, rule) || 'a space',
        });
      else if (fault === 'lower-case') say(out, 'lowerCase', 'sku', listing.sku, {});
      else if (fault === 'edge-space') say(out, 'edgeSpace', 'sku', listing.sku, {});
      if (context.isBurnt) say(out, 'burnt', 'sku', listing.sku, {});
      if (context.sameSku?.length) say(out, 'twin', 'sku', listing.sku, { others: context.sameSku.join(', ') });
    };
  },
});
