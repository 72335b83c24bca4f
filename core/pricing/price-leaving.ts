// The price at which a wanted margin is left, as a market takes prices and as people like them to end.
import { Exact, exact, formatMoney, getEndingStep, getMinorUnits, raiseToStep } from '../quantity';
import type { Values } from '../listing/values';
import type { CompiledCategory } from '../rulebook/compile';
import { estimateMargin, prepareOfferFees } from './listing-margin';
import { convertCost, type Fees, prepareLeaves, solvePrice } from './margin';

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

/** Margins nearer than this are the same in binary numbers. */
const nearMargin = 1e-9;

/** About the least price that leaves a margin, in binary numbers; undefined where none is seen. `solvePrice`, some fifty times as quick. */
export function guessPrice(given: { margin: string; cost: string } & Fees): number | undefined {
  const margin = Number(given.margin),
    cost = Number(given.cost);
  const keep = (1 - margin) / (given.pricesIncludeTax ? 1 + Number(given.taxRate) : 1) - Number(given.paymentRate),
    outlay = cost + Number(given.fixed) + Number(given.shipping);
  const pieces = [{ rate: 0, carried: Number(given.minimumCommission) }];
  let from = 0,
    carried = 0;
  for (const { upTo, rate } of given.tiers) {
    pieces.push({ rate: Number(rate), carried: carried - from * Number(rate) });
    if (upTo === undefined) continue;
    carried += (Number(upTo) - from) * Number(rate);
    from = Number(upTo);
  }
  const prices = pieces
    .map((piece) => (outlay + piece.carried) / (keep - piece.rate))
    .filter((p) => p > 0 && Number.isFinite(p) && Math.abs(estimateMargin(p, cost, given) - margin) < nearMargin);
  return prices.length === 0 ? undefined : Math.min(...prices);
}

/** The price next to a guess that leaves the margin where one step less does not; undefined where neither it nor its neighbour does so. */
function settleGuess(
  guess: number | undefined,
  by: string,
  ending: string,
  leaves: (price: Exact) => boolean,
): Exact | undefined {
  if (guess === undefined) return undefined;
  const price = raiseToStep(guess.toFixed(9), by, ending),
    less = price.minus(by);
  if (!leaves(price)) return undefined;
  if (!leaves(less)) return price;
  return leaves(less.minus(by)) ? undefined : less;
}

/**
 * The least price of a form at which the margin on net revenue (a share) is at least `margin`; undefined where none is found.
 * A guess in binary numbers is mostly right and is held against exact arithmetic; else it is solved exactly, rounded up, and held
 * against itself and one step less, since solving divides and may be off by the last of forty digits.
 */
export function findPriceLeaving(
  given: { margin: string; cost: string } & Fees,
  { currency, step, ending: wanted }: PriceForm,
): string | undefined {
  const ending = wanted ?? '0',
    by =
      wanted === undefined ? (step ?? exact(10).pow(-getMinorUnits(currency)).toFixed()) : getEndingStep(exact(wanted));
  const leaves = prepareLeaves(given),
    settled = settleGuess(guessPrice(given), by, ending, leaves);
  if (settled) return formatMoney(settled, currency);
  const solved = solvePrice(given);
  // What costs nothing leaves all of its price, or no price leaves so much.
  if (!solved) {
    const least = raiseToStep('0', by, ending),
      first = least.gt(0) ? least : least.plus(by);
    return leaves(first) ? formatMoney(first, currency) : undefined;
  }
  let price = raiseToStep(solved, by, ending);
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

type Outcome = { ok: true; price: string } | { ok: false; fault: PriceFault };
const fail = (fault: PriceFault): Outcome => ({ ok: false, fault });

/**
 * Makes ready the prices of listings of a category in one field of its market; undefined where that is none of its prices. The price
 * is the least that leaves the margin (a share), by the fees, the tax and the rates of the listing; of a sale price what it leaves itself.
 */
export function prepareListingPrice(
  category: CompiledCategory,
  field: string,
):
  | ((
      listing: { values: Values; cost: string | undefined },
      rates: Readonly<Record<string, string>> | undefined,
      wanted: { margin: string; ending: string | undefined },
    ) => Outcome)
  | undefined {
  const offer = category.rulebook.offers.find((o) => o.price === field || o.salePrice === field);
  if (!offer) return undefined;
  const feesOf = prepareOfferFees(category, offer),
    step = category.byKey.get(field)?.attribute.step,
    { currency } = offer.site;
  return ({ values, cost }, rates, { margin, ending }) => {
    if (cost === undefined) return fail({ kind: 'cost-unknown' });
    const here = convertCost(cost, currency, rates);
    if (here === undefined) return fail({ kind: 'rate-unknown', currency });
    const price = findPriceLeaving({ margin, cost: here, ...feesOf(values) }, { currency, step, ending });
    return price === undefined ? fail({ kind: 'no-price-leaves' }) : { ok: true, price };
  };
}
