// From a sample of rows: where the header stands, what the columns are called, which fields of ours they hold and why.
import { parseGtin, parseIsbn } from '../identifiers';
import { canonicalNumber, commaLocale, detectNumberLocale, pointLocale, readNumber } from '../quantity';
import { computeLikeness, foldLoosely } from '../text';
import { type ProductField, productFields } from './fields';

export interface ColumnGuess {
  index: number;
  name: string;
  samples: string[];
  field: string | undefined;
  reason: string;
  confidence: number;
}
export interface SheetUnderstanding {
  headerRow: number;
  columns: ColumnGuess[];
  decimalSign: '.' | ',' | 'undetermined';
  titleLines: string[];
}

const isFilledCell = (c: string | undefined): boolean => c !== undefined && c.trim() !== '';
/** Names and samples are judged by their beginning: no column is called by more. */
const longestName = 120;
const begin = (text: string): string => text.slice(0, longestName);
const knownNames = new Set(productFields.flatMap((f) => f.names));
const looksNumeric = (c: string): boolean => readNumber(c, pointLocale).ok || readNumber(c, commaLocale).ok;

/** Row (from 0) that holds the column names: wide, of distinct words, over rows that look different. */
export function findHeaderRow(rows: readonly (readonly string[])[]): number {
  const widths = rows.map((r) => r.filter(isFilledCell).length);
  const usual = [...widths].sort((a, b) => a - b)[Math.floor(widths.length / 2)] ?? 0;
  let best = 0,
    bestScore = -1;
  for (let i = 0; i < Math.min(rows.length, 15); i++) {
    const cells = rows[i]!.filter(isFilledCell);
    if (cells.length < Math.max(1, usual * 0.6)) continue;
    const words = cells.filter((c) => !looksNumeric(c) && c.length <= 60).length / cells.length;
    const folded = cells.map((c) => foldLoosely(begin(c)));
    const distinct = new Set(folded).size / cells.length;
    const known = folded.filter((c) => knownNames.has(c)).length / cells.length;
    const score = words + distinct + 2 * known - i * 0.05;
    if (score > bestScore + 1e-9) {
      best = i;
      bestScore = score;
    }
  }
  return best;
}

const byName = new Map<string, ProductField>();
for (const f of productFields)
  for (const n of [f.label, ...f.names]) if (!byName.has(foldLoosely(n))) byName.set(foldLoosely(n), f);

function guessField(
  whole: string,
  samples: readonly string[],
  isThorough: boolean,
): { field: ProductField; reason: string; confidence: number } | undefined {
  const name = begin(whole);
  const filled = samples.filter(isFilledCell).map(begin);
  const exactName = byName.get(foldLoosely(name));
  if (exactName) return { field: exactName, reason: `named “${name}”`, confidence: 1 };
  const numbers = filled.filter((s) => parseGtin(s).ok || parseIsbn(s).ok).length;
  if (filled.length >= 3 && numbers / filled.length > 0.6)
    return {
      field: productFields.find((f) => f.key === 'gtin')!,
      reason: `${numbers} of ${filled.length} samples are valid barcodes`,
      confidence: 0.95,
    };
  if (!isThorough || whole.length > longestName) return undefined;
  let best: { field: ProductField; reason: string; confidence: number } | undefined;
  for (const f of productFields)
    for (const n of [f.label, ...f.names]) {
      const likeness = computeLikeness(name, n);
      if (likeness > 0.66 && likeness > (best?.confidence ?? 0))
        best = { field: f, reason: `“${name}” is like “${n}”`, confidence: likeness };
    }
  if (!best) return undefined;
  const needsNumber = best.field.kind === 'money' || best.field.kind === 'integer' || best.field.kind === 'number';
  return needsNumber && filled.length > 0 && !filled.some(looksNumeric) ? undefined : best;
}

/** Columns that are compared with our names letter by letter; behind them only a name of ours is known. */
const mostThorough = 500;

/** Reads a sample of a sheet. Every guess comes with its reason, so that the person can judge it. */
export function understandSheet(
  rows: readonly (readonly string[])[],
  headerRow = findHeaderRow(rows),
): SheetUnderstanding {
  const header = rows[headerRow] ?? [];
  const body = rows.slice(headerRow + 1, headerRow + 200).filter((r) => r.some(isFilledCell));
  const width = Math.max(header.length, ...body.map((r) => r.length), 0);
  const guesses: ColumnGuess[] = [];
  for (let i = 0; i < width; i++) {
    const values = body.map((r) => r[i] ?? '');
    if (!isFilledCell(header[i]) && !values.some(isFilledCell)) continue; // trailing empty columns
    const samples = [...new Set(values.filter(isFilledCell))].slice(0, 5);
    const guess = isFilledCell(header[i])
      ? guessField(header[i]!.trim(), values.slice(0, 50), i < mostThorough)
      : undefined;
    guesses.push({
      index: i,
      name: (header[i] ?? '').trim() || `(column ${i + 1})`,
      samples,
      field: guess?.field.key,
      reason: guess?.reason ?? 'no field of ours is like it',
      confidence: guess?.confidence ?? 0,
    });
  }
  // A field is taken once: the surest column keeps it, the first where several are as sure.
  const taken = new Set<string>();
  for (const g of [...guesses].sort((a, b) => b.confidence - a.confidence || a.index - b.index)) {
    if (g.field === undefined) continue;
    if (taken.has(g.field)) {
      g.reason = `another column already holds ${g.field}`;
      g.field = undefined;
    } else taken.add(g.field);
  }
  const numeric = guesses.filter((g) => {
    const k = productFields.find((f) => f.key === g.field)?.kind;
    return k === 'money' || k === 'number';
  });
  const texts = numeric.flatMap((g) => body.map((r) => r[g.index] ?? '')).filter((t) => looksNumeric(t));
  const locale = detectNumberLocale(texts);
  const whole = texts.every((t) => canonicalNumber.test(t) && !t.includes('.'));
  return {
    headerRow,
    columns: guesses,
    titleLines: rows
      .slice(0, headerRow)
      .map((r) => r.filter(isFilledCell).join(' '))
      .filter((t) => t !== ''),
    decimalSign: locale === 'undetermined' ? (texts.length === 0 || whole ? '.' : 'undetermined') : locale.decimal,
  };
}

/** What a row of the body is: an item, nothing at all, or a sentence such as stands under a table. */
export function classifyRow(row: readonly string[], width: number): 'item' | 'blank' | 'note' {
  const filled = row.filter(isFilledCell).length;
  if (filled === 0) return 'blank';
  return width >= 4 && filled === 1 && (row[0] ?? '').length > 24 ? 'note' : 'item';
}
