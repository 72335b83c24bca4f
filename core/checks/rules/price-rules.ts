import { canonicalNumber, exact, formatMoney, lowerToCurrency, raiseToCurrency } from '../../quantity';
import { computeMargin, findFees, findLeastPrice } from '../../pricing';
import type { Value } from '../../listing/values';
import { defineCheck } from '../define-check';

const money = (value: Value | undefined): string | undefined =>
  typeof value === 'string' && canonicalNumber.test(value) ? value : undefined;

/** Prices earn the company's money or lose it; the sale has to be a sale and the floor has to hold. */
export const priceRules = defineCheck({
  id: 'price-rules',
  level: 'blocker',
  docs: {
    title: 'Prices, sales and bounds agree',
    why: 'Markets refuse sales that are none.',
    source: 'common practice; fee arithmetic in pricing/',
  },
  messages: {
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
    costUnknown: {
      why: 'A price can only be judged beside what the item costs.',
      level: 'tip',
      title: 'Cost is not known',
      says: 'The cost of this item is not known, so whether {{value}} earns anything cannot be judged.',
    },
  },
  prepareRow(category, say) {
    const { roles, market } = category.rulebook;
    const fees = findFees(category.rulebook, category.key);
    const tax = fees.pricesIncludeTax ? 1 + Number(fees.taxRate) : 1,
      cut = Math.max(...fees.tiers.map((t) => Number(t.rate)), 0) + Number(fees.paymentRate),
      flat = Number(fees.fixed) + Number(fees.shipping) + Number(fees.minimumCommission);
    /** What is left of a price before cost, at the least: every slice at the highest rate. */
    const estimate = (amount: number) => amount / tax - amount * cut - flat;
    const fill = (field: string) => [{ kind: 'fill' as const, field }];
    return (listing, _, out) => {
      const v = listing.values;
      const price = money(v[roles.price]);
      const sale = roles.salePrice ? money(v[roles.salePrice]) : undefined;
      const start = roles.saleStart ? v[roles.saleStart] : undefined,
        end = roles.saleEnd ? v[roles.saleEnd] : undefined;
      const floor = roles.floor ? money(v[roles.floor]) : undefined,
        ceiling = roles.ceiling ? money(v[roles.ceiling]) : undefined;
      if (price !== undefined && Number(price) === 0) say(out, 'zero', roles.price, price, {}, fill(roles.price));
      if (sale !== undefined) {
        if (price !== undefined && exact(sale).gte(price))
          say(out, 'saleNotLower', roles.salePrice!, sale, { price }, [
            { kind: 'clear', field: roles.salePrice!, safe: false },
            ...fill(roles.salePrice!),
          ]);
        if (!start && roles.saleStart)
          say(out, 'saleWithoutStart', roles.saleStart, undefined, {}, fill(roles.saleStart));
        if (typeof start === 'string' && typeof end === 'string' && start && end && end < start)
          say(out, 'saleEndsFirst', roles.saleEnd!, end, { start }, fill(roles.saleEnd!));
      } else {
        if (start)
          say(out, 'datesWithoutSale', roles.saleStart!, start, {}, [
            { kind: 'clear', field: roles.saleStart!, safe: true },
          ]);
        if (end)
          say(out, 'datesWithoutSale', roles.saleEnd!, end, {}, [{ kind: 'clear', field: roles.saleEnd!, safe: true }]);
      }
      if (floor !== undefined && ceiling !== undefined && exact(floor).gt(ceiling))
        say(out, 'floorOverCeiling', roles.floor!, floor, { ceiling }, fill(roles.floor!));
      for (const [field, amount] of [
        [roles.price, price],
        [roles.salePrice, sale],
      ] as const) {
        if (!field || amount === undefined) continue;
        if (floor !== undefined && exact(amount).lt(floor))
          say(out, 'underFloor', field, amount, { floor }, [
            { kind: 'set', field, value: raiseToCurrency(floor, market.currency), safe: false },
          ]);
        if (ceiling !== undefined && exact(amount).gt(ceiling))
          say(out, 'overCeiling', field, amount, { ceiling }, [
            { kind: 'set', field, value: lowerToCurrency(ceiling, market.currency), safe: false },
          ]);
      }
      if (listing.role === 'parent' || price === undefined || Number(price) === 0) return;
      if (listing.cost === undefined) {
        say(out, 'costUnknown', roles.price, price, {});
        return;
      }
      // Far from nothing a binary estimate decides; only near it the exact arithmetic is worth its time.
      const field = sale !== undefined ? roles.salePrice! : roles.price,
        amount = sale ?? price;
      if (estimate(Number(amount)) - Number(listing.cost) > 0.5) return;
      const profit = computeMargin({ price: amount, cost: listing.cost, ...fees }).profit;
      if (profit.gte(0)) return;
      const loss = formatMoney(profit.abs(), market.currency),
        { currency } = market;
      const least = findLeastPrice({ cost: listing.cost, ...fees }, currency);
      if (least === undefined) say(out, 'hopeless', field, amount, { loss, currency }, fill(field));
      else
        say(out, 'underCost', field, amount, { loss, currency, cost: listing.cost, least }, [
          { kind: 'set', field, value: least, safe: false },
        ]);
    };
  },
});
