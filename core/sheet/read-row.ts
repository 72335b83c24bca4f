// Reading the cells of a row as values of our fields: what cannot be read becomes a problem, not a value.
import type { Value } from '../listing/values';
import { type FieldBook, getMoneyPlaces, ownCurrency, type ProductField, toKept } from '../product';
import {
  commaLocale,
  judgeMoment,
  normaliseNumber,
  padMoney,
  pointLocale,
  readDate,
  readMeasure,
  readMeasures,
  readNumber,
  roundToPlaces,
  toOtherLocale,
  type DateOrder,
  type NumberLocale,
} from '../quantity';
import { openAmount, toHouseMoney } from './foreign-money';
import { dropUnseen, unguardCode } from './guard';
import { readCountCell } from './count-cell';
import { findHarm } from './harm';
import { type Damage, findDayNumber, findNoValue, findTextDamage, isDateLike } from './damage';
import { splitList } from './list-items';
import { readIdentifier } from './read-identifier';
import { readYesNo } from './yes-no';
import type { Problem, ProblemFact } from './problem';

export type ImportMode = 'update' | 'create' | 'both';
export interface ImportColumn {
  index: number;
  field: string;
  /** Unit of its measures that are written without one. */
  unit?: string;
  /** The currency of its amounts where that is not the field's, and what one unit of the house's buys of it. */
  converts?: { currency: string; rate: string };
  /** Which of several measures in the cell it is. */
  part?: { at: number; of: number };
  /** True where a blank cell empties the field, whatever is said of the file. */
  blankClears?: boolean;
}
export interface ImportReading {
  columns: readonly ImportColumn[];
  decimalSign: '.' | ',';
  /** Which of day and month stands first in dates; the day, where nothing is said. */
  dateOrder?: DateOrder;
  listSeparator: string;
  mode: ImportMode;
  blankClears: boolean;
  acceptMended: boolean;
  /** By what a row is known; its SKU, where nothing is said. */
  knownBy?: 'sku' | 'gtin' | 'mpn';
  /** True where new items without a SKU get one from what they are known by. */
  makesSkus?: boolean;
  /** True where a SKU that differs from one of the catalog only in capitals or marks is read as that. */
  asTwins?: boolean;
  /** Cells that are read as others, all that say the same at once; as blank ones where `to` is empty. */
  replacements?: readonly { field: string; from: string; to: string }[];
}
/** What we hold of a SKU, flat. */
export type HeldProduct = Readonly<Record<string, Value>>;
/** Reads one row into values of our fields. A cell that cannot be read becomes a problem, not a value. */
export function readRow(
  cells: readonly string[],
  reading: ImportReading,
  held: HeldProduct | undefined,
  fields: FieldBook,
): { values: Record<string, Value | null>; problems: Problem[] } {
  const values: Record<string, Value | null> = {};
  const problems: Problem[] = [];
  for (const { index, field, unit, blankClears, part, converts } of reading.columns) {
    const known = fields.get(field);
    if (!known) continue;
    const written = writtenIn(cells, index, known);
    // Whatever is said of a cell with several measures is said of the field of the first.
    const of = part === undefined ? field : (reading.columns.find((c) => c.index === index)?.field ?? field);
    const cell = findReplacement(reading, of, written) ?? written;
    if (cell === '') {
      if ((blankClears ?? reading.blankClears) && field !== 'sku') values[field] ??= null;
      continue;
    }
    const read = part
      ? readPart(cell, known, part, reading, problems)
      : readCell(cell, known, reading, held, problems, converts);
    if (read === undefined) continue;
    const value = toKept(known, read, unit);
    // A list may have several columns: a picture in each.
    const before = values[field];
    values[field] =
      typeof value !== 'string' && typeof before === 'object' && before !== null ? [...before, ...value] : value;
  }
  return { values, problems };
}

/** What a cell says, without what nobody sees and what only spreadsheets need. */
export function writtenIn(cells: readonly string[], index: number, known: ProductField): string {
  const found = dropHidden(cells[index] ?? '', known).trim();
  return isCode(known) ? unguardCode(found) : found;
}

