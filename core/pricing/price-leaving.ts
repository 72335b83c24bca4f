// The price at which a wanted margin is left, as a market takes prices and as people like them to end.
import { Exact, exact, formatMoney, getEndingStep, getMinorUnits, raiseToStep } from '../quantity';
import type { Values } from '../listing/values';
import type { CompiledCategory } from '../rulebook/compile';
import { computeMargin, convertCost, type Fees, solvePrice } from './margin';
import { prepareOfferFees } from './listing-margin';

/** Why no price leaves what is wanted. */
export type PriceFault =
  | { kind: 'cost-unknown' }
  | { kind: 'rate-unknown'; currency: string }
  /** The fees take more of each price than would have to be left. */
  | { kind: 'no-price-leaves' };

/** How a price is written: in a currency, in steps of its own where it has any, with an ending such as .99 where one is wanted. */
export interface PriceForm {
  currency: string;
  step?: string | undefined;
  ending?: string | undefined;
}

/** Prices that are tried one after another: with tiers of commission a dearer one may leave less. */
const mostTried = 1000;

/**
 * The least price of a form at which the margin on net revenue (a share) is at least `margin`; undefined where none is found.
 * It is rounded up and held against the exact margin of itself and of one step less, since solving divides and may be off
 * by the last of forty digits.
 */
export function findPriceLeaving(
  given: { margin: string; cost: string } & Fees,
  { currency, step, ending }: PriceForm,
): string | undefined {
  const by =
    ending === undefined ? (step ?? exact(10).pow(-getMinorUnits(currency)).toFixed()) : getEndingStep(exact(ending));
  const leaves = (price: Exact): boolean =>
    price.gt(0) && computeMargin({ ...given, price: price.toFixed() }).margin.gte(given.margin);
  const solved = solvePrice(given);
  // What costs nothing leaves all of its price, or no price leaves so much.
  if (!solved) {
    const least = raiseToStep('0', by, ending ?? '0'),
      first = least.gt(0) ? least : least.plus(by);
    return leaves(first) ? formatMoney(first, currency) : undefined;
  }
  let price = raiseToStep(solved, by, ending ?? '0');
  for (let tried = 0; !leaves(price); tried++) {
    if (tried >= mostTried) return undefined;
    price = price.plus(by);
  }
  while (leaves(price.minus(by)) && price.gt(solved)) price = price.minus(by);
  return formatMoney(price, currency);
}

/** The least price, in the currency's own places, at which a piece loses nothing; undefined where no price is high enough. */
export const findLeastPrice = (given: { cost: string } & Fees, currency: string): string | undefined =>
  findPriceLeaving({ ...given, margin: '0' }, { currency });

/** The price of a listing in one field of its market that leaves a margin; of a sale price what it leaves itself. */
export function findListingPrice(
  category: CompiledCategory,
  { values, cost }: { values: Values; cost: string | undefined },
  rates: Readonly<Record<string, string>> | undefined,
  wanted: { field: string; margin: string; ending: string | undefined },
): { ok: true; price: string } | { ok: false; fault: PriceFault } {
  const fail = (fault: PriceFault) => ({ ok: false as const, fault });
  const offer = category.rulebook.offers.find((o) => o.price === wanted.field || o.salePrice === wanted.field);
  if (!offer) return fail({ kind: 'no-price-leaves' });
  if (cost === undefined) return fail({ kind: 'cost-unknown' });
  const { currency } = offer.site,
    here = convertCost(cost, currency, rates);
  if (here === undefined) return fail({ kind: 'rate-unknown', currency });
  const price = findPriceLeaving(
    { margin: wanted.margin, cost: here, ...prepareOfferFees(category, offer)(values) },
    { currency, step: category.byKey.get(wanted.field)?.attribute.step, ending: wanted.ending },
  );
  return price === undefined ? fail({ kind: 'no-price-leaves' }) : { ok: true, price };
}
