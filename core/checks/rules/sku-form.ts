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
    length: {
      title: 'SKU has the wrong length',
      says: 'SKU {{value}} has {{length|character|characters}}; {{market}} takes {{min}} to {{max}}.',
    },
    characters: {
      title: 'SKU holds characters that are not taken',
      says: 'SKU {{value}} holds {{found:and}}, which {{market}} does not take in a SKU.',
    },
    lowerCase: {
      title: 'SKU has small letters',
      says: 'SKU {{value}} has small letters; {{market}} takes capitals only.',
    },
    edgeSpace: {
      title: 'SKU begins or ends with a space',
      says: 'SKU “{{value}}” begins or ends with a space; take it away on the product.',
    },
    burnt: {
      title: 'SKU was withdrawn for good',
      says: 'SKU {{value}} was withdrawn, and {{market}} never takes a withdrawn SKU again; add the item anew under another SKU.',
    },
    twin: {
      why: 'A mistyped SKU is a second item that nobody stocks.',
      level: 'caution',
      title: 'SKU is nearly another one',
      says: 'SKU {{value}} differs only in capitals or marks from {{others:and}}; one of them is probably a mistyping.',
    },
  },
  prepareRow(category, say) {
    const rule = category.rulebook.sku;
    return (listing, context, out) => {
      const fault = findSkuFault(listing.sku, rule);
      if (fault === 'too-short' || fault === 'too-long' || fault === 'empty')
        say(out, 'length', 'sku', listing.sku, { length: listing.sku.length, min: rule.min, max: rule.max });
      else if (fault === 'forbidden-characters')
        say(out, 'characters', 'sku', listing.sku, { found: listForbiddenSkuCharacters(listing.sku, rule) });
      else if (fault === 'lower-case') say(out, 'lowerCase', 'sku', listing.sku, {});
      else if (fault === 'edge-space') say(out, 'edgeSpace', 'sku', listing.sku, {});
      if (context.isBurnt) say(out, 'burnt', 'sku', listing.sku, {});
      if (context.sameSku?.length) say(out, 'twin', 'sku', listing.sku, { others: context.sameSku.slice(0, 5) });
    };
  },
});
