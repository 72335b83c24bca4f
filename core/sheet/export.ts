// A file of the catalog for people: columns of their choice, as a workbook or as delimited text. Identifiers and codes are
// text, so that no spreadsheet harms them; amounts and counts are numbers.
import { strToU8 } from 'fflate';
import type { Values } from '../listing/values';
import type { ProductField } from '../product';
import { canonicalNumber } from '../quantity';
import { writeRows } from './delimited';
import { createWorkbookPacker, type DeflatePiece } from './pack-workbook';
import { toCell } from './round-trip';
import { sheetFoot, sheetHead, type SheetCell, writeSheetRow } from './sheet-text';

export const exportFormats = ['xlsx', 'csv', 'tsv'] as const;
export type ExportFormat = (typeof exportFormats)[number];
/** Name of the property of a workbook that says which export it is; spreadsheet programs keep it and do not show it. */
export const markProperty = 'catalog-export';

export interface ExportWriter {
  head: () => Uint8Array;
  rows: (rows: readonly Values[]) => Uint8Array;
  end: () => Uint8Array;
}

const numbers: ReadonlySet<string> = new Set(['money', 'number', 'integer']);

/** Writer of a file of these columns, piece by piece. `mark` is what a workbook is recognised by when it comes back. */
export const createExportWriter = (
  format: ExportFormat,
  columns: readonly ProductField[],
  mark: string,
  deflate?: DeflatePiece,
): ExportWriter => (format === 'xlsx' ? writeWorkbook(columns, mark, deflate) : writeText(format, columns));

function writeText(format: 'csv' | 'tsv', columns: readonly ProductField[]): ExportWriter {
  const options = { delimiter: format === 'csv' ? ',' : '\t', newline: '\r\n', forPeople: true } as const;
  const write = (rows: readonly (readonly string[])[]): Uint8Array => strToU8(writeRows(rows, options));
  return {
    // With a mark of its encoding, or spreadsheets read it in another.
    head: () => strToU8('\ufeff' + writeRows([columns.map((c) => c.label)], options)),
    rows: (rows) => write(rows.map((values) => columns.map((c) => toCell(values[c.key], c.words)))),
    end: () => new Uint8Array(),
  };
}

function writeWorkbook(columns: readonly ProductField[], mark: string, deflate?: DeflatePiece): ExportWriter {
  const packer = createWorkbookPacker('Catalog', { [markProperty]: mark }, deflate);
  let row = 1;
  const toSheetCell = ({ key, kind, words }: ProductField, values: Values): SheetCell => {
    const text = toCell(values[key], words);
    return numbers.has(kind) && canonicalNumber.test(text) ? { number: text } : text;
  };
  return {
    head: () =>
      packer.push(
        sheetHead(1) +
          writeSheetRow(
            1,
            columns.map((c) => c.label),
          ),
      ),
    rows: (rows) =>
      packer.push(
        rows
          .map((values) =>
            writeSheetRow(
              ++row,
              columns.map((c) => toSheetCell(c, values)),
            ),
          )
          .join(''),
      ),
    end: () => {
      const last = packer.push(sheetFoot),
        end = packer.end();
      const all = new Uint8Array(last.length + end.length);
      all.set(last);
      all.set(end, last.length);
      return all;
    },
  };
}
