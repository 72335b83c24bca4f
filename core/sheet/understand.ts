// From a sample of rows: where the header stands, what the columns are called, which fields of ours they hold and why.
import { parseGtin, parseIsbn } from '../identifiers';
import {
  canonicalNumber,
  commaLocale,
  type DateOrder,
  detectDateOrder,
  detectNumberLocale,
  isReadEitherWay,
  pointLocale,
  readMeasures,
} from '../quantity';
import { type FieldBook, canBeForeign, readForeignMoney, readHeading, readSizesHeading } from '../product';
import { findNamedCurrency } from './foreign-money';
import {
  begin,
  findHeaderRow,
  findLastHeader,
  isFilledCell,
  longestName,
  looksNumeric,
  nameColumns,
  saysHeadings,
} from './header-row';
import { guessListSeparator } from './list-items';
import { computeLikeness } from '../text';
import { figuresOf, type SheetNotes } from './notes';

/**
 * Why a column fills a field, or none: our own `name` of it, `words` of its heading, its `values`, letters `like` our name,
 * the `only-price` there is; a field that another column has `taken`, `none` that fits.
 */
export const guessReasons = ['name', 'words', 'values', 'like', 'only-price', 'taken', 'none'] as const;
export type GuessReason = (typeof guessReasons)[number];

export interface ColumnGuess {
  index: number;
  name: string;
  samples: string[];
  field: string | undefined;
  /** The fields that several measures in each cell fill, the first of them `field`. */
  parts?: string[];
  /** The currency of its amounts, where it fills a field of the house's money with others. */
  currency?: string;
  why: GuessReason;
  confidence: number;
}
interface Guess {
  field: string;
  why: GuessReason;
  confidence: number;
}
export interface SheetUnderstanding {
  /** From 0; -1 where there are no headings. */
  headerRow: number;
  columns: ColumnGuess[];
  decimalSign: '.' | ',' | 'undetermined';
  /** What divides the entries of lists within a cell. */
  listSeparator: string;
  /** The day first, where both orders read every date. */
  dateOrder: DateOrder;
  titleLines: string[];
}

/** Likeness of letters from which a heading is taken for a mistyped label of ours. */
const leastLikeness = 0.8;
/** Samples that must be filled before values speak for a field, and the share of them that must. */
const fewestSamples = 3,
  leastShare = 0.6;

function guessField(
  whole: string,
  samples: readonly string[],
  isRead: boolean,
  isThorough: boolean,
  fields: FieldBook,
): Guess | undefined {
  const name = begin(whole);
  const filled = samples.filter(isFilledCell).map(begin);
  const read = whole.length > longestName || !isRead ? undefined : readHeading(name, fields);
  const guess: Guess | undefined = read && {
    field: read.field,
    why: read.confidence === 1 ? 'name' : 'words',
    confidence: read.confidence,
  };
  // An article is called so in a column of names as often as in one of codes.
  if (guess?.why === 'words' && guess.field === 'sku' && areNames(filled))
    return { ...guess, field: 'title', confidence: 0.5 };
  if (guess) return guess.why === 'name' || isPossible(fields, guess.field, filled) ? guess : undefined;
  const numbers = filled.filter((s) => parseGtin(s).ok || parseIsbn(s).ok).length;
  if (filled.length >= fewestSamples && numbers / filled.length > leastShare)
    return { field: 'gtin', why: 'values', confidence: 0.6 };
  if (!isThorough || whole.length > longestName) return undefined;
  let best: Guess | undefined;
  for (const f of fields.all) {
    if (f.kind === 'money') continue;
    const confidence = computeLikeness(name, f.label);
    if (confidence > leastLikeness && confidence > (best?.confidence ?? 0))
      best = { field: f.key, why: 'like', confidence: confidence / 2 };
  }
  return best && isPossible(fields, best.field, filled) ? best : undefined;
}

/** What a column fills, with the currency where its heading or its cells name one that the house has no field for. */
function guessMoney(
  name: string,
  values: readonly string[],
  guess: Guess | undefined,
  fields: FieldBook,
): Pick<ColumnGuess, 'field' | 'why' | 'confidence' | 'currency'> {
  const foreign = guess || name.length > longestName ? undefined : readForeignMoney(name, fields);
  if (foreign)
    return { field: foreign.field, why: 'words', confidence: foreign.confidence, currency: foreign.currency };
  const field = guess && fields.get(guess.field);
  const named = field?.kind === 'money' ? findNamedCurrency(values.filter(isFilledCell).map(begin)) : undefined;
  return {
    field: guess?.field,
    why: guess?.why ?? 'none',
    confidence: guess?.confidence ?? 0,
    ...(named !== undefined && canBeForeign(field!, named, fields) ? { currency: named } : {}),
  };
}

/** The fields of a column whose cells hold three measures each. */
function guessSizes(name: string, values: readonly string[], fields: FieldBook): string[] | undefined {
  const parts = name.length > longestName ? undefined : readSizesHeading(name, fields);
  if (!parts) return undefined;
  const filled = values.slice(0, 50).filter(isFilledCell).map(begin);
  const sizes = filled.filter((t) =>
    [pointLocale, commaLocale].some((l) => readMeasures(t, l)?.length === parts.length),
  );
  return sizes.length > 0 && sizes.length / filled.length > leastShare ? parts : undefined;
}

/** Most are several words. */
const areNames = (filled: readonly string[]): boolean =>
  filled.length > 0 && filled.filter((t) => /\p{L}\s+\S*\p{L}/u.test(t)).length / filled.length > leastShare;

