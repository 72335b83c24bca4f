// Where the headings of a sheet stand, in one row or in two, and what the other rows are.
import { type FieldBook, readHeading } from '../product';
import { commaLocale, pointLocale, readNumber } from '../quantity';
import { foldLoosely } from '../text';
import type { SheetNotes } from './notes';

// Old programs end a file with a mark of its own (U+001A), which no cell is.
export const isFilledCell = (c: string | undefined): boolean => c !== undefined && c.trim() !== '' && c !== '\u001a';
/** Names and samples are judged by their beginning: no column is called by more. */
export const longestName = 120;
/** Cells of a row that are tried as headings. */
const mostTried = 60;
export const begin = (text: string): string => text.slice(0, longestName);
export const looksNumeric = (c: string): boolean => readNumber(c, pointLocale).ok || readNumber(c, commaLocale).ok;

/** Row (from 0) that holds the column names: wide, of distinct words, over rows that look different. */
export function findHeaderRow(rows: readonly (readonly string[])[], fields: FieldBook): number {
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
    const tried = cells.slice(0, mostTried);
    const known = tried.filter((c) => c.length <= longestName && readHeading(c, fields)).length / tried.length;
    const score = words + distinct + 2 * known - i * 0.05;
    if (score > bestScore + 1e-9) {
      best = i;
      bestScore = score;
    }
  }
  return best;
}

/**
 * The last of the rows that hold the headings: where most of the next row goes down from them, it is one of them, with headings of its
 * own under a common one.
 */
export function findLastHeader(
  rows: readonly (readonly string[])[],
  first: number,
  notes: SheetNotes | undefined,
): number {
  let last = first;
  for (let row = rows[last + 1]; row; row = rows[last + 1]) {
    const filled = row.flatMap((c, i) => (isFilledCell(c) ? i : [])),
      down = notes?.merged.get(row);
    const own = filled.filter((i) => !down?.has(i));
    if (!down || own.length * 2 > filled.length || own.some((i) => looksNumeric(row![i]!))) break;
    last++;
  }
  return last;
}

/** Headings with the common one that they stand under: "EK, Preise in EUR". */
export function nameColumns(
  rows: readonly (readonly string[])[],
  headerRow: number,
  notes: SheetNotes | undefined,
): string[] {
  const header = [...(rows[headerRow] ?? [])],
    down = notes?.merged.get(rows[headerRow] ?? []),
    above = rows[headerRow - 1];
  if (!down || !above) return header;
  let common = '';
  return header.map((name, i) => {
    if (down.has(i)) common = '';
    else if (isFilledCell(above[i])) common = above[i]!.trim();
    return common !== '' && isFilledCell(name) ? `${name.trim()}, ${common}` : name;
  });
}

/** Where pages were put one under the other their headings stand between the items. A list of one column may hold its own name. */
export const saysHeadings = (row: readonly string[], header: readonly string[]): boolean =>
  header.length > 1 && row.length === header.length && row.every((c, i) => c.trim() === header[i]!.trim());

/** How rows of sums begin, in the languages that files of the trade often come in. Common practice, from memory. */
const sums =
  /^(?:(?:grand |sub-?|sum )?totals?|sums?|gesamt|gesamtsumme|(?:zwischen)?summen?|endsumme|summa|delsumma|totalt|total général|sous-total|totale|subtotale|totaal|suma|合計|小計|総計|المجموع|الإجمالي)[ .:]*$/u;

/** True for a row of sums: a word for it, and nothing beside but numbers. An item has a name, or another SKU. */
const saysSums = (row: readonly string[]): boolean => {
  const first = row.find(isFilledCell);
  // Nearly all rows begin with a code, which is seen at once.
  if (first === undefined || !sums.test(first.trim().toLowerCase())) return false;
  const others = row.slice(row.indexOf(first) + 1).filter(isFilledCell);
  return others.length > 0 && others.every((c) => looksNumeric(c.trim()));
};

/** What a row of the body is: an item, nothing at all, a sentence such as stands under a table, or sums of the rows over it. */
export function classifyRow(
  row: readonly string[],
  width: number,
  header: readonly string[] = [],
): 'item' | 'blank' | 'note' | 'header' | 'sums' {
  if (saysHeadings(row, header)) return 'header';
  const filled = row.filter(isFilledCell).length;
  if (filled === 0) return 'blank';
  if (saysSums(row)) return 'sums';
  return width >= 4 && filled === 1 && (row[0] ?? '').length > 24 ? 'note' : 'item';
}
