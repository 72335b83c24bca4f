import { type Exact, exact, getEndingStep, raiseToStep } from '../../quantity';
import { failRow } from '../fault';
import { toWords } from '../types';
import { argument, type FormulaFunction } from './define';

/** The least amount that ends so and is not under the given one: 12.40 with .99 is 12.99, and with 9.99 it is 19.99. */
export const raiseToEndingOf = (amount: Exact, ending: Exact): Exact =>
  raiseToStep(amount, getEndingStep(ending), ending.toFixed());

/** Common practice of the trade; margin is on the price, markup on the cost, which people mix up. */
export const priceFunctions: readonly FormulaFunction[] = [
  {
    name: 'ending',
    group: 'Prices',
    takes: [argument('price', 'number'), argument('ending', 'number')],
    gives: 'number',
    about: 'The next price with this ending that is not lower.',
    example: 'ending(12.40, .99)',
    result: '12.99',
    work: ([price, end]) => {
      const ending = end as Exact;
      if (ending.lt(0) || ending.gte(1000))
        return failRow({ kind: 'out-of-range', function: 'ending', value: toWords(ending) });
      return raiseToEndingOf(price as Exact, ending);
    },
  },
  {
    name: 'margin',
    group: 'Prices',
    takes: [argument('cost', 'number'), argument('share', 'number')],
    gives: 'number',
    about: 'The price of which this share is left over the cost.',
    example: 'margin(6, 40%)',
    result: '10',
    work: ([cost, share]) => {
      const m = share as Exact;
      if (m.gte(1)) return failRow({ kind: 'out-of-range', function: 'margin', value: toWords(m) });
      return (cost as Exact).dividedBy(exact(1).minus(m));
    },
  },
  {
    name: 'markup',
    group: 'Prices',
    takes: [argument('cost', 'number'), argument('share', 'number')],
    gives: 'number',
    about: 'The cost with this share of it on top.',
    example: 'markup(10, 40%)',
    result: '14',
    work: ([cost, share]) => (cost as Exact).times(exact(1).plus(share as Exact)),
  },
];
