// Reading the cells of a row as values of our fields: what cannot be read becomes a problem, not a value.
import { parseGtin, parseIsbn } from '../identifiers';
import type { Value } from '../listing/values';
import { getFieldLabel, getMoneyPlaces, getProductField, ownCurrency } from '../product';
import {
  commaLocale,
  type DateOrder,
  normaliseNumber,
  padMoney,
  parseMeasure,
  pointLocale,
  readDate,
  readNumber,
  roundToPlaces,
} from '../quantity';
import { findIdentifierDamage, findScientificOriginal, findTextDamage, wordDamage } from './damage';

export type ImportMode = 'update' | 'create' | 'both';
export interface ImportColumn {
  index: number;
  field: string;
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
  /** Names that are read as others. */
  replacements?: readonly { field: string; from: string; to: string }[];
}
/** What we hold of a SKU, flat. */
export type HeldProduct = Readonly<Record<string, Value>>;
/**
 * What kind of thing is wrong: `damage` by a spreadsheet, a value that is not `readable` or `not-held` by a field, a row
 * that `swallowed` others or whose cells were `pushed` along, a mode or SKU that does not `fit`, something `left` out.
 */
export type ProblemKind =
  'damage' | 'not-read' | 'not-held' | 'too-long' | 'unreadable' | 'swallowed' | 'pushed' | 'does-not-fit' | 'left-out';
export interface Problem {
  field: string;
  value: string;
  kind: ProblemKind;
  says: string;
  level: 'blocker' | 'caution';
  mended?: string;
}

/** Reads one row into values of our fields. A cell that cannot be read becomes a problem, not a value. */
export function readRow(
  cells: readonly string[],
  reading: ImportReading,
  held: HeldProduct | undefined,
): { values: Record<string, Value | null>; problems: Problem[] } {
  const values: Record<string, Value | null> = {};
  const problems: Problem[] = [];
  for (const { index, field } of reading.columns) {
    const written = (cells[index] ?? '').trim();
    const cell = reading.replacements?.find((r) => r.field === field && r.from === written)?.to ?? written;
    if (cell === '') {
      if (reading.blankClears && field !== 'sku') values[field] ??= null;
      continue;
    }
    const value = readCell(cell, field, reading, held, problems);
    if (value === undefined) continue;
    // A list may have several columns: a picture in each.
    const before = values[field];
    values[field] =
      typeof value !== 'string' && typeof before === 'object' && before !== null ? [...before, ...value] : value;
  }
  return { values, problems };
}

function readCell(
  cell: string,
  field: string,
  reading: ImportReading,
  held: HeldProduct | undefined,
  problems: Problem[],
): Value | undefined {
  const kind = getProductField(field)?.kind ?? 'text';
  const label = getFieldLabel(field);
  const refuse = (says: string): undefined => {
    problems.push({ field, value: cell, kind: 'not-read', says, level: 'blocker' });
    return undefined;
  };
  const remark = (says: string): void => {
    problems.push({ field, value: cell, kind: 'not-read', says, level: 'caution' });
  };
  const locale = reading.decimalSign === ',' ? commaLocale : pointLocale;
  switch (kind) {
    case 'money':
    case 'number':
    case 'integer': {
      const foreign = kind === 'money' ? findForeignCurrency(cell) : undefined;
      if (foreign !== undefined)
        return refuse(
          `${label} “${cell}” is in another currency (${foreign}); our prices are in ${ownCurrency.code}. Convert it, or take the sign away if it is ${ownCurrency.code} already.`,
        );
      const read = readNumber(cell, locale);
      if (!read.ok)
        return refuse(
          read.reason === 'other-locale'
            ? `${label} “${cell}” is written with the other decimal sign; this file is read with “${reading.decimalSign}”.`
            : `${label} “${cell}” is not a number; write it as ${reading.decimalSign === ',' ? '12,50' : '12.50'}.`,
        );
      if (read.number.startsWith('-')) return refuse(`${label} “${cell}” is under zero; give zero or more.`);
      if (kind === 'money') {
        const kept = roundToPlaces(read.number, getMoneyPlaces(field));
        if (kept !== normaliseNumber(read.number)) remark(`${label} “${cell}” is kept as ${padMoney(kept)}.`);
        return padMoney(kept);
      }
      const number = normaliseNumber(read.number);
      return kind === 'integer' && number.includes('.') ? refuse(`${label} “${cell}” is not a whole number.`) : number;
    }
    case 'identifier':
      return readIdentifier(cell, field, label, reading, held, problems);
    case 'list':
      return cell
        .split(reading.listSeparator)
        .map((p) => p.trim())
        .filter((p) => p !== '');
    case 'measure': {
      const read = parseMeasure(reading.decimalSign === ',' ? cell.replace(',', '.') : cell);
      return read ? (read.unit ? `${read.amount} ${read.unit}` : read.amount) : cell;
    }
    case 'yes-no':
      return /^(y|yes|true|1|x|ja|wahr)$/i.test(cell)
        ? 'yes'
        : /^(n|no|false|0|nein|falsch)$/i.test(cell)
          ? 'no'
          : refuse(`${label} “${cell}” is neither yes nor no.`);
    case 'date':
      return (
        readDate(cell, reading.dateOrder ?? 'day-first') ??
        refuse(`${label} “${cell}” is not a day; write it as 2026-11-27 or 27/11/2026.`)
      );
    case 'text':
    case 'long-text': {
      const damage = findTextDamage(cell);
      if (!damage) return cell;
      const mended = 'mended' in damage ? damage.mended : undefined;
      problems.push({
        field,
        value: cell,
        kind: 'damage',
        says: wordDamage(damage, label),
        level: 'caution',
        ...(mended === undefined ? {} : { mended }),
      });
      return mended !== undefined && reading.acceptMended ? mended : cell;
    }
  }
}

function readIdentifier(
  cell: string,
  field: string,
  label: string,
  reading: ImportReading,
  held: HeldProduct | undefined,
  problems: Problem[],
): Value | undefined {
  const damage = findIdentifierDamage(cell);
  if (damage) {
    const own = held?.[field];
    const mended =
      'mended' in damage
        ? damage.mended
        : damage.kind === 'scientific' && typeof own === 'string'
          ? findScientificOriginal(damage, [own])
          : undefined;
    problems.push({
      field,
      value: cell,
      kind: 'damage',
      says:
        wordDamage(damage, label) +
        (mended && damage.kind === 'scientific' ? ` ${mended} is what we hold for this SKU.` : ''),
      level: mended && reading.acceptMended ? 'caution' : 'blocker',
      ...(mended === undefined ? {} : { mended }),
    });
    return reading.acceptMended ? mended : undefined;
  }
  const digits = cell.replace(/[\s-]/g, '');
  if (parseIsbn(cell).ok || parseGtin(digits).ok) return digits.toUpperCase();
  const read = parseGtin(digits);
  const right = !read.ok && read.reason === 'wrong-check-digit' ? ` ${read.proposal} would be right.` : '';
  problems.push({
    field,
    value: cell,
    kind: 'not-read',
    says:
      !read.ok && read.reason === 'wrong-check-digit'
        ? `${label} ${cell} has a wrong check digit;${right}`
        : `${label} “${cell}” is not a barcode number.`,
    level: 'caution',
  });
  return cell;
}

const currencySign = /\p{Sc}/u;

/** A currency sign in a cell that is not ours; a number under it is no price of ours. */
const findForeignCurrency = (cell: string): string | undefined => {
  const sign = currencySign.exec(cell)?.[0].normalize('NFKC');
  return sign === undefined || sign === ownCurrency.sign ? undefined : sign;
};
