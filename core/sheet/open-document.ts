// Reading OpenDocument spreadsheets (OASIS OpenDocument 1.3, part 3: chapter 9 tables, 19.385 value types) as a stream: the
// table that is wanted is told row by row, others are passed over.
import { createBounds, SheetError, sheetBounds, tooManyColumns, nameColumn } from './bounds';
import { join } from './properties';
import type { ByteSource, Workbook, WorkbookSheet } from './workbook';
import { writeCellNumber } from './cell-number';
import { createMergeFiller } from './merges';
import type { SheetNotes } from './notes';
import { type Attributes, createFeed, createSax, cut } from './zip-parts';

/** The part that holds the tables. */
export const contentPart = 'content.xml';

/** Texts of the document's own properties, by name (part 3, 4.3.3). */
function readUserProperties(into: Record<string, string>) {
  let name = '';
  return createSax({
    open: (n, a) => {
      if (n === 'user-defined') name = a['meta:name'] ?? '';
    },
    text: (t) => {
      if (name !== '') into[name] = join(into[name] ?? '', t);
    },
    close: (n) => {
      if (n === 'user-defined') name = '';
    },
  });
}

const times = (a: Attributes, of: 'rows' | 'columns'): number => {
  const n = Number(a[`table:number-${of}-repeated`] ?? 1);
  return Number.isInteger(n) && n > 0 ? n : 1;
};

const numberTypes: ReadonlySet<string> = new Set(['float', 'currency', 'percentage']);
/** A cell's value as it is kept, where it has one beside the text that is shown. */
function readValue(a: Attributes): string | undefined {
  switch (a['office:value-type']) {
    case 'float':
    case 'currency':
    case 'percentage':
      return writeCellNumber(a['office:value'] ?? '');
    case 'boolean':
      return a['office:boolean-value'] === 'true' ? 'TRUE' : 'FALSE';
    case 'date': {
      const [day = '', time = ''] = (a['office:date-value'] ?? '').split('T');
      return time === '' || time.startsWith('00:00:00') ? day : `${day} ${time.slice(0, 5)}`;
    }
    default:
      return a['office:string-value'];
  }
}

interface Cell {
  value: string | undefined;
  isNumber: boolean;
  text: string;
  paragraphs: number;
  times: number;
  /** Rows over which it goes down. */
  rows: number;
}

/** Tells the rows of one table, blank ones behind the last that holds something left out. */
function createTableReader(wanted: string, onRow: (cells: string[]) => void, notes?: SheetNotes) {
  const bound = createBounds();
  let depth = 0,
    isIn = false,
    row: string[] = [],
    column = 0,
    rowTimes = 1,
    blanks = 0,
    rows = 0,
    cell: Cell | undefined,
    inParagraph = false,
    note = 0;
  const noted: number[] = [],
    filler = notes && createMergeFiller();
  let begun: { column: number; rows: number }[] = [];
  const put = () => {
    const { value, isNumber, text, times: n } = cell!;
    const said = value ?? text;
    if (said !== '') {
      if (column + n > sheetBounds.columns) throw tooManyColumns(rows + 1, nameColumn(column + n - 1));
      while (row.length < column) row.push('');
      for (let i = 0; i < n; i++) {
        if (notes && isNumber) noted.push(row.length);
        if (cell!.rows > 1) begun.push({ column: row.length, rows: cell!.rows });
        row.push(said);
      }
    }
    column += n;
  };
  const endRow = () => {
    const at = rows + blanks + 1,
      filled = filler?.fill(at, row, noted) ?? [];
    if (filled.length > 0) notes?.merged.set(row, new Set(filled));
    for (const { column: c, rows: n } of begun) filler?.open({ column: c, to: at + n - 1 }, row[c]!, noted.includes(c));
    begun = [];
    if (row.length === 0) {
      blanks += rowTimes;
      return;
    }
    for (; blanks > 0; blanks--) {
      bound(0);
      rows++;
      onRow([]);
    }
    if (noted.length > 0) notes?.numbers.set(row, new Set(noted.splice(0)));
    for (let i = 0; i < rowTimes; i++) {
      bound(row.length);
      rows++;
      onRow(row);
    }
  };
  const say = (t: string) => {
    if (cell && inParagraph && note === 0) cell.text = join(cell.text, t);
  };
  return createSax({
    open: (n, a) => {
      if (n === 'table') {
        depth++;
        if (depth === 1) isIn = a['table:name'] === wanted;
      }
      if (!isIn || depth !== 1) return;
      if (n === 'table-row') {
        row = [];
        if (a['table:visibility'] === 'filter' || a['table:visibility'] === 'collapse') notes?.hidden.add(row);
        column = 0;
        rowTimes = times(a, 'rows');
      } else if (n === 'table-cell' || n === 'covered-table-cell')
        cell = {
          value: readValue(a),
          isNumber: numberTypes.has(a['office:value-type'] ?? ''),
          text: '',
          paragraphs: 0,
          times: times(a, 'columns'),
          rows: Number(a['table:number-rows-spanned'] ?? 1),
        };
      else if (n === 'annotation') note++;
      else if (n === 'p' && cell && note === 0) {
        if (cell.paragraphs++ > 0) cell.text = join(cell.text, '\n');
        inParagraph = true;
      } else if (n === 's') say(' '.repeat(Math.min(Number(a['text:c'] ?? 1) || 1, sheetBounds.cellCharacters)));
      else if (n === 'tab') say('\t');
      else if (n === 'line-break') say('\n');
    },
    text: (t) => {
      say(t.replace(/[\t\r\n ]+/g, ' '));
    },
    close: (n) => {
      if (n === 'table') {
        if (depth === 1) isIn = false;
        depth--;
      }
      if (!isIn || depth !== 1) return;
      if (n === 'annotation') note--;
      else if (n === 'p' && note === 0) inParagraph = false;
      else if (n === 'table-cell' || n === 'covered-table-cell') {
        put();
        cell = undefined;
      } else if (n === 'table-row') endRow();
    },
  });
}

