// What a field of ours can hold: one judgement for whatever wants to write it, a file, a cell or a paste. Faults are facts;
// their sentences are made where they are shown.
import type { Value } from '../listing/values';
import {
  canonicalNumber,
  getMinorUnits,
  isCalendarDay,
  judgeMoment,
  parseMeasure,
  readDate,
  toEdgeOfDay,
} from '../quantity';
import { countCharacters, findNearest, foldLoosely, isFormulaError, isWhole } from '../text';
import type { FieldBook, ProductField } from './fields';
import { partsField, readParts } from './parts';

/** The currency that our catalog keeps prices and costs in. */
export const ownCurrency = { code: 'GBP', sign: '£' } as const;

export const ownLimits = {
  skuCharacters: 60,
  /** Amounts are kept with up to nine places before the point. */
  money: 1e9,
  /** Places of a cost, which may be that of a piece of a thousand. A price has those of its currency. */
  costPlaces: 4,
  /** The largest whole number that is kept. */
  whole: 2_147_483_647,
  /** Names that many items share: brand, own category, part number. */
  nameCharacters: 200,
  titleCharacters: 2000,
  /** As much as a spreadsheet’s cell holds. */
  textCharacters: 32_767,
  listItems: 200,
  listItemCharacters: 5000,
} as const;

const names = new Set(['brand', 'category', 'mpn', 'gtin', 'parent_sku']);
const mostOf = (field: string): number =>
  field === 'sku'
    ? ownLimits.skuCharacters
    : names.has(field)
      ? ownLimits.nameCharacters
      : field === 'title'
        ? ownLimits.titleCharacters
        : ownLimits.textCharacters;

/** Why a value cannot stand in a field of ours. */
export type ValueFault =
  | { kind: 'zero-character' | 'half-character' | 'formula-error' }
  | { kind: 'not-a-price' | 'zero-price' | 'amount-too-large' }
  | { kind: 'too-many-places'; places: number; most: number }
  | { kind: 'not-whole' | 'whole-too-large' }
  | { kind: 'not-a-number' | 'not-a-day' | 'not-a-measure' | 'not-yes-or-no' }
  /** Not one of the values that the house takes here; the nearest that it takes. */
  | { kind: 'not-in-list'; near: string | null }
  | { kind: 'several'; count: number }
  | { kind: 'too-long'; length: number; most: number }
  | { kind: 'too-many-items'; count: number; most: number }
  | { kind: 'item-too-long'; item: string; length: number; most: number };

/** Places after the point that a field of money keeps: those of its currency. */
export const getMoneyPlaces = (field: ProductField): number =>
  field.key === 'cost' ? ownLimits.costPlaces : getMinorUnits(field.currency ?? ownCurrency.code);

/** The first thing that is wrong with a value for a field of ours; undefined where it can stand there. */
export function findValueFault(field: ProductField, value: Value): ValueFault | undefined {
  const { kind } = field;
  const items = typeof value === 'string' ? [value] : value;
  for (const text of items) {
    if (text.includes('\0')) return { kind: 'zero-character' };
    if (!isWhole(text)) return { kind: 'half-character' };
    if (isFormulaError(text)) return { kind: 'formula-error' };
  }
  if (kind === 'list') return findListFault(items) ?? findStranger(field, items);
  if (typeof value !== 'string') return { kind: 'several', count: items.length };
  return findTypeFault(field, value) ?? findLengthFault(value, mostOf(field.key)) ?? findStranger(field, items);
}

function findTypeFault(field: ProductField, text: string): ValueFault | undefined {
  switch (field.kind) {
    case 'money':
      return findMoneyFault(field, text);
    case 'integer':
      if (!/^\d+$/.test(text)) return { kind: 'not-whole' };
      return text.length > 10 || Number(text) > ownLimits.whole ? { kind: 'whole-too-large' } : undefined;
    case 'number':
      return canonicalNumber.test(text) ? undefined : { kind: 'not-a-number' };
    case 'date':
      // Days are kept as ISO; whoever takes them from a person reads them first.
      return (field.moment && judgeMoment(text) !== 'none') || readDate(text, 'day-first') === text
        ? undefined
        : { kind: 'not-a-day' };
    case 'measure':
      return parseMeasure(text) ? undefined : { kind: 'not-a-measure' };
    case 'yes-no':
      return text === 'yes' || text === 'no' ? undefined : { kind: 'not-yes-or-no' };
    default:
      return undefined;
  }
}

function findLengthFault(text: string, most: number): ValueFault | undefined {
  if (text.length <= most) return undefined;
  const length = countCharacters(text);
  return length > most ? { kind: 'too-long', length, most } : undefined;
}

function findMoneyFault(field: ProductField, text: string): ValueFault | undefined {
  if (!canonicalNumber.test(text) || text.startsWith('-')) return { kind: 'not-a-price' };
  if (Number(text) >= ownLimits.money) return { kind: 'amount-too-large' };
  if (Number(text) === 0 && field.key !== 'cost') return { kind: 'zero-price' };
  const places = (text.split('.')[1] ?? '').replace(/0+$/, '').length,
    most = getMoneyPlaces(field);
  return places > most ? { kind: 'too-many-places', places, most } : undefined;
}

