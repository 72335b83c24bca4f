// What the cells of a selection add up to, column by column. Pure; decimals are exact.
import { exact, canonicalNumber, type Exact, parseMeasure } from '@basileus/core/quantity';

export interface ColumnSums {
  filled: number;
  /** Numbers, or measures that share one unit; what else is filled is counted only. */
  numbers: number;
  sum: string | null;
  least: string | null;
  most: string | null;
  unit: string;
}
export const noSums: ColumnSums = { filled: 0, numbers: 0, sum: null, least: null, most: null, unit: '' };

function readAmount(text: string, isNumber: boolean): { amount: string; unit: string } | undefined {
  if (isNumber) return canonicalNumber.test(text) ? { amount: text, unit: '' } : undefined;
  const read = parseMeasure(text);
  return read?.unit === undefined ? undefined : { amount: String(read.amount), unit: read.unit };
}
const countPlaces = (amount: string): number => (amount.split('.')[1] ?? '').length;

/** What the texts of one column add up to. Digits in a column of texts, barcodes among them, are not added up. */
export function sumTexts(texts: readonly string[], isNumber: boolean): ColumnSums {
  const filled = texts.filter((t) => t !== '');
  const read = filled.map((t) => readAmount(t, isNumber));
  const amounts = read.flatMap((r) => r ?? []);
  const unit = amounts[0]?.unit ?? '';
  if (amounts.length === 0 || amounts.some((a) => a.unit !== unit)) return { ...noSums, filled: filled.length };
  const first = exact(amounts[0]!.amount);
  let [sum, least, most, places] = [exact('0'), first, first, 0];
  for (const a of amounts) {
    const amount = exact(a.amount);
    places = Math.max(places, countPlaces(a.amount));
    sum = sum.plus(amount);
    if (amount.lessThan(least)) least = amount;
    if (amount.greaterThan(most)) most = amount;
  }
  const write = (n: Exact): string => n.toFixed(places);
  return {
    filled: filled.length,
    numbers: amounts.length,
    sum: write(sum),
    least: write(least),
    most: write(most),
    unit,
  };
}

/** The mean, with two places more than what was added up at the most. */
export const getMean = ({ sum, numbers }: ColumnSums): string | null => {
  if (sum === null || numbers === 0) return null;
  return exact(sum)
    .dividedBy(numbers)
    .toDecimalPlaces(Math.max(2, countPlaces(sum)))
    .toFixed();
};
