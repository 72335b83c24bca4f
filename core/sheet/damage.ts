// What spreadsheet programs do to identifiers on the way, recognised and mended where it can be proven.
import { parseGtin } from '../identifiers';
import { restoreZeros } from '../checks/rules/identifier-wrong';
import { decodeEntities, isFormulaError, say } from '../text';
import { repairMojibake } from './encoding';
import { fromSerialDate } from './serial-date';

export type Damage =
  | { kind: 'scientific'; text: string; known: string }
  | { kind: 'lost-zeros'; text: string; mended: string }
  | { kind: 'digits-lost'; text: string }
  | { kind: 'date-like'; text: string }
  | { kind: 'decimal-tail'; text: string; mended: string }
  /** A number that can be read by the decimal sign alone that the file has not. */
  | { kind: 'other-sign'; text: string; mended: string }
  | { kind: 'mojibake'; text: string; mended: string }
  /** A count with words: pieces, so many or more, none left. */
  | { kind: 'counted' | 'at-least' | 'none-left'; text: string; mended: string }
  /** Signs as web pages or other programs write them: `&amp;`, `\"`. */
  | { kind: 'escaped'; text: string; mended: string }
  /** A day as its number: 45992. */
  | { kind: 'day-number'; text: string; mended: string }
  /** What is shown in the place of a value: `#REF!` of a formula that failed, `####` of a column that is too narrow. */
  | { kind: 'no-value'; text: string; why: 'formula' | 'narrow' };

const scientific = /^(\d)(?:[.,](\d+))?E\+?(\d{1,2})$/i;
/**
 * Names of months, whole and short, as spreadsheets write them in the languages that files of the trade often come in (those of
 * the platform, CLDR; the shorter ones from memory). "Set" and "mag" of Italian are left out: goods come in sets.
 */
const months: ReadonlySet<string> = new Set(
  ['en', 'de', 'sv', 'fr', 'es', 'it', 'nl']
    .flatMap((language) =>
      (['long', 'short'] as const).flatMap((month) => {
        const format = new Intl.DateTimeFormat(language, { month, timeZone: 'UTC' });
        return Array.from({ length: 12 }, (_, i) =>
          format
            .format(Date.UTC(2026, i, 1))
            .replace('.', '')
            .toLowerCase(),
        );
      }),
    )
    .concat('jan feb mar apr jun jul aug sep oct nov dec mär mrz okt dez mrt maj fév févr avr déc ene abr'.split(' '))
    .filter((name) => name !== 'set' && name !== 'mag'),
);
const dayAndMonth = /^\d{1,2}[.\-/ ]{1,2}(\p{L}{3,})\.?(?:[.\-/ ]{1,2}\d{2,4})?$/u,
  monthAndYear = /^(\p{L}{3,})\.?[-/ ]\d{1,4}$/u,
  wholeDate = /^\d{4}-\d{2}-\d{2}(?:[ T]00:00(?::00(?:\.0+)?)?Z?)?$|^\d{1,2}[./]\d{1,2}[./](?:19|20)\d{2}$/i;

/** True where a cell looks like a date that a spreadsheet made of something else: 04-Mar, 02.Okt, 2026-04-03 00:00:00. */
export function isDateLike(cell: string): boolean {
  const text = cell.trim();
  // Nearly all texts are longer than any date, which is seen at once.
  if (text.length > 30) return false;
  const month = (dayAndMonth.exec(text) ?? monthAndYear.exec(text))?.[1];
  return month === undefined ? wholeDate.test(text) : months.has(month.toLowerCase());
}

/** What stands in a cell instead of its value; nothing of such a cell can be taken. */
export function findNoValue(cell: string): Damage | undefined {
  if (isFormulaError(cell)) return { kind: 'no-value', text: cell, why: 'formula' };
  return /^#{3,}$/.test(cell) ? { kind: 'no-value', text: cell, why: 'narrow' } : undefined;
}

/** Days from 1990 to 2099 as spreadsheets number them. */
const firstDay = 32_874,
  lastDay = 73_050;
/** A date cell that holds the number of its day, as where a column of dates was shown as numbers. */
export function findDayNumber(cell: string): Damage | undefined {
  if (!/^\d{5}(?:\.\d+)?$/.test(cell)) return undefined;
  const serial = Number(cell);
  const day = serial >= firstDay && serial < lastDay + 1 ? fromSerialDate(Math.floor(serial), false) : undefined;
  return day === undefined ? undefined : { kind: 'day-number', text: cell, mended: day };
}