/** What a person has said that a cell is read as. */
export const findReplacement = (
  { replacements }: Pick<ImportReading, 'replacements'>,
  field: string,
  written: string,
): string | undefined => replacements?.find((r) => r.field === field && r.from === written)?.to;

/** One of several measures in a cell; what is wrong is told with the first of them alone. */
function readPart(
  cell: string,
  { key }: ProductField,
  { at, of }: { at: number; of: number },
  reading: ImportReading,
  problems: Problem[],
): Value | undefined {
  const { refuse, damaged } = takeNotes(cell, key, reading, at === 0 ? problems : []);
  const read = isDateLike(cell) ? undefined : readMeasures(cell, toLocale(reading));
  if (read?.length !== of) return refuse({ is: 'not-measures', count: of });
  const { amount, unit } = read[at]!,
    measure = unit === undefined ? amount : `${amount} ${unit}`;
  if (!read.some((r) => r.isOtherSign)) return measure;
  const mended = read.map((r) => r.amount).join(' x ');
  return damaged({ kind: 'other-sign', text: cell, mended }, true) === undefined ? undefined : measure;
}

/** A cell without what nobody sees; where a word may be divided is kept in long texts alone. */
function dropHidden(cell: string, { kind }: ProductField): string {
  const seen = dropUnseen(cell);
  return kind !== 'long-text' && seen.includes('\u00ad') ? seen.replaceAll('\u00ad', '') : seen;
}

/** A field in which an apostrophe is never a part of the value. */
const isCode = ({ key, kind }: ProductField): boolean =>
  key === 'sku' || kind === 'identifier' || kind === 'money' || kind === 'number' || kind === 'integer';

/** What is said of a cell while it is read. */
interface CellNotes {
  note: (fact: ProblemFact, level: Problem['level']) => void;
  /** Says why a cell cannot be read, and gives nothing. */
  refuse: (fact: ProblemFact) => undefined;
  /** Says what became of a cell, by what we hold where that proves it, and gives what is taken of it: what was meant, or the cell itself unless it is refused. */
  damaged: (damage: Damage, isRefused: boolean, held?: string) => string | undefined;
}
function takeNotes(cell: string, field: string, { acceptMended }: ImportReading, problems: Problem[]): CellNotes {
  const note = (fact: ProblemFact, level: Problem['level']): void => {
    problems.push({ field, value: cell, kind: 'not-read', fact, level });
  };
  return {
    note,
    refuse: (fact) => {
      note(fact, 'blocker');
      return undefined;
    },
    damaged: (damage, isRefused, held) => {
      const mended = held ?? ('mended' in damage ? damage.mended : undefined),
        isTaken = mended !== undefined && acceptMended;
      problems.push({
        field,
        value: cell,
        kind: 'damage',
        fact: { is: 'damaged', damage, ...(held === undefined ? {} : { held }) },
        level: isRefused && !isTaken ? 'blocker' : 'caution',
        ...(mended === undefined ? {} : { mended }),
      });
      return isTaken ? mended : isRefused ? undefined : cell;
    },
  };
}

