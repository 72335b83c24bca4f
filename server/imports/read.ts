// Opening an uploaded file as rows, whatever it is, always as a stream.
import { dropBroken, takeCharacters } from '@basileus/core/text';
import {
  type ColumnGuess,
  type SheetNotes,
  type SheetUnderstanding,
  readSku,
  createRowReader,
  createSheetNotes,
  openFormulaText,
  createEncodingJudge,
  createTextDecoder,
  chooseKnownBy,
  type Delimiter,
  detectDelimiter,
  findWrapped,
  unwrapRows,
  type Encoding,
  type FileKind,
  markProperty,
  openWorkbook,
  readRows,
  sniffFile,
  SheetError,
  understandSheet,
} from '@basileus/core/sheet';
import type { ImportReadingShape, ImportShape } from '@basileus/contract';
import { type Db, rowOf } from '../database';
import { loadFields } from '../fields';
import { openFile } from '../files';
import { AppError } from '../http';
import { loadRates } from '../markets';
import { chooseSheet, listAlike, readSheets, sampleRows, takeRows } from './sheets';

const sampleBytes = 256 * 1024,
  longestSample = 16_000_000,
  fewestSampled = 20;

const unreadable = (name: string, says: string, remedy: string): AppError =>
  new AppError('unreadable-file', `“${name}” ${says}`, { field: 'file', remedy });

/** Bytes from the beginning of a file, at most `most`. */
async function readHead(db: Db, fileId: number, most: number): Promise<Uint8Array> {
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of openFile(db, fileId)()) {
    chunks.push(chunk);
    size += chunk.length;
    if (size >= most) break;
  }
  return Buffer.concat(chunks).subarray(0, most);
}

export interface Understood {
  kind: 'text' | 'workbook';
  sheets: ImportShape['sheets'];
  sample: string[][];
  titleLines: string[];
  reading: ImportReadingShape;
  /** What a workbook of ours that went out is known by. */
  mark: string | null;
}

/** Judges a file and reads a sample; refuses what is not a table with a sentence that says what it is. */
export async function understandFile(db: Db, fileId: number, name: string): Promise<Understood> {
  const head = await readHead(db, fileId, sampleBytes);
  const kind: FileKind = sniffFile(head);
  if (kind.kind === 'empty') throw unreadable(name, 'is empty.', 'Export it again and look whether it holds rows.');
  if (kind.kind === 'binary')
    throw unreadable(
      name,
      `is ${kind.looksLike}; rows are read from text files (CSV, tab-delimited) and from .xlsx and .ods workbooks.`,
      'Save it as CSV, .xlsx or .ods and drop that.',
    );
  const base = {
    mode: 'both' as const,
    blankClears: false,
    acceptMended: true,
    sheet: null,
    alsoSheets: [],
    hiddenRows: 'read' as const,
    wrapped: false,
    knownBy: 'sku' as const,
    makesSkus: false,
    asTwins: false,
    replacements: [],
  };
  try {
    if (kind.kind === 'workbook') {
      const workbook = await openWorkbook(openFile(db, fileId));
      const notes = createSheetNotes(),
        { sheet, sample } = await chooseSheet(db, workbook, notes);
      const read = { ...base, encoding: 'utf-8', delimiter: ',', sheet } as const;
      const found = await finish(db, 'workbook', [], sample, read, name, notes);
      return {
        ...found,
        sheets: await listAlike(workbook, sheet, sample[found.reading.headerRow]),
        mark: workbook.properties[markProperty] ?? null,
      };
    }
    const encoding = kind.mark || kind.encoding.startsWith('utf-16') ? kind.encoding : await judgeEncoding(db, fileId);
    const { rows, delimiter, wrapped } = await sampleText(db, fileId, encoding);
    return await finish(db, 'text', [], rows, { ...base, encoding, delimiter, wrapped }, name);
  } catch (error) {
    if (error instanceof SheetError) throw unreadable(name, `cannot be read: ${error.message}`, error.remedy);
    throw error;
  }
}

/** The first whole rows of a text: more of it is read where its rows are long. */
async function sampleText(
  db: Db,
  fileId: number,
  encoding: Encoding,
): Promise<{ rows: string[][]; delimiter: Delimiter; wrapped: boolean }> {
  for (let most = sampleBytes; ; most *= 8) {
    const head = await readHead(db, fileId, most);
    const text = createTextDecoder(encoding)
      .push(head)
      .replace(/^\ufeff/, '');
    const { delimiter } = detectDelimiter(text.slice(0, sampleBytes));
    const isWhole = head.length < most,
      rows = openTexts(readRows(text, delimiter));
    // Where the file goes on, the last row was cut.
    if (!isWhole) rows.pop();
    if (isWhole || rows.length >= fewestSampled || most >= longestSample) {
      const sample = rows.slice(0, sampleRows),
        within = findWrapped(sample);
      return within === undefined
        ? { rows: sample, delimiter, wrapped: false }
        : { rows: unwrapRows(sample, within), delimiter: within, wrapped: true };
    }
  }
}

/** The first letter beyond ASCII may stand anywhere: the whole file is looked at. */
async function judgeEncoding(db: Db, fileId: number): Promise<Encoding> {
  const judge = createEncodingJudge();
  for await (const chunk of openFile(db, fileId)()) judge.push(chunk);
  return judge.judge();
}

