// What the listings table shows, as a choice of items.
import { type Clause, everyItem, type Which } from '@basileus/core/choose';
import { toMarketKey } from '@basileus/core/product';
import { categoryAttribute, type ListingState } from '@basileus/core/rulebook';

/** The filters of the listings of a market as conditions. */
export function toWhich(
  market: string,
  shown: { search: string; category: string; ownCategory: string; state: ListingState | '' },
): Which {
  const clauses: Clause[] = [
    ...(shown.category === ''
      ? []
      : [{ is: 'equals' as const, field: toMarketKey(market, categoryAttribute), value: shown.category }]),
    ...(shown.ownCategory === '' ? [] : [{ is: 'within' as const, field: 'category', value: shown.ownCategory }]),
    ...(shown.state === '' ? [] : [{ is: 'state' as const, market, state: shown.state }]),
  ];
  return { ...everyItem, search: shown.search, clauses };
}
