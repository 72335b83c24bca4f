// Delimited text (RFC 4180 and its relatives) read by papaparse's parser, pushed chunk by chunk.
// The parser is given decoded text only: fed raw bytes it breaks characters that fall on a chunk edge.
import Papa from 'papaparse';
import { createBounds, SheetError } from './bounds';

export type Delimiter = '\t' | ';' | ',' | '|';
export const delimiters: readonly Delimiter[] = ['\t', ';', ',', '|'];
export const delimiterNames: Readonly<Record<Delimiter, string>> = {
  '\t': 'tab',
  ';': 'semicolon',
  ',': 'comma',
  '|': 'pipe',
};

interface PushParser {
  parse: (input: string, baseIndex: number, ignoreLastRow: boolean) => { data: string[][]; meta: { cursor: number } };
}
const PapaParser = (Papa as unknown as { Parser: new (config: { delimiter: string; newline: string }) => PushParser })
  .Parser;

/** A quote left open swallows the file; past this many characters without a row it is refused. */
const longestRow = 8_000_000;
/** Characters by which the line ends of a file are judged. */
const judgedBy = 65_536;

/**
 * Reads rows from text pushed in pieces. A row ends at LF or CR LF, however they are mixed, or at CR where the file has no
 * LF at its beginning; what stands between quotes stays as it is (RFC 4180, 2.6). Throws `SheetError` past the bounds of a
 * sheet, and where a quote was opened and never closed.
 */
export function createRowReader(delimiter: Delimiter): {
  push: (text: string) => string[][];
  end: () => string[][];
} {
  const bound = createBounds();
  let rest = '',
    rows = 0,
    endsInCr: boolean | undefined;
  /** Line ends are judged once so much is there; until then the text waits. */
  const isJudged = (text: string, isLast: boolean): boolean => {
    if (endsInCr === undefined && (isLast || text.length >= judgedBy))
      endsInCr = text.includes('\r') && !text.includes('\n');
    return endsInCr !== undefined;
  };
  const read = (text: string, isLast: boolean): string[][] => {
    const wasJudged = endsInCr !== undefined;
    rest = rest === '' ? text : rest + (endsInCr ? text.replaceAll('\r', '\n') : text);
    if (rest === '' || !isJudged(rest, isLast)) return [];
    if (endsInCr && !wasJudged) rest = rest.replaceAll('\r', '\n');
    const { data, meta } = new PapaParser({ delimiter, newline: '\n' }).parse(rest, 0, !isLast);
    rest = isLast ? '' : rest.slice(meta.cursor);
    if (isLast && data.length > 0 && data.at(-1)!.length === 1 && data.at(-1)![0] === '') data.pop();
    for (const row of data) {
      bound(row.length);
      const last = row.length - 1;
      if (row[last]?.endsWith('\r')) row[last] = row[last]!.slice(0, -1);
    }
    rows += data.length;
    if (rest.length > longestRow)
      throw new SheetError(
        'open-quote',
        `Row ${(rows + 1).toLocaleString('en-GB')} goes on for millions of characters; a quotation mark was opened in it and never closed.`,
        'Look at that row, close the quotation mark, and drop the file again.',
      );
    return data;
  };
  return { push: (text) => read(text, false), end: () => read('', true) };
}

/** All rows of a text at once; for samples and tests. */
export function readRows(text: string, delimiter: Delimiter): string[][] {
  const reader = createRowReader(delimiter);
  return [...reader.push(text), ...reader.end()];
}

/**
 * The delimiter under which a sample falls into the most columns with the most rows agreeing.
 * `sure` is false where no candidate divides it.
 */
export function detectDelimiter(sample: string): { delimiter: Delimiter; sure: boolean } {
  const unified = sample.includes('\n') ? sample : sample.replaceAll('\r', '\n');
  let best: Delimiter = ',',
    bestScore = 0;
  for (const delimiter of delimiters) {
    const rows = new PapaParser({ delimiter, newline: '\n' })
      .parse(unified, 0, false)
      .data.slice(0, 60)
      .filter((r) => r.some((c) => c !== ''));
    const widths = new Map<number, number>();
    for (const r of rows) widths.set(r.length, (widths.get(r.length) ?? 0) + 1);
    let score = 0;
    for (const [width, count] of widths)
      if (width > 1) score = Math.max(score, (count / rows.length) * Math.log2(width + 1));
    if (score > bestScore) {
      best = delimiter;
      bestScore = score;
    }
  }
  return { delimiter: best, sure: bestScore > 0 };
}

/**
 * A prepared quoter for one delimiter: a cell as it stands in the file. Quotes are put where RFC 4180 asks for them, and
 * around edges of space, which many readers trim. For machines only: nothing is guarded against a spreadsheet.
 */
export function createQuoter(delimiter: Delimiter): (cell: string) => string {
  const needsQuotes = new RegExp(`["\\r\\n\\ufeff\\${delimiter}]|^ | $`);
  return (cell) => (needsQuotes.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);
}

/**
 * Cells that a spreadsheet would run as a formula (OWASP, CSV Injection): the signs at the beginning, also in full width,
 * also after spaces, line breaks and marks that are not seen. A plain number is none.
 */
const runsAsFormula = /^[\s\ufeff\u200b-\u200f\u2060]*(?:[=@\uff1d\uff0b\uff0d\uff20]|[+-](?!\d+(?:\.\d+)?$))/;

/** Text of rows as RFC 4180 writes it. `forPeople` guards against cells that a spreadsheet would run (OWASP, CSV Injection). */
export function writeRows(
  rows: readonly (readonly string[])[],
  options: { delimiter: Delimiter; newline: '\r\n' | '\n'; forPeople: boolean },
): string {
  if (rows.length === 0) return '';
  return (
    Papa.unparse(rows as string[][], {
      delimiter: options.delimiter,
      newline: options.newline,
      escapeFormulae: options.forPeople ? runsAsFormula : false,
    }) + options.newline
  );
}

const lineOf = (row: readonly string[]): string => row[0] ?? '';
const isBlankRow = (row: readonly string[]): boolean => row.every((c) => c.trim() === '');
/**
 * The delimiter of a file whose lines stand between quotation marks as wholes (`"SKU,Title"`), which a program has read as one
 * column and saved again; undefined where a file is none.
 */
export function findWrapped(rows: readonly (readonly string[])[]): Delimiter | undefined {
  const lines = rows.filter((r) => !isBlankRow(r));
  if (lines.length < 2 || lines.some((r) => !isBlankRow(r.slice(1)))) return undefined;
  const { delimiter, sure } = detectDelimiter(lines.map(lineOf).join('\n'));
  if (!sure) return undefined;
  const widths = new Set(unwrapRows(lines, delimiter).map((r) => r.length));
  return widths.size === 1 && !widths.has(1) ? delimiter : undefined;
}

/** The rows that stand in the first cells of rows, as text. */
export const unwrapRows = (rows: readonly (readonly string[])[], delimiter: Delimiter): string[][] =>
  rows.map((r) => readRows(lineOf(r), delimiter)[0] ?? []);
