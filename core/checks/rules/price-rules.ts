import { canonicalNumber, exact, fitsCurrency, formatMoney, lowerToCurrency, raiseToCurrency } from '../../quantity';
import { computeMargin, convertCost, findFees, findLeastPrice, prepareOfferFees } from '../../pricing';
import { houseCurrency } from '../../product/house';
import type { Listing, Value, Values } from '../../listing/values';
import { type CompiledCategory } from '../../rulebook/compile';
import type { Offer } from '../../rulebook/schema';
import type { CheckContext, Finding } from '../finding';
import { defineCheck, type Message, type RunRow, type Say } from '../define-check';

const money = (value: Value | undefined): string | undefined =>
  typeof value === 'string' && canonicalNumber.test(value) ? value : undefined;

const messages = {
  zero: {
    why: 'Nothing is given away on a market.',
    title: '{{field}} is zero',
    says: '{{field}} is zero; give a price.',
  },
  saleNotLower: {
    title: 'Sale price is not under the price',
    says: 'The sale price {{value}} is not under the price {{price}}.',
  },
  saleWithoutStart: {
    title: 'Sale without a start',
    says: 'There is a sale price but no day on which the sale starts.',
  },
  saleEndsFirst: {
    title: 'Sale ends before it starts',
    says: 'The sale ends on {{value}}, before it starts on {{start}}.',
  },
  datesWithoutSale: {
    level: 'caution',
    title: 'Sale days without a sale price',
    says: '{{field}} is set, but there is no sale price.',
  },
  underFloor: {
    why: 'The bounds are there to keep prices from going astray.',
    title: '{{field}} is under the floor',
    says: '{{field}} {{value}} is under the floor {{floor}}.',
  },
  overCeiling: {
    why: 'The bounds are there to keep prices from going astray.',
    title: '{{field}} is over the ceiling',
    says: '{{field}} {{value}} is over the ceiling {{ceiling}}.',
  },
  floorOverCeiling: {
    why: 'The bounds are there to keep prices from going astray.',
    title: 'Floor is over the ceiling',
    says: 'The floor {{value}} is over the ceiling {{ceiling}}.',
  },
  underCost: {
    why: 'It loses money on every piece.',
    title: 'Price loses money after fees',
    says: 'At {{value}} each piece loses {{loss}} {{currency}} after tax and fees; it costs {{cost}}. {{least}} is the least that loses nothing.',
  },
  hopeless: {
    why: 'It loses money on every piece.',
    title: 'No price earns anything after fees',
    says: 'At {{value}} each piece loses {{loss}} {{currency}} after tax and fees, and no price would earn anything: the fees grow faster than what is left.',
  },
  rateUnknown: {
    why: 'A price can only be judged beside what the item costs.',
    level: 'tip',
    title: 'No rate for the currency of the cost',
    says: 'There is no rate from {{house}} to {{currency}}, so whether {{value}} earns anything cannot be judged; give one under Connection.',
  },
  costUnknown: {
    why: 'A price can only be judged beside what the item costs.',
    level: 'tip',
    title: 'Cost is not known',
    says: 'The cost of this item is not known, so whether {{value}} earns anything cannot be judged.',
  },
} as const satisfies Record<string, Message>;
type PriceSay = Say<typeof messages>;

/** Prices earn the company's money or lose it; the sale has to be a sale and the floor has to hold. */
export const priceRules = defineCheck({
  id: 'price-rules',
  level: 'blocker',
  docs: {
    title: 'Prices, sales and bounds agree',
    why: 'Markets refuse sales that are none.',
    source: 'common practice; fee arithmetic in pricing/',
  },
  messages,
  prepareRow(category, say) {
    const judges = category.rulebook.offers.map((offer) => prepareOffer(category, offer, say));
    return (listing, context, out) => {
      for (const judge of judges) judge(listing, context, out);
    };
  },
});

/** A cost as a sentence names it: as it is where it has no more places than its currency. */
const shownCost = (cost: string, currency: string): string =>
  fitsCurrency(cost, currency) ? cost : formatMoney(cost, currency);

const fill = (field: string) => [{ kind: 'fill' as const, field }];