/** A column of words is no column of numbers, whatever it is called. */
function isPossible(fields: FieldBook, field: string, filled: readonly string[]): boolean {
  const kind = fields.get(field)?.kind;
  const needsNumber = kind === 'money' || kind === 'integer' || kind === 'number';
  return !needsNumber || filled.length === 0 || filled.some(looksNumeric);
}

/** Columns whose headings are read, and those that are compared with our names letter by letter as well. */
const mostRead = 3000,
  mostThorough = 500;

/** Reads a sample of a sheet. Every guess comes with its reason, so that the person can judge it. */
export function understandSheet(
  rows: readonly (readonly string[])[],
  fields: FieldBook,
  given?: number,
  notes?: SheetNotes,
): SheetUnderstanding {
  const headerRow = given ?? findLastHeader(rows, findHeaderRow(rows, fields), notes),
    header = nameColumns(rows, headerRow, notes),
    written = rows[headerRow] ?? [];
  const body = rows
    .slice(headerRow + 1, headerRow + 200)
    .filter((r) => r.some(isFilledCell) && !saysHeadings(r, written));
  const width = Math.max(header.length, ...body.map((r) => r.length), 0);
  const guesses: ColumnGuess[] = [];
  for (let i = 0; i < width; i++) {
    const values = body.map((r) => r[i] ?? '');
    if (!isFilledCell(header[i]) && !values.some(isFilledCell)) continue; // trailing empty columns
    const samples = [...new Set(values.filter(isFilledCell))].slice(0, 5);
    const isNamed = isFilledCell(header[i]);
    // Without a heading a column tells what it is by its values alone.
    const guess =
      isNamed || headerRow < 0
        ? guessField(
            (header[i] ?? '').trim(),
            values.slice(0, 50),
            isNamed && i < mostRead,
            isNamed && i < mostThorough,
            fields,
          )
        : undefined;
    const parts = guess?.why === 'name' ? undefined : guessSizes((header[i] ?? '').trim(), values, fields);
    guesses.push({
      index: i,
      // A mark of the encoding that was read in another is no part of the name.
      name: (header[i] ?? '').replace(/^(?:ï»¿|\ufeff)/, '').trim() || `(column ${i + 1})`,
      samples,
      ...(parts
        ? { field: parts[0], parts, why: 'words', confidence: 0.7 }
        : {
            ...guessMoney((header[i] ?? '').trim(), values, guess, fields),
          }),
    });
  }
  settleTwins(fields, guesses);
  const kindOf = (field: string | undefined) => (field === undefined ? undefined : fields.get(field)?.kind);
  // What a sheet holds as numbers says nothing of how its texts are written.
  const textsOf = (...kinds: string[]): string[] =>
    guesses
      .filter((g) => kinds.includes(kindOf(g.field) ?? ''))
      .flatMap((g) => body.flatMap((r) => (notes?.numbers.get(r)?.has(g.index) ? [] : (r[g.index] ?? ''))));
  const texts = [
    ...textsOf('money', 'number').filter(looksNumeric),
    // Weights and sizes often have three places: only those that can be read in one way tell anything.
    ...textsOf('measure').flatMap((t) => {
      const figures = figuresOf(t);
      return looksNumeric(figures) && !isReadEitherWay(figures) ? figures : [];
    }),
  ];
  const dated = guesses.filter((g) => kindOf(g.field) === 'date');
  const order = detectDateOrder(dated.flatMap((g) => body.map((r) => r[g.index] ?? '')));
  const locale = detectNumberLocale(texts);
  const whole = texts.every((t) => canonicalNumber.test(t) && !t.includes('.'));
  return {
    headerRow,
    listSeparator: guessListSeparator(
      guesses.filter((g) => kindOf(g.field) === 'list').flatMap((g) => body.map((r) => r[g.index] ?? '')),
    ),
    dateOrder: order === 'undetermined' ? 'day-first' : order,
    columns: guesses,
    titleLines: rows
      .slice(0, Math.max(0, headerRow))
      .map((r) => r.filter(isFilledCell).join(' '))
      .filter((t) => t !== ''),
    decimalSign: locale === 'undetermined' ? (texts.length === 0 || whole ? '.' : 'undetermined') : locale.decimal,
  };
}

/**
 * A field is taken once: the surest column keeps it, the first where several are as sure. A list takes as many columns as
 * are called by it. What a maker recommends is the price where the file has no other to sell at.
 */
function settleTwins(fields: FieldBook, guesses: ColumnGuess[]): void {
  const taken = new Set<string>();
  for (const g of [...guesses].sort((a, b) => b.confidence - a.confidence || a.index - b.index)) {
    if (g.field === undefined || fields.get(g.field)?.kind === 'list') continue;
    if ((g.parts ?? [g.field]).some((f) => taken.has(f))) {
      g.why = 'taken';
      g.field = undefined;
      delete g.parts;
      delete g.currency;
    } else for (const f of g.parts ?? [g.field]) taken.add(f);
  }
  const list = guesses.find((g) => g.field === 'fact.list_price');
  if (!list || taken.has('price')) return;
  // In a currency that we sell in it is the price there.
  const there = list.currency === undefined ? undefined : fields.get(`fact.price@${list.currency.toLowerCase()}`);
  if (there && taken.has(there.key)) return;
  list.field = there?.key ?? 'price';
  list.why = 'only-price';
  if (there) delete list.currency;
}
