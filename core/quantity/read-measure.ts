// Reading measures as people write them, by the decimal sign of their file.
import { type NumberLocale, readNumber, toOtherLocale } from './read-number';
import { findUnit } from './unit';

export interface MeasureReading {
  amount: string;
  /** As we spell it; undefined where none is written. */
  unit: string | undefined;
  /** True where the amount can only be read by the other decimal sign. */
  isOtherSign: boolean;
}

/** A number with whatever divides its figures, and the unit; no range, fraction or time. */
const measure = /^([-\u2212]?\d[\d.,'\u00a0\u202f ]*)(?!\s*[-\u2013:/\d.,'])([^]*)$/;
/** No measure that anybody writes is longer. */
const longest = 200;

/**
 * Measures that stand in one text: "30 x 20 x 10 cm", "30 cm × 20 cm"; what has no unit has that of the last. Undefined where any of
 * them is none.
 */
export function readMeasures(text: string, locale: NumberLocale): MeasureReading[] | undefined {
  if (text.length > longest) return undefined;
  const read = text.split(/[x×✕*]|\bby\b/i).map((t) => readMeasure(t, locale));
  const unit = read.at(-1)?.unit;
  return read.every((r) => r !== undefined) ? read.map((r) => ({ ...r, unit: r.unit ?? unit })) : undefined;
}

/** Reads "24 cm", "1.5 l", "1.250,5 g", "24"; undefined where no number stands first, or more of one behind it: "10-12 cm". */
export function readMeasure(text: string, locale: NumberLocale): MeasureReading | undefined {
  const found = text.length > longest ? null : measure.exec(text.trim());
  if (!found) return undefined;
  const figures = found[1]!.trim(),
    unit = found[2]!.trim();
  const own = readNumber(figures, locale),
    isOtherSign = !own.ok && own.reason === 'other-locale';
  const read = isOtherSign ? readNumber(figures, toOtherLocale(locale)) : own;
  if (!read.ok) return undefined;
  return {
    amount: read.number,
    unit: unit === '' ? undefined : (findUnit(unit) ?? unit),
    isOtherSign,
  };
}
