// Money by ISO 4217. Source of the minor units: ISO 4217 list one, the currencies that trade here meets.
import { countDecimals, Exact, exact, normaliseNumber } from './decimal';

const minorUnits: Readonly<Record<string, number>> = {
  AED: 2,
  AUD: 2,
  BGN: 2,
  BHD: 3,
  BRL: 2,
  CAD: 2,
  CHF: 2,
  CLP: 0,
  CNY: 2,
  CZK: 2,
  DKK: 2,
  EUR: 2,
  GBP: 2,
  HKD: 2,
  HUF: 2,
  IDR: 2,
  ILS: 2,
  INR: 2,
  IQD: 3,
  ISK: 0,
  JOD: 3,
  JPY: 0,
  KRW: 0,
  KWD: 3,
  LYD: 3,
  MXN: 2,
  MYR: 2,
  NOK: 2,
  NZD: 2,
  OMR: 3,
  PLN: 2,
  QAR: 2,
  RON: 2,
  SAR: 2,
  SEK: 2,
  SGD: 2,
  THB: 2,
  TND: 3,
  TRY: 2,
  USD: 2,
  VND: 0,
  ZAR: 2,
};

export const knownCurrencies: readonly string[] = Object.keys(minorUnits);

/** Places after the point in a currency. Throws for a currency we do not know, rather than guess. */
export function getMinorUnits(currency: string): number {
  const places = minorUnits[currency];
  if (places === undefined) throw new Error(`Unknown currency ${currency}`);
  return places;
}

export const isKnownCurrency = (currency: string): boolean => currency in minorUnits;

/** Amount with exactly the currency's places, rounded half up. */
export const formatMoney = (amount: string | Exact, currency: string): string =>
  exact(amount).toFixed(getMinorUnits(currency));

/** True if the amount has no more places than the currency (1299.500 yen has). */
export const fitsCurrency = (amount: string, currency: string): boolean =>
  countDecimals(amount) <= getMinorUnits(currency);

/** The least amount in the currency's places that is not under the given one; what may not be undercut goes up. */
export const raiseToCurrency = (amount: string | Exact, currency: string): string =>
  exact(amount).toDecimalPlaces(getMinorUnits(currency), Exact.ROUND_CEIL).toFixed(getMinorUnits(currency));

/** The largest amount in the currency's places that is not over the given one; what may not be passed goes down. */
export const lowerToCurrency = (amount: string | Exact, currency: string): string =>
  exact(amount).toDecimalPlaces(getMinorUnits(currency), Exact.ROUND_FLOOR).toFixed(getMinorUnits(currency));

/** The least amount, a whole number of times `step` and `ending` over it, that is not under `floor`. Goes up, since a floor must hold. */
export const raiseToStep = (floor: string | Exact, step: string, ending: string): Exact =>
  exact(floor).minus(ending).dividedBy(step).toDecimalPlaces(0, Exact.ROUND_CEIL).times(step).plus(ending);

/** An ending of 9.99 stands in steps of ten, one of .99 in steps of one. */
export const getEndingStep = (ending: Exact): string =>
  ending.lt(1) ? '1' : exact(10).pow(ending.floor().toFixed().length).toFixed();

/** Smallest amount not under `floor` that ends in `ending` (".99", ".95", ".00"). */
export const raiseToEnding = (floor: string | Exact, ending: string): Exact => raiseToStep(floor, '1', `0${ending}`);

/** An amount of our own catalog as people read it: at least two places, more only where they are there. */
export function padMoney(text: string): string {
  const [whole = '0', places = ''] = normaliseNumber(text).split('.');
  return `${whole}.${places.padEnd(2, '0')}`;
}
