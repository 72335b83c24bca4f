// The price that a reduction may be announced from: the lowest at which the item was sold in the thirty days before it
// (Directive 98/6/EC, article 6a, added by Directive (EU) 2019/2161).
import { exact } from '../quantity';
import { canonicalNumber } from '../quantity';
import type { Value, Values } from '../listing/values';
import type { Offer } from '../rulebook/schema';

/** From this instant (ISO 8601) on the market sold at these prices; null where it did not sell. */
export interface PricesFrom {
  from: string;
  prices: Values | null;
}

/** Days before a reduction of which the lowest price counts. */
export const priorDays = 30;
const dayMs = 86_400_000;

/** Member states of the European Union, ISO 3166 codes. */
const union = new Set('AT BE BG HR CY CZ DK EE FI FR DE GR HU IE IT LV LT LU MT NL PL PT RO SK SI ES SE'.split(' '));
/** Whether reductions in a country (ISO 3166) are announced by this rule. */
export const bindsReductions = (country: string): boolean => union.has(country.toUpperCase());

const money = (value: Value | undefined): string | undefined =>
  typeof value === 'string' && canonicalNumber.test(value) && Number(value) > 0 ? value : undefined;

/** The instant of a day or a moment; a day begins at midnight UTC and, as the end of something, ends with it. */
function toInstant(value: Value | undefined, isEnd: boolean): number | undefined {
  if (typeof value !== 'string' || value === '') return undefined;
  const isDay = /^\d{4}-\d{2}-\d{2}$/.test(value);
  const at = Date.parse(isDay ? `${value}T00:00:00Z` : value);
  return Number.isNaN(at) ? undefined : isDay && isEnd ? at + dayMs : at;
}

/**
 * The lowest price of an offer in the thirty days before `start` (a day or a moment), with the instant from which it held
 * within them; undefined where nothing is known of that time. `history` is in order of time, and its last prices hold on.
 * Where the item has been sold for less than thirty days, what there is counts.
 */
export function findPriorPrice(
  history: readonly PricesFrom[],
  offer: Pick<Offer, 'price' | 'salePrice' | 'saleStart' | 'saleEnd'>,
  start: Value,
): { price: string; from: string } | undefined {
  const end = toInstant(start, false);
  if (end === undefined) return undefined;
  const begin = end - priorDays * dayMs;
  let lowest: { price: string; from: string } | undefined;
  const take = (price: string | undefined, from: number, to: number): void => {
    const seen = Math.max(from, begin);
    if (price === undefined || seen >= Math.min(to, end)) return;
    if (lowest === undefined || exact(price).lt(lowest.price)) lowest = { price, from: new Date(seen).toISOString() };
  };
  for (const [i, { from, prices }] of history.entries()) {
    if (prices === null) continue;
    const since = Date.parse(from),
      until = i + 1 < history.length ? Date.parse(history[i + 1]!.from) : Infinity;
    const price = money(prices[offer.price]),
      sale = offer.salePrice ? money(prices[offer.salePrice]) : undefined;
    if (sale === undefined) {
      take(price, since, until);
      continue;
    }
    const on = Math.max(since, toInstant(offer.saleStart && prices[offer.saleStart], false) ?? since),
      off = Math.min(until, toInstant(offer.saleEnd && prices[offer.saleEnd], true) ?? until);
    take(price, since, Math.min(on, until));
    take(sale, on, off);
    take(price, Math.max(off, since), until);
  }
  return lowest;
}
