// One sheet of a workbook as its part in the archive says it (ECMA-376 part 1, 18.3): written row by row, read back whole.
import { SaxesParser } from 'saxes';
import { nameColumn, sheetBounds } from './bounds';

/** A cell: a text, which no spreadsheet runs or changes, or a number in its own digits. */
export type SheetCell = string | { number: string };

/** Style of cells that stay text when somebody types over them; the packed workbook has it as its second. */
const textStyle = 1;

/** What stands before the rows; the header rows stay in sight. */
export const sheetHead = (heads: number): string =>
  `<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n` +
  `<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main">` +
  `<sheetViews><sheetView workbookViewId="0"><pane ySplit="${heads}" topLeftCell="A${heads + 1}" activePane="bottomLeft" state="frozen"/></sheetView></sheetViews>` +
  `<sheetFormatPr defaultColWidth="18" defaultRowHeight="15"/><sheetData>`;
export const sheetFoot = '</sheetData></worksheet>';

/** Names of columns that were needed so far. */
const names: string[] = [];

/** A row, counted from 1. Empty cells are not there. `styleAt` is that of texts in a column, from 0. */
export function writeSheetRow(
  row: number,
  cells: readonly SheetCell[],
  styleAt: (column: number) => number | undefined = () => textStyle,
): string {
  let text = `<row r="${row}">`;
  for (const [i, cell] of cells.entries()) {
    if (cell === '') continue;
    const at = `${(names[i] ??= nameColumn(i))}${row}`;
    const style = styleAt(i);
    text +=
      typeof cell === 'string'
        ? `<c r="${at}"${style === undefined ? '' : ` s="${style}"`} t="inlineStr"><is><t xml:space="preserve">${escapeCell(cell)}</t></is></c>`
        : `<c r="${at}"><v>${cell.number}</v></c>`;
  }
  return `${text}</row>`;
}

const escapes: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '\r': '_x000D_' };
/** A carriage return, and what reads as an escape, are escaped as ST_Xstring says (ECMA-376 part 1, 22.9.2.19). */
const escapeCell = (text: string): string =>
  // Most cells hold nothing of the kind.
  !/[&<>\r_]/.test(text)
    ? text
    : text.replace(/_(?=x[0-9A-Fa-f]{4}_)/g, '_x005F_').replace(/[&<>\r]/g, (c) => escapes[c]!);

/** A text as it was before it was escaped so. */
export const unescapeCell = (text: string): string =>
  text.includes('_x')
    ? text.replace(/_x([0-9A-Fa-f]{4})_/g, (_, code: string) => String.fromCharCode(parseInt(code, 16)))
    : text;

const rowWritten = /<row r="(\d{1,7})">/y;
const cellWritten =
  /<c r="([A-Z]{1,3})\d{1,7}"(?: s="\d+")?(?: t="inlineStr"><is><t xml:space="preserve">([^<]*)<\/t><\/is>|><v>([^<]*)<\/v>)<\/c>/y;
const unescapes: Readonly<Record<string, string>> = { '&amp;': '&', '&lt;': '<', '&gt;': '>' };
/** Characters that XML does not know, and an escape that is none of ours. */
const strange = /[^\t\n\r -\ufffd]|&(?!amp;|lt;|gt;)/;

/**
 * The same rows, letter by letter as `writeSheetRow` writes them, which takes a tenth of the time. False where anything stands
 * otherwise, with the rows before it given to `take` already.
 */
export function readAsWritten(text: string, take: (row: string[]) => void): boolean {
  const begin = '<sheetData>';
  let at = text.indexOf(begin) + begin.length,
    rows = 0;
  if (at < begin.length || !text.endsWith(sheetFoot) || strange.test(text)) return false;
  const end = text.length - sheetFoot.length;
  while (at < end) {
    rowWritten.lastIndex = at;
    const head = rowWritten.exec(text);
    if (!head) return false;
    at = rowWritten.lastIndex;
    for (; rows < Number(head[1]) - 1 && rows < sheetBounds.cells; rows++) take([]);
    const row: string[] = [];
    for (;;) {
      cellWritten.lastIndex = at;
      const cell = cellWritten.exec(text);
      if (!cell) break;
      at = cellWritten.lastIndex;
      const column = toColumn(cell[1]!),
        value = cell[2] ?? cell[3]!;
      while (row.length < column) row.push('');
      row[column] = unescapeCell(value.includes('&') ? value.replace(/&\w+;/g, (e) => unescapes[e]!) : value);
    }
    if (!text.startsWith('</row>', at)) return false;
    at += '</row>'.length;
    take(row);
    rows++;
  }
  return true;
}

/** Rows of a sheet as it was written here; undefined where it is none. */
export function readSheetText(text: string): string[][] | undefined {
  const rows: string[][] = [];
  return readAsWritten(text, (row) => void rows.push(row)) ? rows : parseSheet(text);
}

/** Rows of a sheet by a parser of XML. */
export function parseSheet(text: string): string[][] | undefined {
  const rows: string[][] = [];
  let row: string[] = [],
    column = 0,
    cell = '',
    isTaken = false,
    isSheet = false,
    fault = false;
  const parser = new SaxesParser();
  parser.on('error', () => {
    fault = true;
  });
  parser.on('opentag', ({ name, attributes }) => {
    if (name === 'worksheet') isSheet = true;
    if (name === 'row') {
      for (let at = Number(attributes['r']); rows.length < at - 1 && rows.length < sheetBounds.cells;) rows.push([]);
      row = [];
    }
    if (name === 'c') {
      column = toColumn(attributes['r'] ?? '');
      cell = '';
    }
    if (name === 't' || name === 'v') isTaken = true;
  });
  parser.on('text', (t) => {
    if (isTaken) cell += t;
  });
  parser.on('closetag', ({ name }) => {
    if (name === 't' || name === 'v') isTaken = false;
    if (name === 'c') {
      while (row.length < column) row.push('');
      row[column] = unescapeCell(cell);
    }
    if (name === 'row') rows.push(row);
  });
  try {
    parser.write(text).close();
  } catch {
    return undefined;
  }
  return fault || !isSheet ? undefined : rows;
}

/** Column of a reference such as AB12, from 0. */
function toColumn(reference: string): number {
  let n = 0;
  for (let i = 0; i < 3; i++) {
    const letter = reference.charCodeAt(i) - 64;
    if (!(letter >= 1 && letter <= 26)) break;
    n = n * 26 + letter;
  }
  return Math.max(0, n - 1);
}
