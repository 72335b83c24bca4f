// Units of measure with exact factors. Source: SI brochure and the international yard and pound agreement of 1959
// (inch 25.4 mm, pound 453.59237 g). The US fluid ounce is 1/128 of a gallon of 231 cubic inches (NIST Handbook 44,
// appendix C), 29.5735295625 ml by that inch.
import { Exact, exact, canonicalNumber, roundToPlaces } from './decimal';

interface Unit {
  dimension: string;
  factor: string;
}
const units: Readonly<Record<string, Unit>> = {
  mm: { dimension: 'length', factor: '1' },
  cm: { dimension: 'length', factor: '10' },
  m: { dimension: 'length', factor: '1000' },
  in: { dimension: 'length', factor: '25.4' },
  g: { dimension: 'mass', factor: '1' },
  kg: { dimension: 'mass', factor: '1000' },
  oz: { dimension: 'mass', factor: '28.349523125' },
  lb: { dimension: 'mass', factor: '453.59237' },
  ml: { dimension: 'volume', factor: '1' },
  cl: { dimension: 'volume', factor: '10' },
  l: { dimension: 'volume', factor: '1000' },
  'fl oz': { dimension: 'volume', factor: '29.5735295625' },
  W: { dimension: 'power', factor: '1' },
  kW: { dimension: 'power', factor: '1000' },
  V: { dimension: 'voltage', factor: '1' },
  Wh: { dimension: 'energy', factor: '1' },
  kWh: { dimension: 'energy', factor: '1000' },
  '°C': { dimension: 'temperature', factor: '1' },
  min: { dimension: 'time', factor: '1' },
  h: { dimension: 'time', factor: '60' },
  gsm: { dimension: 'grammage', factor: '1' },
};

export interface Measure {
  amount: string;
  unit: string;
}

export const knownUnits: readonly string[] = Object.keys(units);
export const isKnownUnit = (unit: string): boolean => unit in units;

/** Reads "24 cm", "1.5 l", "24" (unit undefined). Undefined where no number stands first, or more of one behind it: "24,5 cm", "10-12 cm". */
export function parseMeasure(text: string): { amount: string; unit: string | undefined } | undefined {
  const m = /^(-?\d+(?:\.\d+)?)(?!\s*[-.,:/\d])\s*([^]*)$/.exec(text.trim());
  if (!m || !canonicalNumber.test(m[1]!)) return undefined;
  return { amount: m[1]!, unit: m[2] ? (findUnit(m[2]) ?? m[2]) : undefined };
}

const names: Readonly<Record<string, string>> = {
  millimetre: 'mm',
  millimetres: 'mm',
  centimetre: 'cm',
  centimetres: 'cm',
  metre: 'm',
  metres: 'm',
  inch: 'in',
  inches: 'in',
  '"': 'in',
  gram: 'g',
  grams: 'g',
  gr: 'g',
  kilogram: 'kg',
  kilograms: 'kg',
  kilo: 'kg',
  pound: 'lb',
  pounds: 'lb',
  lbs: 'lb',
  ounce: 'oz',
  ounces: 'oz',
  millilitre: 'ml',
  millilitres: 'ml',
  litre: 'l',
  litres: 'l',
  liter: 'l',
  ltr: 'l',
  watt: 'W',
  watts: 'W',
  volt: 'V',
  volts: 'V',
  minutes: 'min',
  minute: 'min',
  hours: 'h',
  hour: 'h',
  'g/m²': 'gsm',
  'g/m2': 'gsm',
};
const byFold = new Map<string, string>([
  ...Object.keys(units).map((u) => [u.toLowerCase(), u] as const),
  ...Object.entries(names),
]);

/** Our spelling of a unit written some other common way. */
export const findUnit = (text: string): string | undefined => byFold.get(text.trim().replace(/\.$/, '').toLowerCase());

/** The amount in another unit, exact; undefined where the dimensions differ. */
export function convertUnit(measure: Measure, to: string): Exact | undefined {
  const a = units[measure.unit],
    b = units[to];
  if (!a || !b || a.dimension !== b.dimension) return undefined;
  return exact(measure.amount).times(a.factor).dividedBy(b.factor);
}

/** Places after the point that a converted amount keeps at the most: far under what anybody weighs or measures. */
const convertedPlaces = 6;
/** Share of an amount that rounding after a conversion may take or add without a word: under what scales and rulers tell. */
const unseenShare = '0.01';

/**
 * The measure in one of the accepted units: as it is where its unit is accepted, else in the first that measures the same.
 * A converted amount is rounded to `decimals`, where that moves it by one percent at the most; where it would move it
 * further, all of its places stay, for a check to speak of. Undefined where no accepted unit measures the same.
 */
export function fitUnit(
  measure: Measure,
  accepted: readonly string[],
  decimals = convertedPlaces,
): Measure | undefined {
  if (accepted.includes(measure.unit)) return measure;
  for (const unit of accepted) {
    const amount = convertUnit(measure, unit);
    if (!amount) continue;
    const whole = roundToPlaces(amount.toFixed(), convertedPlaces),
      rounded = roundToPlaces(whole, Math.min(decimals, convertedPlaces));
    const isUnseen = exact(rounded).minus(whole).abs().lte(exact(whole).abs().times(unseenShare));
    return { amount: isUnseen ? rounded : whole, unit };
  }
  return undefined;
}
