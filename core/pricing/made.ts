// Prices that an item has none of its own of in a currency, made from its price in the house currency: by the rate, with a
// share on top, and raised to a round ending. What was typed for the currency always counts before what is made.
import { isFilled, type Value } from '../listing/values';
import { houseCurrency } from '../product/house';
import { canonicalNumber, exact, getMinorUnits, raiseToCurrency, raiseToStep } from '../quantity';
import type { Rulebook } from '../rulebook/schema';

/** How prices of a currency are made: `percent` goes on top (under nought: comes off), then they are raised to an ending. */
export interface PriceRule {
  percent: string;
  /** The next amount that is `ending` over a whole number of `step`: 0.99 over 1, 80 over 100; the currency's places where it is null. */
  round: { step: string; ending: string } | null;
}
export type PriceRules = Readonly<Record<string, PriceRule>>;

/** Endings that people choose among, by the places of a currency. Common practice. */
export const listEndings = (currency: string): readonly { step: string; ending: string }[] =>
  getMinorUnits(currency) === 0
    ? [
        { step: '10', ending: '9' },
        { step: '10', ending: '0' },
        { step: '100', ending: '80' },
        { step: '100', ending: '0' },
      ]
    : [
        { step: '1', ending: '0.99' },
        { step: '1', ending: '0.95' },
        { step: '1', ending: '0.90' },
        { step: '1', ending: '0.50' },
        { step: '1', ending: '0' },
      ];

/**
 * The price in a currency that is made of one in the house currency, canonical, in the currency's places; then in coins of
 * `coin`, where the market takes no others.
 */
export function makePrice(house: string, rate: string, rule: PriceRule, currency: string, coin?: string): string {
  const put = exact(
    raiseToCurrency(exact(house).times(rate).times(exact(rule.percent).dividedBy(100).plus(1)), currency),
  );
  const ended = rule.round === null ? put : raiseToStep(put, rule.round.step, rule.round.ending);
  return (coin === undefined ? ended : raiseToStep(ended, coin, '0')).toFixed(getMinorUnits(currency));
}

const made = [
  { from: 'price', to: 'fact.price@' },
  { from: 'sale_price', to: 'fact.sale_price@' },
] as const;

/** Fields of which prices in other currencies may be made. */
export const housePrices: readonly string[] = made.map((m) => m.from);

/** Fills in prices of an item's fields, in place; answers which field each was made of. */
export type PriceFiller = (fields: Record<string, Value>) => Readonly<Record<string, string>>;
const fillNothing: PriceFiller = () => ({});

/** What fills in the prices of a market that has rules for its currencies, as far as their rates are known. */
export function preparePrices(
  { sites, attributes }: Rulebook,
  rules: PriceRules,
  rates: Readonly<Record<string, string>>,
): PriceFiller {
  const currencies = [...new Set(sites.map((s) => s.currency))].filter((c) => c !== houseCurrency);
  const makers = currencies.flatMap((currency) => {
    const rule = rules[currency],
      rate = rates[currency];
    if (rule === undefined || rate === undefined) return [];
    return made.map(({ from, to }) => {
      const key = to + currency.toLowerCase();
      const coin = attributes.find((a) => a.from === key)?.step;
      return { from, key, make: (house: string) => makePrice(house, rate, rule, currency, coin) };
    });
  });
  if (makers.length === 0) return fillNothing;
  return (fields) => {
    const filled: Record<string, string> = {};
    for (const { from, key, make } of makers) {
      const house = fields[from];
      if (isFilled(fields[key]) || typeof house !== 'string' || !canonicalNumber.test(house)) continue;
      fields[key] = make(house);
      filled[key] = from;
    }
    return filled;
  };
}
