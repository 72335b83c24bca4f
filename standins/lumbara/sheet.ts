// Files of the market: Shift_JIS, every cell in quotes.
import iconv from 'iconv-lite';
import Papa from 'papaparse';
import type { BookDocument, BookSlot, Cells } from './book';

export const readText = (text: string): string[][] =>
  Papa.parse<string[]>(text, { delimiter: ',', skipEmptyLines: true }).data;

/** Rows of a file; undefined where it is no text in the market's encoding. */
export function readSheet(bytes: Uint8Array): string[][] | undefined {
  try {
    return readText(new TextDecoder('shift_jis', { fatal: true }).decode(bytes));
  } catch {
    return undefined;
  }
}

export const writeSheet = (rows: readonly (readonly string[])[]): Buffer =>
  iconv.encode(`${Papa.unparse(rows as string[][], { quotes: true, newline: '\r\n' })}\r\n`, 'shift_jis');

/** Columns of a form in their order, those of each item one after the other. */
export function listColumns(book: BookDocument, form: string): string[] {
  const { slots, members } = book.forms.find((f) => f.key === form)!;
  const keys = (list: readonly BookSlot[], n: number): string[] => list.map((s) => s.key.replace('{n}', String(n)));
  return [
    ...keys(slots, 0),
    ...Array.from({ length: members?.most ?? 0 }, (_, i) => keys(members!.slots, i + 1)).flat(),
  ];
}

export const toCells = (columns: readonly string[], row: readonly string[]): Cells =>
  Object.fromEntries(columns.map((c, i) => [c, row[i] ?? '']));