/** The first item that a closed list of values has not. */
function findStranger({ values, words }: ProductField, items: readonly string[]): ValueFault | undefined {
  const stranger = values && items.find((i) => !values.includes(i));
  if (stranger === undefined) return undefined;
  const near = findNearest(stranger, values!, (v) => [words?.[v] ?? v], 1)[0]?.candidate;
  return { kind: 'not-in-list', near: near === undefined ? null : (words?.[near] ?? near) };
}

function findListFault(items: readonly string[]): ValueFault | undefined {
  if (items.length > ownLimits.listItems)
    return { kind: 'too-many-items', count: items.length, most: ownLimits.listItems };
  const long = items.find((i) => i.length > ownLimits.listItemCharacters);
  return long === undefined
    ? undefined
    : { kind: 'item-too-long', item: long.slice(0, 100), length: long.length, most: ownLimits.listItemCharacters };
}

/** Why a cell of an item cannot be changed to a value, whatever stands there now. */
export type CellFault =
  | ValueFault
  | { kind: 'not-changed-here' }
  | { kind: 'title-stays' }
  /** What is bought has a price, a number and stock; the row of a family is not bought. */
  | { kind: 'not-on-a-family' }
  /** A family, or a bundle, is in no family. */
  | { kind: 'in-no-family'; is: 'family' | 'bundle' }
  /** There is no family of that SKU. */
  | { kind: 'no-such-family'; sku: string }
  /** Only a family says by what its variants differ. */
  | { kind: 'not-a-family' }
  /** A family or a variant is no bundle. */
  | { kind: 'no-bundle'; is: string }
  | { kind: 'not-a-part'; entry: string }
  | { kind: 'part-twice' | 'no-such-item' | 'holds-itself'; sku: string }
  /** A part is sold by itself; what is a part of a bundle is none itself. */
  | { kind: 'part-is'; sku: string; is: 'family' | 'bundle' }
  | { kind: 'is-a-part'; of: string }
  /** A bundle has as many as its parts are there for. */
  | { kind: 'follows-parts' };

/**
 * A value as a field keeps it: a day as a moment where the field has moments, a measure without a unit is in the unit of the field, or in one that is `said` of it, such as
 * by the heading of its column; a word of a closed list is spelled as the list has it.
 */
export function toKept(field: ProductField, value: Value, said = field.unit): Value {
  if (typeof value !== 'string') return field.values ? value.map((v) => spell(field, v)) : value;
  if (field.moment && isCalendarDay(value)) return toEdgeOfDay(value, field.moment.timeZone, field.moment.edge);
  if (field.kind === 'measure' && said !== undefined) {
    const read = parseMeasure(value);
    return read && read.unit === undefined ? `${read.amount} ${said}` : value;
  }
  return spell(field, value);
}
const spell = ({ values, words }: ProductField, text: string): string => {
  if (!values || values.includes(text)) return text;
  const folded = foldLoosely(text);
  return values.find((v) => foldLoosely(v) === folded || (words && foldLoosely(words[v] ?? v) === folded)) ?? text;
};

/** False for what an item of this kind has none of its own of: a family is not sold, a bundle's stock follows from its parts. */
export const isHeldBy = ({ key, rows }: ProductField, item: { kind: string }): boolean =>
  !(rows === 'sellable' && item.kind === 'family') && !(key === 'stock' && item.kind === 'bundle');

/** The fields by which the variants of a family differ, kept and changed as if they were a value of its row. */
export const axesField = 'axes';
const findAxesFault = (fields: FieldBook, after: Value | null, item: { kind: string }): CellFault | undefined =>
  item.kind !== 'family'
    ? { kind: 'not-a-family' }
    : (after === null ? [] : [after].flat()).some((a) => !fields.axes.includes(a))
      ? { kind: 'not-changed-here' }
      : undefined;

function findPartsFault(after: Value | null, item: { kind: string }): CellFault | undefined {
  if (item.kind !== 'bundle' && item.kind !== 'single') return { kind: 'no-bundle', is: item.kind };
  const read = readParts(after);
  if (!read.ok) return { kind: 'not-a-part', entry: read.entry };
  const twice = read.parts.find((p, i) => read.parts.findIndex((q) => q.sku === p.sku) < i);
  return twice && { kind: 'part-twice', sku: twice.sku };
}

/** Judges a change of one cell of an item; `null` empties it. */
export function findCellFault(
  fields: FieldBook,
  field: string,
  after: Value | null,
  item: { kind: string },
): CellFault | undefined {
  if (field === axesField) return findAxesFault(fields, after, item);
  if (field === partsField) return findPartsFault(after, item);
  const known = fields.get(field);
  if (!known || field === 'sku') return { kind: 'not-changed-here' };
  if (field === 'parent_sku' && (item.kind === 'family' || item.kind === 'bundle'))
    return { kind: 'in-no-family', is: item.kind };
  if (after === null || after.length === 0)
    return field === 'title'
      ? { kind: 'title-stays' }
      : item.kind === 'bundle' && field === 'stock'
        ? { kind: 'follows-parts' }
        : undefined;
  if (!isHeldBy(known, item)) return { kind: item.kind === 'family' ? 'not-on-a-family' : 'follows-parts' };
  return findValueFault(known, after);
}
