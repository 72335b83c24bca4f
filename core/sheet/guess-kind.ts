// What a column that no field is for would hold, were one made for it.
import type { OwnFieldKind } from '../product';
import { commaLocale, isKnownUnit, pointLocale, readDate, readMeasure, readNumber } from '../quantity';
import { readYesNo } from './yes-no';

/** A text of more characters is a long one. */
const longText = 120;
const locales = [pointLocale, commaLocale];

const isWhole = (t: string): boolean => /^(?:0|[1-9]\d{0,5})$/.test(t);
const isNumber = (t: string): boolean => /^[\d.,\-\s]+$/.test(t) && locales.some((l) => readNumber(t, l).ok);
const isMeasure = (t: string): boolean =>
  locales.some((l) => {
    const unit = readMeasure(t, l)?.unit;
    return unit !== undefined && isKnownUnit(unit);
  });
const isYesNo = (t: string): boolean => !/^[01]$/.test(t) && readYesNo(t) !== undefined;
const isDay = (t: string): boolean =>
  readDate(t, 'day-first') !== undefined || readDate(t, 'month-first') !== undefined;

/**
 * The kind of field for some of a column's cells. Digits that may be codes stay text: those that begin with a zero, and those of one
 * length that is that of no count.
 */
export function guessKind(samples: readonly string[], hasUnit = false): OwnFieldKind {
  const texts = samples.map((t) => t.trim()).filter((t) => t !== '');
  if (texts.length === 0) return 'text';
  const all = (is: (t: string) => boolean): boolean => texts.every(is);
  if (all(isYesNo)) return 'yes-no';
  if (all(isMeasure) || (hasUnit && all((t) => isMeasure(t) || isNumber(t)))) return 'measure';
  if (all(isWhole)) return 'integer';
  if (all(isDay)) return 'date';
  if (all(isNumber) && texts.some((t) => /[.,]/.test(t))) return 'number';
  return texts.some((t) => t.length > longText) ? 'long-text' : 'text';
}
