// Amounts with their currency beside them, and amounts in a currency that is not the field's.
import { currencyOfSign } from '../product';
import { exact, roundToPlaces } from '../quantity';

const currencySign = /\p{Sc}/u,
  currencyCode = /^([A-Z]{3})(?=[\s\d-])|(?<=[\s\d])([A-Z]{3})$/i;
const currencies = new Set(Intl.supportedValuesOf('currency'));

/** Signs by which a currency is written: "£" for GBP, "¥" and "￥" for JPY. */
function isSignOf(sign: string, currency: string): boolean {
  const parts = new Intl.NumberFormat('en', {
    style: 'currency',
    currency,
    currencyDisplay: 'narrowSymbol',
  }).formatToParts(0);
  return parts.some((p) => p.type === 'currency' && p.value.normalize('NFKC') === sign);
}

/**
 * An amount without its currency, by its code (ISO 4217) before or behind it or by its sign; or the currency that it is in,
 * where that is not the field's.
 */
export function openAmount(cell: string, currency: string): { amount: string } | { foreign: string } {
  const sign = currencySign.exec(cell)?.[0].normalize('NFKC');
  if (sign !== undefined && !isSignOf(sign, currency)) return { foreign: sign };
  const found = currencyCode.exec(cell),
    code = (found?.[1] ?? found?.[2])?.toUpperCase();
  if (code === undefined || !currencies.has(code)) return { amount: cell };
  return code === currency ? { amount: cell.replace(currencyCode, '').trim() } : { foreign: code };
}

/** The currency that texts of a column are written in beside their amounts, where it is one in all of them that name any. */
export function findNamedCurrency(texts: readonly string[]): string | undefined {
  const named = new Set(
    texts.flatMap((t) => {
      const sign = currencySign.exec(t)?.[0].normalize('NFKC'),
        found = currencyCode.exec(t.trim()),
        code = (found?.[1] ?? found?.[2])?.toUpperCase();
      return sign ?? (code !== undefined && currencies.has(code) ? code : []);
    }),
  );
  const [one, ...others] = [...named].map((n) => currencyOfSign[n] ?? n);
  return one !== undefined && currencies.has(one) && others.every((o) => o === one) ? one : undefined;
}

/** An amount made into the house's money by what one unit of that buys, to so many places. */
export const toHouseMoney = (amount: string, rate: string, places: number): string =>
  roundToPlaces(exact(amount).dividedBy(rate).toFixed(12), places);