async function finish(
  db: Db,
  kind: 'text' | 'workbook',
  sheets: Understood['sheets'],
  sample: string[][],
  part: Omit<ImportReadingShape, 'headerRow' | 'columns' | 'decimalSign' | 'dateOrder' | 'listSeparator'>,
  name: string,
  notes?: SheetNotes,
): Promise<Understood> {
  if (!sample.some((r) => r.some((c) => c.trim() !== '')))
    throw unreadable(name, 'holds no rows.', 'Export it again and look whether it holds rows.');
  const u = await understandSample(db, sample, notes),
    rates = await loadRatesByCode(db);
  const columns = u.columns.map((c) => toColumn(c, rates));
  if (sample.length <= u.headerRow + 1)
    throw unreadable(name, 'has a header but no rows under it.', 'Export it again with its rows.');
  return {
    kind,
    mark: null,
    sheets,
    sample: cutSample(sample),
    titleLines: u.titleLines,
    reading: {
      ...part,
      headerRow: u.headerRow,
      decimalSign: u.decimalSign,
      listSeparator: u.listSeparator,
      dateOrder: u.dateOrder,
      columns,
      knownBy: chooseKnownBy(columns),
    },
  };
}

/** A sample with its headings; where one of these is a SKU of ours there are none, and that column holds SKUs. */
async function understandSample(db: Db, sample: string[][], notes?: SheetNotes): Promise<SheetUnderstanding> {
  const fields = await loadFields(db);
  const u = understandSheet(sample, fields, undefined, notes);
  if (u.columns.some((c) => c.field === 'sku')) return u;
  const begin = sample[u.headerRow]!.map((c) => readSku(c));
  const { skus } = (await rowOf<{ skus: string[] | null }>(
    db,
    'select array_agg(sku) as skus from products where sku = any(?)',
    [begin.filter((c) => c !== '' && dropBroken(c) === c)],
  ))!;
  const index = begin.findIndex((c) => skus?.includes(c));
  if (index < 0) return u;
  const bare = understandSheet(sample.slice(u.headerRow), fields, -1, notes);
  return {
    ...bare,
    headerRow: u.headerRow - 1,
    titleLines: u.titleLines,
    columns: bare.columns.map((c) => (c.index === index ? { ...c, field: 'sku', why: 'values' } : c)),
  };
}

/** What is shown of a file's beginning. */
const cutSample = (rows: string[][]): string[][] =>
  rows.slice(0, 30).map((r) => r.slice(0, 60).map((c) => dropBroken(takeCharacters(c, 200))));

const toColumn = (c: ColumnGuess, rates: ReadonlyMap<string, string>): ImportReadingShape['columns'][number] => ({
  index: c.index,
  name: dropBroken(takeCharacters(c.name, 200)),
  samples: c.samples.map((t) => dropBroken(takeCharacters(t, 200))),
  ...toFilled(c, c.currency === undefined ? undefined : rates.get(c.currency)),
});

/** What a column fills; nothing where its heading says that it is in a currency of which no rate is known. */
const toFilled = (
  { field, parts, why, currency }: ColumnGuess,
  rate: string | undefined,
): Pick<ImportReadingShape['columns'][number], 'field' | 'parts' | 'why' | 'converts'> =>
  currency !== undefined && rate === undefined && why === 'words'
    ? { field: null, why: 'none' }
    : {
        field: field ?? null,
        why,
        ...(parts ? { parts } : {}),
        ...(currency === undefined || rate === undefined ? {} : { converts: { currency, rate } }),
      };

const loadRatesByCode = async (db: Db): Promise<Map<string, string>> =>
  new Map((await loadRates(db)).map((r) => [r.currency, r.rate]));

const openTexts = (rows: readonly string[][]): string[][] => rows.map((cells) => cells.map(openFormulaText));

/** All rows of a file under a reading, in batches; what a sheet says of them beside goes into `notes`. */
export async function* openRows(
  db: Db,
  fileId: number,
  kind: 'text' | 'workbook',
  reading: ImportReadingShape,
  notes?: SheetNotes,
): AsyncGenerator<string[][]> {
  try {
    if (kind === 'workbook') {
      yield* readSheets(await openWorkbook(openFile(db, fileId)), reading, notes);
      return;
    }
    const decoder = createTextDecoder(reading.encoding);
    const reader = createRowReader(reading.delimiter),
      open = (rows: string[][]): string[][] => openTexts(reading.wrapped ? unwrapRows(rows, reading.delimiter) : rows);
    let isFirst = true;
    for await (const chunk of openFile(db, fileId)()) {
      const text = decoder.push(chunk);
      yield open(reader.push(isFirst ? text.replace(/^\ufeff/, '') : text));
      isFirst = false;
    }
    yield open(reader.push(decoder.end()));
    yield open(reader.end());
  } catch (error) {
    if (error instanceof SheetError)
      throw new AppError('unreadable-file', error.message, { field: 'file', remedy: error.remedy });
    throw error;
  }
}

/** What the columns of a file are under another reading, with the first rows and what stands over them. */
export async function readColumns(
  db: Db,
  fileId: number,
  kind: 'text' | 'workbook',
  reading: ImportReadingShape,
): Promise<Pick<Understood, 'sample' | 'titleLines' | 'sheets'> & { columns: ImportReadingShape['columns'] }> {
  const notes = createSheetNotes(),
    rows = await takeRows(openRows(db, fileId, kind, { ...reading, alsoSheets: [] }, notes), sampleRows);
  const sheets =
    kind === 'workbook'
      ? await listAlike(await openWorkbook(openFile(db, fileId)), reading.sheet, rows[reading.headerRow])
      : [];
  const u = understandSheet(rows, await loadFields(db), reading.headerRow, notes),
    rates = await loadRatesByCode(db);
  return {
    sample: cutSample(rows),
    titleLines: u.titleLines,
    sheets,
    columns: u.columns.map((c) => toColumn(c, rates)),
  };
}