/** Damage in a cell that should hold a barcode. The mended number is proven by its check digit. */
export function findIdentifierDamage(cell: string): Damage | undefined {
  const text = cell.trim();
  if (isDateLike(text)) return { kind: 'date-like', text };
  const s = scientific.exec(text);
  if (s) return { kind: 'scientific', text, known: s[1]! + (s[2] ?? '') };
  if (/^\d+[.,]0+$/.test(text)) return { kind: 'decimal-tail', text, mended: text.replace(/[.,]0+$/, '') };
  if (/^\d{16,}$/.test(text) || (/^\d{14,}$/.test(text) && /0{3,}$/.test(text) && !parseGtin(text).ok))
    return { kind: 'digits-lost', text };
  const mended = restoreZeros(text);
  if (mended && !parseGtin(text).ok) return { kind: 'lost-zeros', text, mended };
  return undefined;
}

/**
 * Damage in a cell of text: letters read in the wrong encoding, as often as that was done; signs that another program has
 * written otherwise, where the text is no markup; a size or code that became a date.
 */
export function findTextDamage(cell: string, isMarkup = false): Damage | undefined {
  let mended = repairMojibake(cell);
  for (let more = mended; more !== undefined && more !== cell; more = repairMojibake(more)) mended = more;
  if (mended !== undefined && mended !== cell)
    return { kind: 'mojibake', text: cell, mended: isMarkup ? mended : unescape(mended) };
  if (isMarkup) return undefined;
  const plain = unescape(cell);
  if (plain !== cell) return { kind: 'escaped', text: cell, mended: plain };
  return isDateLike(cell) ? { kind: 'date-like', text: cell } : undefined;
}
const unescape = (text: string): string => decodeEntities(text).replaceAll('\\"', '"');

/**
 * The whole number behind 5.90123E+12, found again among numbers we already hold: exactly one must begin with the
 * digits that are left (the last of them may have been rounded up).
 */
export function findScientificOriginal(
  damage: { known: string; text: string },
  candidates: readonly string[],
): string | undefined {
  const exponent = Number(/E\+?(\d+)$/i.exec(damage.text)?.[1] ?? 0);
  const hits = candidates.filter((c) => {
    const digits = c.replace(/^0+/, '');
    if (digits.length !== exponent + 1) return false;
    const shown = digits.slice(0, damage.known.length);
    const roundedUp = Number(digits[damage.known.length] ?? '0') >= 5;
    return (roundedUp ? String(Number(shown) + 1) : shown) === damage.known || shown === damage.known;
  });
  return hits.length === 1 ? hits[0] : undefined;
}

/** The sentence of a damage, naming the value and what was or must be done. */
export function wordDamage(d: Damage, field: string): string {
  switch (d.kind) {
    case 'scientific':
      return say`${field} “${d.text}”: a spreadsheet kept only the first ${d.known.length} digits; the rest is gone from this file.`;
    case 'lost-zeros':
      return say`${field} “${d.text}” has lost leading zeros; ${d.mended} is proven by its check digit.`;
    case 'digits-lost':
      return say`${field} “${d.text}”: a spreadsheet keeps fifteen digits and fills up with zeros; take the number again from its source.`;
    case 'date-like':
      return say`${field} “${d.text}” looks like a size or code that a spreadsheet turned into a date.`;
    case 'decimal-tail':
      return say`${field} “${d.text}” became a decimal number; ${d.mended} was meant.`;
    case 'other-sign':
      return say`${field} “${d.text}” is written with the other decimal sign; only ${d.mended} can be meant.`;
    case 'counted':
      return say`${field} “${d.text}” counts pieces; ${d.mended} is meant.`;
    case 'at-least':
      return say`${field} “${d.text}” says so many or more; ${d.mended} is what can be promised.`;
    case 'none-left':
      return say`${field} “${d.text}” says that none is left; ${d.mended} is meant.`;
    case 'mojibake':
      return say`${field} “${d.text}” was read in the wrong encoding; “${d.mended}” was meant.`;
    case 'escaped':
      return say`${field} “${d.text}” holds signs as another program writes them; “${d.mended}” was meant.`;
    case 'day-number':
      return say`${field} “${d.text}” is a day as spreadsheets count them; ${d.mended} was meant.`;
    case 'no-value':
      return d.why === 'formula'
        ? say`${field} “${d.text}” is what a spreadsheet shows where a formula failed; the value itself is not in the file. Mend the formula and save the file again.`
        : say`${field} “${d.text}” is what a spreadsheet shows where a column is too narrow; the value itself is not in the file. Make the column wider and save the file again.`;
  }
}
