import { exact, Exact } from '../quantity';

/** Numbers as the spreadsheet shows them: fifteen significant digits, no exponent. */
export function writeCellNumber(text: string): string {
  if (/^-?\d{1,15}$/.test(text)) return text;
  const n = Number(text);
  return Number.isFinite(n) ? exact(new Exact(n).toSignificantDigits(15)).toFixed() : text;
}
