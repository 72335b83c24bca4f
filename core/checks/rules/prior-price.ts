import { bindsReductions, findPriorPrice } from '../../pricing';
import { canonicalNumber, exact } from '../../quantity';
import type { Offer } from '../../rulebook/schema';
import { defineCheck } from '../define-check';

/** The offers of a rulebook whose reductions are announced from the lowest price of the last thirty days. */
export const listBoundOffers = (offers: readonly Offer[]): Offer[] =>
  offers.filter((o) => o.salePrice && o.saleStart && bindsReductions(o.site.country));

/** A price that was raised shortly before its sale makes the reduction look greater than it is. */
export const priorPrice = defineCheck({
  id: 'prior-price',
  level: 'caution',
  docs: {
    title: 'A sale is reduced from a price that was asked',
    why: 'In the European Union a reduction is announced from the lowest price of the thirty days before it.',
    source: 'Directive 98/6/EC, article 6a (Directive (EU) 2019/2161)',
  },
  messages: {
    raised: {
      title: 'The price before the sale is more than was asked lately',
      says: 'The sale of {{start}} is shown as reduced from {{value}}, but in the thirty days before it the item was sold for {{lowest}}; that is the most it may be reduced from.',
    },
    noReduction: {
      title: 'The sale price is none: it was sold for as little lately',
      says: 'The sale of {{start}} at {{value}} is no reduction: in the thirty days before it the item was sold for {{lowest}}.',
    },
  },
  prepareRow(category, say) {
    const offers = listBoundOffers(category.rulebook.offers);
    if (offers.length === 0) return undefined;
    return (listing, { pricesFrom }, out) => {
      if (!pricesFrom || listing.role === 'parent') return;
      const amount = (field: string | undefined): string | undefined => {
        const value = field === undefined ? undefined : listing.values[field];
        return typeof value === 'string' && canonicalNumber.test(value) ? value : undefined;
      };
      for (const offer of offers) {
        const price = amount(offer.price),
          sale = amount(offer.salePrice),
          start = listing.values[offer.saleStart!];
        // A sale that is none is said by another check.
        if (price === undefined || sale === undefined || typeof start !== 'string' || exact(sale).gte(price)) continue;
        const lowest = findPriorPrice(pricesFrom, offer, start)?.price;
        if (lowest === undefined) continue;
        if (exact(sale).gte(lowest))
          say(out, 'noReduction', offer.salePrice!, sale, { start, lowest }, [
            { kind: 'clear', field: offer.salePrice!, safe: false },
          ]);
        else if (exact(lowest).lt(price))
          say(out, 'raised', offer.price, price, { start, lowest }, [
            { kind: 'set', field: offer.price, value: lowest, safe: false },
          ]);
      }
    };
  },
});
