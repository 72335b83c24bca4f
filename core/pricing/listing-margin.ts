// What the prices of a listing leave, one figure for each: the margin at the site where it is least.
import type { Listing } from '../listing/values';
import { canonicalNumber, exact } from '../quantity';
import type { CompiledCategory } from '../rulebook/compile';
import type { Offer } from '../rulebook/schema';
import { convertCost, type Fees, findFees, prepareLeaves, prepareTaxRate } from './margin';

/** Past this nobody asks how much is lost: thousandths of what is taken. */
const furthest = 9999;
/** Nearer than this to a whole thousandth, or to nothing, binary numbers do not decide. */
const near = 1e-6;

type Rates = Readonly<Record<string, string>> | undefined;

/** The fees of an offer in a category, by the values of a row, which may decide its tax. */
export function prepareOfferFees(category: CompiledCategory, { site }: Offer): (values: Listing['values']) => Fees {
  const base = findFees(category.rulebook, category.key, '0', site),
    taxRateOf = prepareTaxRate(site);
  return (values) => {
    const taxRate = taxRateOf(values);
    return taxRate === base.taxRate ? base : { ...base, taxRate };
  };
}

/**
 * The margin of a listing in a category: what remains of its price, its sale price where it has one, after tax, the market's
 * cut and its cost, as a share of what is taken without tax; in thousandths, rounded down, so that any loss is under nothing;
 * of several offers the least. Undefined for a family, without a price or a cost, or where no rate turns the cost into the
 * currency. Figures are binary where they decide and exact (`prepareLeaves`) where they come near to a whole thousandth.
 */
export function prepareListingMargin(
  category: CompiledCategory,
): (listing: Pick<Listing, 'role' | 'values' | 'cost'>, rates: Rates) => number | undefined {
  const offers = category.rulebook.offers.map((offer) => ({ offer, feesOf: prepareOfferFees(category, offer) }));
  return ({ role, values, cost }, rates) => {
    if (role === 'parent' || cost === undefined) return undefined;
    let least: number | undefined;
    for (const { offer, feesOf } of offers) {
      const price = readPrice(values, offer.salePrice) ?? readPrice(values, offer.price);
      const here = price === undefined ? undefined : convertCost(cost, offer.site.currency, rates);
      if (price === undefined || here === undefined) continue;
      const margin = computeThousandths(price, here, feesOf(values));
      if (least === undefined || margin < least) least = margin;
    }
    return least;
  };
}

function readPrice(values: Listing['values'], key: string | undefined): string | undefined {
  const held = key === undefined ? undefined : values[key];
  return typeof held === 'string' && canonicalNumber.test(held) && Number(held) > 0 ? held : undefined;
}

function computeThousandths(price: string, cost: string, fees: Fees): number {
  const quick = estimateMargin(Number(price), Number(cost), fees) * 1000,
    nearest = Math.round(quick);
  if (Math.abs(quick - nearest) >= near) return Math.max(-furthest, Math.floor(quick));
  const leaves = prepareLeaves({ margin: exact(nearest).dividedBy(1000).toFixed(), cost, ...fees });
  return Math.max(-furthest, leaves(exact(price)) ? nearest : nearest - 1);
}

/** `computeMargin` in binary numbers, some hundred times as quick. */
export function estimateMargin(price: number, cost: number, fees: Fees): number {
  const net = fees.pricesIncludeTax ? price / (1 + Number(fees.taxRate)) : price;
  let commission = 0,
    from = 0;
  for (const tier of fees.tiers) {
    const to = tier.upTo === undefined ? price : Math.min(price, Number(tier.upTo));
    if (to <= from) continue;
    commission += (to - from) * Number(tier.rate);
    from = to;
  }
  commission = Math.max(commission, Number(fees.minimumCommission));
  const kept = net - commission - price * Number(fees.paymentRate) - Number(fees.fixed) - Number(fees.shipping) - cost;
  return kept / net;
}

/** Where one band of margins ends and the next begins, in thousandths: a loss, then tenth by tenth. */
export const marginEdges = [0, 100, 200, 300, 400] as const;

/** How many listings stand in each band of margins, from losses up, of counts by margin in thousandths. */
export function countMarginBands(counts: Iterable<readonly [thousandths: number, n: number]>): number[] {
  const bands = Array.from({ length: marginEdges.length + 1 }, () => 0);
  for (const [margin, n] of counts) {
    const at = marginEdges.findIndex((edge) => margin < edge);
    bands[at < 0 ? marginEdges.length : at]! += n;
  }
  return bands;
}
