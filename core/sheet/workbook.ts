// Reading XLSX (ECMA-376) as a stream. Memory holds the shared strings, not the sheet.
import { propertiesPart } from './pack-workbook';
import { createBounds, nameColumn, SheetError, sheetBounds, tooManyColumns } from './bounds';
import { type ColumnChoice, createChoiceReader } from './choices';
import { writeCellNumber } from './cell-number';
import { fromSerialDate } from './serial-date';
import { contentPart, openDocument } from './open-document';
import { createMergeFiller, createMergeReader, type Merge } from './merges';
import type { SheetNotes } from './notes';
import { readProperties } from './properties';
import { createRowReader, type RowTaker } from './plain-rows';
import { createStringReader } from './plain-strings';
import { createFeed, createSax, cut, type PartTaker } from './zip-parts';

export type ByteSource = () => AsyncIterable<Uint8Array>;

/** A sheet as the workbook lists it; a hidden one is not shown by spreadsheet programs (ECMA-376 part 1, 18.18.68). */
export interface WorkbookSheet {
  name: string;
  hidden: boolean;
}
interface Parts {
  sheets: (WorkbookSheet & { path: string })[];
  strings: string[];
  dateStyles: Set<number>;
  /** Styles under which a number has so many places, with zeros before it. */
  paddedStyles: Map<number, number>;
  epoch1904: boolean;
  properties: Record<string, string>;
  /** What names of the workbook stand for, by small letters. */
  names: Map<string, string>;
}

async function inflate(source: ByteSource, want: PartTaker): Promise<string[]> {
  const names: string[] = [];
  const feed = createFeed((name) => {
    names.push(name);
    return want(name);
  });
  for await (const chunk of source()) for (const piece of cut(chunk)) feed(piece);
  feed(undefined);
  return names;
}