async function* readRowsOf(source: ByteSource, table: string, notes?: SheetNotes): AsyncGenerator<string[][]> {
  const queue: string[][] = [];
  const feed = createFeed((name) =>
    name === contentPart ? createTableReader(table, (cells) => void queue.push(cells), notes) : undefined,
  );
  for await (const chunk of source())
    for (const piece of cut(chunk)) {
      feed(piece);
      if (queue.length) yield queue.splice(0);
    }
  feed(undefined);
  if (queue.length) yield queue.splice(0);
}

/** Opens an OpenDocument spreadsheet: its tables are listed, their rows not yet read. Throws `SheetError`. */
export async function openDocument(source: ByteSource): Promise<Workbook> {
  const sheets: WorkbookSheet[] = [],
    properties: Record<string, string> = {},
    hidden = new Set<string>();
  let depth = 0,
    style = '',
    isSpreadsheet = false;
  const list = createSax({
    open: (n, a) => {
      if (n === 'style') style = a['style:name'] ?? '';
      // A style stands before what has it.
      if (n === 'table-properties' && a['table:display'] === 'false') hidden.add(style);
      if (n === 'spreadsheet') isSpreadsheet = true;
      if (n === 'table' && depth++ === 0)
        sheets.push({ name: a['table:name'] ?? '', hidden: hidden.has(a['table:style-name'] ?? '') });
    },
    close: (n) => {
      if (n === 'table') depth--;
    },
  });
  const feed = createFeed((name) =>
    name === contentPart ? list : name === 'meta.xml' ? readUserProperties(properties) : undefined,
  );
  for await (const chunk of source()) for (const piece of cut(chunk)) feed(piece);
  feed(undefined);
  if (!isSpreadsheet)
    throw new SheetError(
      'not-a-workbook',
      'This is a document, not a spreadsheet.',
      'Save its table as .xlsx, .ods or CSV.',
    );
  const first = sheets.find((s) => !s.hidden) ?? sheets[0];
  if (!first) throw new SheetError('no-sheet', 'The workbook has no sheet.');
  return {
    kind: 'open-document',
    sheets,
    properties,
    // Lists of its drop-downs are read of templates only, and these are filled as .xlsx.
    choices: () => Promise.resolve([]),
    rows: (name, notes) => readRowsOf(source, (sheets.find((s) => s.name === name) ?? first).name, notes),
  };
}
