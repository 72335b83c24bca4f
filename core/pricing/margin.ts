// What is left of a price after tax and the market's cut. Common practice; the formula and its worked example
// (cost 8.40 … 23.5955) are in the tests.
import { Exact, exact } from '../quantity';
import { houseCurrency } from '../product/house';
import type { Rulebook, Site } from '../rulebook/schema';
import { getCategoryPath } from '../rulebook/compile';
import { compileCondition } from '../rulebook/condition';
import type { Values } from '../listing/values';

export interface CommissionTier {
  upTo?: string | undefined;
  rate: string;
}

/** Rates are shares (0.15 is fifteen percent); amounts are in the market's currency. */
export interface Fees {
  tiers: readonly CommissionTier[];
  minimumCommission: string;
  paymentRate: string;
  fixed: string;
  shipping: string;
  taxRate: string;
  /** True where the price shown to buyers includes the tax. */
  pricesIncludeTax: boolean;
}

/** Commission of a gross price: each tier's rate on its slice, and at least the minimum. */
export function computeCommission(price: Exact | string, tiers: readonly CommissionTier[], minimum: string): Exact {
  const amount = exact(price);
  let sum = exact(0),
    from = exact(0);
  for (const tier of tiers) {
    const to = tier.upTo === undefined ? amount : Exact.min(amount, exact(tier.upTo));
    if (to.gt(from)) {
      sum = sum.plus(to.minus(from).times(tier.rate));
      from = to;
    }
  }
  return Exact.max(sum, exact(minimum));
}

/** Profit per piece, and margin on net revenue (a share). */
export function computeMargin(given: { price: string; cost: string } & Fees): {
  profit: Exact;
  margin: Exact;
  net: Exact;
  commission: Exact;
} {
  const price = exact(given.price);
  const net = given.pricesIncludeTax ? price.dividedBy(exact(given.taxRate).plus(1)) : price;
  const commission = computeCommission(price, given.tiers, given.minimumCommission);
  const profit = net
    .minus(commission)
    .minus(price.times(given.paymentRate))
    .minus(given.fixed)
    .minus(given.shipping)
    .minus(given.cost);
  return { profit, margin: net.isZero() ? exact(0) : profit.dividedBy(net), net, commission };
}

/** Whether a price leaves at least a margin (a share of what is taken without tax): exact, since nothing is divided for it. */
export function prepareLeaves(given: { margin: string; cost: string } & Fees): (price: Exact) => boolean {
  const gross = given.pricesIncludeTax ? exact(given.taxRate).plus(1) : exact(1),
    kept = exact(1).minus(given.margin),
    outlay = exact(given.cost).plus(given.fixed).plus(given.shipping);
  return (price) => {
    const taken = computeCommission(price, given.tiers, given.minimumCommission).plus(price.times(given.paymentRate));
    return price.gt(0) && price.times(kept).gte(taken.plus(outlay).times(gross));
  };
}

/**
 * The price at which the margin on net revenue is exactly `margin`; undefined where no price can reach it.
 * Profit rises with the price piece by piece, so the piece is found first and solved exactly.
 */
export function solvePrice(given: { margin: string; cost: string } & Fees): Exact | undefined {
  const keep = exact(1)
    .minus(given.margin)
    .dividedBy(given.pricesIncludeTax ? exact(given.taxRate).plus(1) : exact(1))
    .minus(given.paymentRate);
  const outlay = exact(given.cost).plus(given.shipping).plus(given.fixed);
  const candidates: Exact[] = [];
  const consider = (rate: string, carried: Exact, from: Exact, to: Exact | undefined) => {
    const bracket = keep.minus(rate);
    if (bracket.lte(0)) return;
    const price = outlay.plus(carried).dividedBy(bracket);
    if (price.gte(from) && (!to || price.lte(to))) candidates.push(price);
  };
  let from = exact(0),
    carried = exact(0);
  for (const tier of given.tiers) {
    const to = tier.upTo === undefined ? undefined : exact(tier.upTo);
    consider(tier.rate, carried.minus(from.times(tier.rate)), from, to);
    if (to) {
      carried = carried.plus(to.minus(from).times(tier.rate));
      from = to;
    }
  }
  // Where the market takes no share, every price is kept whole.
  if (given.tiers.length === 0) consider('0', exact(0), exact(0), undefined);
  if (exact(given.minimumCommission).gt(0)) consider('0', exact(given.minimumCommission), exact(0), undefined);
  const reaches = candidates.filter((p) =>
    computeMargin({ ...given, price: p.toFixed() })
      .margin.minus(given.margin)
      .abs()
      .lt('0.000000000001'),
  );
  return reaches.sort((a, b) => a.comparedTo(b))[0];
}

/**
 * The fees a rulebook asks in a category at a site, its first where none is given; the nearest entry up the tree counts.
 * Shipping is ours, not the market's. The tax is the one that holds without a condition.
 */
export function findFees(book: Rulebook, category: string, shipping = '0', site: Site = book.sites[0]!): Fees {
  const here = book.fees.filter((f) => f.sites?.includes(site.key) ?? true);
  const path = getCategoryPath(book, category)
    .map((n) => n.key)
    .reverse();
  const entry =
    path.map((k) => here.find((c) => c.category === k)).find((e) => e) ?? here.find((c) => c.category === undefined);
  return {
    tiers: entry?.tiers ?? [],
    minimumCommission: entry?.minimum ?? '0',
    paymentRate: entry?.paymentRate ?? '0',
    fixed: entry?.fixed ?? '0',
    shipping,
    taxRate: findPlainTax(site),
    pricesIncludeTax: site.pricesInclude === 'tax',
  };
}

/** The rate of tax that holds for a row at a site, prepared: the last whose condition holds, else the one that has none. */
export function prepareTaxRate(site: Site): (values: Values) => string {
  const plain = findPlainTax(site),
    special = site.taxes.flatMap((t) => (t.when ? [{ rate: t.rate, holds: compileCondition(t.when) }] : []));
  return (values) => special.findLast((t) => t.holds(values))?.rate ?? plain;
}
const findPlainTax = (site: Site): string => (site.taxes.find((t) => t.when === undefined) ?? site.taxes[0]!).rate;

/**
 * What a cost in the house currency is in another, by the units of it that one unit of ours buys; undefined where there is
 * no rate. Exact: it is rounded only where it is shown.
 */
export function convertCost(
  cost: string,
  currency: string,
  rates: Readonly<Record<string, string>> | undefined,
): string | undefined {
  if (currency === houseCurrency) return cost;
  const rate = rates?.[currency];
  return rate === undefined ? undefined : exact(cost).times(rate).toFixed();
}
