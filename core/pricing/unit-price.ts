// The price of a kilogram, a litre, a metre or a piece, which buyers are shown beside that of a package. Published: Directive
// 98/6/EC, articles 2 and 3: the final price for one kilogram, one litre, one metre, one square or cubic metre, or another
// single unit of quantity that is customary for such goods.
import { convertUnit, exact, type Exact, parseMeasure, canonicalNumber } from '../quantity';

/** What a price can be told for one of. */
export const unitPriceUnits = ['kg', 'l', 'm', 'piece'] as const;
export type UnitPriceUnit = (typeof unitPriceUnits)[number];

/**
 * The price for one unit of what a package holds, exact and unrounded, in the currency of the price. The content is a measure
 * ("125 g"), or for pieces their number, of which there is one where nothing is said. Undefined where the content says
 * nothing of that unit.
 */
export function computeUnitPrice(price: string, content: string | undefined, per: UnitPriceUnit): Exact | undefined {
  const amount = per === 'piece' ? toPieces(content) : content === undefined ? undefined : toAmount(content, per);
  return amount === undefined || amount.lte(0) ? undefined : exact(price).dividedBy(amount);
}

const toPieces = (content: string | undefined): Exact | undefined =>
  content === undefined ? exact('1') : canonicalNumber.test(content) ? exact(content) : undefined;

function toAmount(content: string, per: string): Exact | undefined {
  const read = parseMeasure(content);
  return read?.unit === undefined ? undefined : convertUnit({ amount: read.amount, unit: read.unit }, per);
}