/** The rules of one offer: at one site, or in all. */
function prepareOffer(category: CompiledCategory, offer: Offer, say: PriceSay): RunRow {
  const judgeCost = prepareCost(category, offer, say);
  const { currency } = offer.site;
  return (listing, context, out) => {
    const v = listing.values;
    const price = money(v[offer.price]);
    const sale = offer.salePrice ? money(v[offer.salePrice]) : undefined;
    const floor = offer.floor ? money(v[offer.floor]) : undefined,
      ceiling = offer.ceiling ? money(v[offer.ceiling]) : undefined;
    if (price !== undefined && Number(price) === 0) say(out, 'zero', offer.price, price, {}, fill(offer.price));
    judgeSale(offer, v, price, sale, say, out);
    if (floor !== undefined && ceiling !== undefined && exact(floor).gt(ceiling))
      say(out, 'floorOverCeiling', offer.floor!, floor, { ceiling }, fill(offer.floor!));
    for (const [field, amount] of [
      [offer.price, price],
      [offer.salePrice, sale],
    ] as const) {
      if (!field || amount === undefined) continue;
      if (floor !== undefined && exact(amount).lt(floor))
        say(out, 'underFloor', field, amount, { floor }, [
          { kind: 'set', field, value: raiseToCurrency(floor, currency), safe: false },
        ]);
      if (ceiling !== undefined && exact(amount).gt(ceiling))
        say(out, 'overCeiling', field, amount, { ceiling }, [
          { kind: 'set', field, value: lowerToCurrency(ceiling, currency), safe: false },
        ]);
    }
    if (listing.role !== 'parent' && price !== undefined && Number(price) !== 0)
      judgeCost(listing, context, price, sale, out);
  };
}

/** A sale has to be a sale, and to begin before it ends. */
function judgeSale(
  offer: Offer,
  v: Values,
  price: string | undefined,
  sale: string | undefined,
  say: PriceSay,
  out: Finding[],
): void {
  const start = offer.saleStart ? v[offer.saleStart] : undefined,
    end = offer.saleEnd ? v[offer.saleEnd] : undefined;
  if (sale === undefined) {
    for (const [field, day] of [
      [offer.saleStart, start],
      [offer.saleEnd, end],
    ] as const)
      if (field && day) say(out, 'datesWithoutSale', field, day, {}, [{ kind: 'clear', field, safe: true }]);
    return;
  }
  if (price !== undefined && exact(sale).gte(price))
    say(out, 'saleNotLower', offer.salePrice!, sale, { price }, [
      { kind: 'clear', field: offer.salePrice!, safe: false },
      ...fill(offer.salePrice!),
    ]);
  if (!start && offer.saleStart) say(out, 'saleWithoutStart', offer.saleStart, undefined, {}, fill(offer.saleStart));
  if (typeof start === 'string' && typeof end === 'string' && start && end && end < start)
    say(out, 'saleEndsFirst', offer.saleEnd!, end, { start }, fill(offer.saleEnd!));
}

/** Whether a price earns anything after tax and fees. */
function prepareCost(category: CompiledCategory, offer: Offer, say: PriceSay) {
  const { rulebook } = category,
    { site } = offer,
    { currency } = site;
  const base = findFees(rulebook, category.key, '0', site);
  const feesOf = prepareOfferFees(category, offer);
  const cut = Math.max(...base.tiers.map((t) => Number(t.rate)), 0) + Number(base.paymentRate),
    flat = Number(base.fixed) + Number(base.shipping) + Number(base.minimumCommission);
  return (listing: Listing, context: CheckContext, price: string, sale: string | undefined, out: Finding[]): void => {
    if (listing.cost === undefined) {
      say(out, 'costUnknown', offer.price, price, {});
      return;
    }
    const cost = convertCost(listing.cost, currency, context.rates);
    if (cost === undefined) {
      say(out, 'rateUnknown', offer.price, price, { house: houseCurrency, currency });
      return;
    }
    const fees = feesOf(listing.values);
    /** What is left of a price before cost, at the least: every slice at the highest rate. */
    const estimate = (amount: number): number =>
      amount / (fees.pricesIncludeTax ? 1 + Number(fees.taxRate) : 1) - amount * cut - flat;
    // Far from nothing a binary estimate decides; only near it the exact arithmetic is worth its time.
    const field = sale !== undefined ? offer.salePrice! : offer.price,
      amount = sale ?? price;
    if (estimate(Number(amount)) - Number(cost) > 0.5) return;
    const profit = computeMargin({ price: amount, cost, ...fees }).profit;
    if (profit.gte(0)) return;
    const loss = formatMoney(profit.abs(), currency);
    const least = findLeastPrice({ cost, ...fees }, currency);
    if (least === undefined) say(out, 'hopeless', field, amount, { loss, currency }, fill(field));
    else
      say(out, 'underCost', field, amount, { loss, currency, cost: shownCost(cost, currency), least }, [
        { kind: 'set', field, value: least, safe: false },
      ]);
  };
}