const builtInDates = new Set([14, 15, 16, 17, 18, 19, 20, 21, 22, 45, 46, 47]);
const isDateFormat = (code: string): boolean =>
  /[ymdhs]/i.test(code.replace(/"[^"]*"|\[[^\]]*\]|\\./g, '')) && !/general/i.test(code);

/** The parts beside the rows; undefined where the file is an OpenDocument. */
async function readParts(source: ByteSource): Promise<Parts | undefined> {
  const parts: Parts = {
    sheets: [],
    strings: [],
    dateStyles: new Set(),
    paddedStyles: new Map(),
    epoch1904: false,
    properties: {},
    names: new Map(),
  };
  const targets = new Map<string, string>();
  const sheets: (WorkbookSheet & { id: string })[] = [];
  const custom = new Map<number, string>();
  let styleIndex = 0,
    inCellXfs = false,
    called = '',
    shared = 0;
  const names = await inflate(source, (name) => {
    if (name === 'xl/workbook.xml')
      return createSax({
        text: (t) => {
          if (called !== '') parts.names.set(called, (parts.names.get(called) ?? '') + t);
        },
        close: (n) => {
          if (n === 'definedName') called = '';
        },
        open: (n, a) => {
          if (n === 'definedName') called = (a['name'] ?? '').toLowerCase();
          if (n === 'sheet')
            sheets.push({ name: a['name'] ?? '', id: a['r:id'] ?? '', hidden: (a['state'] ?? '').endsWith('idden') });
          if (n === 'workbookPr') parts.epoch1904 = a['date1904'] === '1' || a['date1904'] === 'true';
        },
      });
    if (name === propertiesPart) return readProperties(parts.properties);
    if (name === 'xl/_rels/workbook.xml.rels')
      return createSax({
        open: (n, a) => {
          if (n === 'Relationship') targets.set(a['Id'] ?? '', a['Target'] ?? '');
        },
      });
    if (name === 'xl/styles.xml')
      return createSax({
        open: (n, a) => {
          if (n === 'numFmt') custom.set(Number(a['numFmtId']), a['formatCode'] ?? '');
          if (n === 'cellXfs') inCellXfs = true;
          if (n === 'xf' && inCellXfs) {
            const id = Number(a['numFmtId']);
            const code = custom.get(id) ?? '';
            if (builtInDates.has(id) || isDateFormat(code)) parts.dateStyles.add(styleIndex);
            else if (allZeros.test(code)) parts.paddedStyles.set(styleIndex, code.length);
            styleIndex++;
          }
        },
        close: (n) => {
          if (n === 'cellXfs') inCellXfs = false;
        },
      });
    if (name === 'xl/sharedStrings.xml')
      return createStringReader((text) => {
        parts.strings.push(text);
        shared += text.length;
        if (shared > sheetBounds.sharedCharacters || parts.strings.length > sheetBounds.cells)
          throw new SheetError(
            'too-large-inside',
            `The texts of this workbook have more than ${sheetBounds.sharedCharacters.toLocaleString('en-GB')} characters together; it is not read.`,
            'Split it into several workbooks, or leave out columns that are not needed.',
          );
      });
    return undefined;
  });
  const isWorkbook = names.includes('xl/workbook.xml');
  if (!isWorkbook && names.includes(contentPart)) return undefined;
  if (!isWorkbook)
    throw new SheetError(
      'not-a-workbook',
      names.length
        ? 'This is a zip archive, not a workbook; take the file out of it and drop that.'
        : 'This looks like a zip archive but holds nothing that can be read; get the file again.',
    );
  parts.sheets = sheets.flatMap((s) => {
    const t = targets.get(s.id);
    return t ? [{ name: s.name, hidden: s.hidden, path: t.startsWith('/') ? t.slice(1) : `xl/${t}` }] : [];
  });
  if (parts.sheets.length === 0) throw new SheetError('no-sheet', 'The workbook has no sheet.');
  return parts;
}

/** A format such as 00000, under which a number is shown with zeros before it: that is how its code is written. */
const allZeros = /^0{2,30}$/;
const padAs = (number: string, places: number | undefined): string =>
  places !== undefined && /^\d+$/.test(number) ? number.padStart(places, '0') : number;

/** Column of a reference such as AB12, from 0. */
const toColumn = (reference: string): number => {
  let n = 0;
  for (const c of reference) {
    const v = c.charCodeAt(0) - 64;
    if (v < 1 || v > 26) break;
    n = n * 26 + v;
    if (n > sheetBounds.columns) break;
  }
  return n - 1;
};

export interface Workbook {
  /** ECMA-376 (.xlsx), or OpenDocument (.ods). */
  kind: 'workbook' | 'open-document';
  sheets: readonly WorkbookSheet[];
  /**
   * Rows of a sheet (the first that is shown, or the named one), in batches as they are inflated; what else the sheet says of
   * them goes into `notes`.
   */
  rows: (sheetName?: string, notes?: SheetNotes) => AsyncGenerator<string[][]>;
  /** Custom properties of the document. */
  properties: Readonly<Record<string, string>>;
  /** The drop-downs of a sheet. */
  choices: (sheetName: string) => Promise<ColumnChoice[]>;
}

/** Opens a workbook: its sheets, texts and styles are read, its rows not yet. Throws `SheetError`. */
export async function openWorkbook(source: ByteSource): Promise<Workbook> {
  const parts = await readParts(source);
  if (!parts) return openDocument(source);
  return {
    kind: 'workbook',
    sheets: parts.sheets.map(({ name, hidden }) => ({ name, hidden })),
    properties: parts.properties,
    choices: async (name) => {
      const found: ColumnChoice[] = [];
      const path = parts.sheets.find((s) => s.name === name)?.path;
      await inflate(source, (part) =>
        part === path ? createChoiceReader(parts.names, (c) => void found.push(c)) : undefined,
      );
      return found;
    },
    rows: (name, notes) =>
      readRowsOf(
        source,
        parts,
        parts.sheets.find((s) => s.name === name) ?? parts.sheets.find((s) => !s.hidden) ?? parts.sheets[0]!,
        notes,
      ),
  };
}

/** Letters of a sheet that are gone through for them: a list that somebody laid out by hand has fewer. */
const mostLaidOut = 10_000_000;
/** Cells of a sheet that go down over several rows, by the row in which they begin; none of a very large one. */
async function readMerges(source: ByteSource, path: string): Promise<Map<number, Merge[]>> {
  const reader = createMergeReader(),
    byRow = new Map<number, Merge[]>();
  let length = 0,
    isOver = false;
  const feed = createFeed((part) =>
    part !== path
      ? undefined
      : (text, isLast) => {
          length += text.length;
          isOver = isLast || length > mostLaidOut;
          if (length <= mostLaidOut) reader.take(text);
        },
  );
  for await (const chunk of source()) {
    for (const piece of cut(chunk)) if (!isOver) feed(piece);
    if (isOver) break;
  }
  if (length > mostLaidOut) return byRow;
  for (const m of reader.list()) (byRow.get(m.from) ?? byRow.set(m.from, []).get(m.from)!).push(m);
  return byRow;
}

async function* readRowsOf(
  source: ByteSource,
  parts: Parts,
  sheet: Parts['sheets'][number],
  notes?: SheetNotes,
): AsyncGenerator<string[][]> {
  const bound = createBounds();
  const queue: string[][] = [];
  let row: string[] = [],
    column = -1,
    lastRow = 0;
  const noted: number[] = [];
  const toValue = (type: string, style: number, text: string): string => {
    if (text === '') return '';
    if (type === 's') return parts.strings[Number(text)] ?? '';
    if (type === 'b') return text === '1' ? 'TRUE' : 'FALSE';
    if (type !== '' && type !== 'n') return text;
    return parts.dateStyles.has(style)
      ? (fromSerialDate(Number(text), parts.epoch1904) ?? text)
      : padAs(writeCellNumber(text), parts.paddedStyles.get(style));
  };
  const to: RowTaker = {
    row: (r, isHidden) => {
      row = [];
      if (isHidden) notes?.hidden.add(row);
      column = -1;
      const at = Number(r ?? lastRow + 1);
      // Rows may be left out, never go back: what says so is read as the next one.
      if (at > lastRow + 1)
        for (let i = lastRow + 1; i < at; i++) {
          bound(0);
          queue.push([]);
        }
      lastRow = Math.max(lastRow + 1, Number.isFinite(at) ? at : 0);
    },
    cell: (reference, type, style, text) => {
      column = reference ? Math.max(toColumn(reference), 0) : column + 1;
      if (column >= sheetBounds.columns) throw tooManyColumns(lastRow, reference ?? nameColumn(column));
      const value = toValue(type ?? '', Number(style ?? -1), text);
      while (row.length < column) row.push('');
      row[column] = value;
      if (notes && value !== '' && (type === undefined || type === 'n') && !parts.dateStyles.has(Number(style ?? -1)))
        noted.push(column);
    },
    end: () => {
      if (filler) {
        const filled = filler.fill(lastRow, row, noted);
        if (filled.length > 0) notes?.merged.set(row, new Set(filled));
        for (const m of merges.get(lastRow) ?? []) filler.open(m, row[m.column] ?? '', noted.includes(m.column));
      }
      bound(row.length);
      if (noted.length > 0) notes?.numbers.set(row, new Set(noted.splice(0)));
      queue.push(row);
    },
  };
  // Only who asks what a sheet says beside its cells has it gone through twice.
  const merges = notes ? await readMerges(source, sheet.path) : new Map<number, Merge[]>();
  const filler = merges.size > 0 ? createMergeFiller() : undefined;
  const take = createRowReader(to);
  // The inflater pushes, the reader pulls: bytes are handed over one source chunk at a time, so that little waits in the queue.
  let found = false;
  const bytes = source()[Symbol.asyncIterator]();
  const feed = createFeed((name) => (name === sheet.path ? ((found = true), take) : undefined));
  for (;;) {
    const next = await bytes.next();
    if (next.done) {
      feed(undefined);
      if (queue.length) yield queue.splice(0);
      break;
    }
    for (const piece of cut(next.value)) {
      feed(piece);
      if (queue.length) yield queue.splice(0);
    }
  }
  if (!found) throw new SheetError('no-sheet', `The workbook lists a sheet “${sheet.name}” that is not in it.`);
}
