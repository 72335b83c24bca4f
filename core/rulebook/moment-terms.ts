// What a day of ours means where a market wants a moment.
import type { Rulebook, RulebookAttribute } from './schema';

/** The time zone of an attribute's site, and whether a day means its beginning or, where something ends with it, its end. */
export function findMomentTerms(
  book: Rulebook,
  attribute: RulebookAttribute,
): { timeZone: string; edge: 'first' | 'last' } {
  const site = book.sites.find((s) => s.key === attribute.facet?.site) ?? book.sites[0]!;
  const isEnd = book.offers.some((o) => o.saleEnd === attribute.key);
  return { timeZone: site.timeZone, edge: isEnd ? 'last' : 'first' };
}