function readCell(
  cell: string,
  known: ProductField,
  reading: ImportReading,
  held: HeldProduct | undefined,
  problems: Problem[],
  converts?: ImportColumn['converts'],
): Value | undefined {
  const { key: field, kind } = known;
  const notes = takeNotes(cell, field, reading, problems),
    { refuse, damaged } = notes;
  const nothing = findNoValue(cell);
  if (nothing) return damaged(nothing, true);
  const readText = (isMarkup: boolean): string => {
    const damage = findTextDamage(cell, isMarkup),
      own = held?.[field];
    if (!damage) return cell;
    // What we hold may prove what the date was: 3/4 becomes the third of April or the fourth of March, and nothing else does.
    if (damage.kind === 'date-like' && typeof own === 'string' && findHarm(own, cell) === 'date')
      return damaged(damage, false, own) ?? cell;
    return damaged(damage, false) ?? cell;
  };
  switch (kind) {
    case 'money':
    case 'number':
    case 'integer':
      return isDateLike(cell)
        ? damaged({ kind: 'date-like', text: cell }, true)
        : readAmount(cell, known, toLocale(reading), notes, converts);
    case 'identifier':
      return readIdentifier(cell, field, reading, held, problems);
    case 'list':
      return splitList(readText(false), reading.listSeparator);
    case 'measure': {
      if (isDateLike(cell)) return damaged({ kind: 'date-like', text: cell }, true);
      // As we write it, which a file that went out has whatever its decimal sign is.
      if (held?.[field] === cell) return cell;
      const read = readMeasure(cell, toLocale(reading));
      if (!read) return cell;
      const measure = read.unit ? `${read.amount} ${read.unit}` : read.amount;
      return read.isOtherSign ? damaged({ kind: 'other-sign', text: cell, mended: measure }, true) : measure;
    }
    case 'yes-no':
      return readYesNo(cell) ?? refuse({ is: 'not-yes-or-no' });
    case 'date': {
      // A moment of a market comes back as it went out.
      if (known.moment !== undefined && judgeMoment(cell) !== 'none') return cell;
      const day = readDate(cell, reading.dateOrder ?? 'day-first');
      if (day !== undefined) return day;
      const number = findDayNumber(cell);
      return number ? damaged(number, true) : refuse({ is: 'not-a-day' });
    }
    case 'text':
    case 'long-text':
      return readText(kind === 'long-text');
  }
}

const toLocale = ({ decimalSign }: ImportReading): NumberLocale => (decimalSign === ',' ? commaLocale : pointLocale);

/** A whole number that has words beside it; that so many or more are there, or none, is said of stock alone. */
function readCount(
  cell: string,
  { key }: ProductField,
  locale: NumberLocale,
  { refuse, damaged }: Pick<CellNotes, 'refuse' | 'damaged'>,
): string | undefined {
  const count = readCountCell(cell),
    read = count && readNumber(count.figures, locale);
  const mended = read?.ok === true ? normaliseNumber(read.number) : undefined;
  if (
    count === undefined ||
    mended === undefined ||
    mended.includes('.') ||
    (count.kind !== 'counted' && key !== 'stock')
  )
    return refuse({ is: 'not-whole' });
  return damaged({ kind: count.kind, text: cell, mended }, true);
}

/** An amount of money, a number or a whole number. */
function readAmount(
  cell: string,
  known: ProductField,
  locale: NumberLocale,
  { note, refuse, damaged }: CellNotes,
  converts?: ImportColumn['converts'],
): string | undefined {
  const { kind } = known;
  const currency = converts?.currency ?? known.currency ?? ownCurrency.code,
    written = kind === 'money' ? openAmount(cell, currency) : { amount: cell };
  if ('foreign' in written) return refuse({ is: 'foreign-currency', sign: written.foreign, currency });
  const own = readNumber(written.amount, locale),
    isOtherSign = !own.ok && own.reason === 'other-locale';
  const read = isOtherSign ? readNumber(written.amount, toOtherLocale(locale)) : own;
  if (!read.ok && kind === 'integer') return readCount(cell, known, locale, { refuse, damaged });
  if (!read.ok) return refuse({ is: 'not-a-number', decimalSign: locale.decimal });
  if (read.number.startsWith('-')) return refuse({ is: 'under-zero' });
  const number = normaliseNumber(read.number);
  if (kind === 'integer' && number.includes('.')) return refuse({ is: 'not-whole' });
  if (isOtherSign && damaged({ kind: 'other-sign', text: cell, mended: number }, true) === undefined) return undefined;
  if (kind !== 'money') return number;
  const places = getMoneyPlaces(known);
  if (converts) {
    const made = toHouseMoney(number, converts.rate, places);
    return places === 0 ? made : padMoney(made);
  }
  const rounded = roundToPlaces(read.number, places);
  const kept = places === 0 ? rounded : padMoney(rounded);
  if (rounded !== number) note({ is: 'kept-as', amount: kept }, 'caution');
  return kept;
}
