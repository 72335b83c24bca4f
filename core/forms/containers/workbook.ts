// Records as rows of a sheet, under their header rows. The text of a workbook is that of its sheet; packing it is another matter.
import { canonicalNumber } from '../../quantity';
import type { Container, Form } from '../../rulebook/schema';
import { type ByteSource, openWorkbook } from '../../sheet/workbook';
import { parseSheet, readAsWritten, sheetFoot, sheetHead, type SheetCell, writeSheetRow } from '../../sheet/sheet-text';
import type { Make, RecordsReading, RecordWriter } from './cell';
import { type Column, createTableReader, labelColumn } from './table';

type Workbook = Extract<Container, { kind: 'workbook' }>;

/** Writer of a sheet: its header rows, then a row each record. */
export function createSheetWriter(
  { heads }: Workbook,
  columns: readonly (Column & { as: Form['slots'][number]['as'] })[],
  listSeparator: string,
): RecordWriter {
  let row = heads.length;
  return {
    header: () =>
      sheetHead(heads.length) +
      heads
        .map((h, i) =>
          writeSheetRow(
            i + 1,
            columns.map((c) => labelColumn(c, h)),
          ),
        )
        .join(''),
    record: (cellAt) =>
      writeSheetRow(
        ++row,
        columns.map(({ as }, i): SheetCell => {
          const there = cellAt(i);
          const cell = typeof there === 'string' ? there : (there?.join(listSeparator) ?? '');
          return as === 'number' && canonicalNumber.test(cell) ? { number: cell } : cell;
        }),
      ),
    footer: () => sheetFoot,
  };
}

/** Reads the text of a sheet into cells by column. */
export function readSheetRecords<T>(
  { heads }: Workbook,
  columns: readonly string[],
  text: string,
  make: Make<T>,
): RecordsReading<T> {
  const open = () => createTableReader(heads, columns, 0, make);
  const table = open();
  if (readAsWritten(text, table.row)) return table.end([]);
  // Whatever was read until the first row that stands otherwise is read again.
  const rows = parseSheet(text),
    again = open();
  if (!rows) return { ok: false, reason: 'This is not a sheet of a workbook.' };
  rows.forEach(again.row);
  return again.end([]);
}

/** The text of a sheet of a workbook, whoever has written it. Throws `SheetError` where the bytes are no workbook. */
export async function readWorkbookText(source: ByteSource, sheet: string): Promise<string> {
  const workbook = await openWorkbook(source);
  let text = sheetHead(1),
    row = 0;
  for await (const rows of workbook.rows(sheet)) for (const cells of rows) text += writeSheetRow(++row, cells);
  return text + sheetFoot;
}
