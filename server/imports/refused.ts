// The refused rows as a file: what stood in them, and why each was refused. Mended there, it comes back as an import.
import { nameLine, wordProblem, writeRows } from '@basileus/core/sheet';
import type { Db } from '../database';
import { loadFieldsOfImport } from './listed';
import { refusedHeadings } from './layouts';
import { type ImportRow, loadRefusedRows } from './queries';

export async function writeRefused(db: Db, { id, reading, starts }: ImportRow): Promise<string> {
  const rows = await loadRefusedRows(db, id);
  const fields = await loadFieldsOfImport(db, id);
  const nameRow = (row: number): string => nameLine(row, starts);
  const width = Math.max(0, ...reading.columns.map((c) => c.index + 1));
  const places = Array.from({ length: width }, (_, i) => i);
  const names = new Map(reading.columns.map((c) => [c.index, c.name]));
  return writeRows(
    [
      [...places.map((i) => names.get(i) ?? ''), ...refusedHeadings],
      ...rows.map((r) => [
        ...places.map((i) => r.cells?.[i] ?? ''),
        nameRow(r.row),
        r.problems.map((p) => wordProblem(p, fields, nameRow)).join(' '),
      ]),
    ],
    { delimiter: reading.delimiter, newline: '\r\n', forPeople: true },
  );
}
