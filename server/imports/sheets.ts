// The sheets of a workbook: which one holds items, which others have its headings, and their rows one after the other.
import type { ImportReadingShape, ImportShape } from '@basileus/contract';
import {
  findHeadings,
  knownBys,
  mostOverHeadings,
  type SheetNotes,
  understandSheet,
  type Workbook,
} from '@basileus/core/sheet';
import type { Db } from '../database';
import { loadFields } from '../fields';

/** Rows of a sample. */
export const sampleRows = 250;

/** Sheets of a workbook that are looked into for the one with items. */
const mostSheets = 12;
/**
 * The first sheet in which a column holds SKUs, among those that are shown: instructions often stand before it. Else the first
 * whose rows can be known by a barcode or a part number, or the first of all.
 */
export async function chooseSheet(
  db: Db,
  workbook: Workbook,
  notes: SheetNotes,
): Promise<{ sheet: string; sample: string[][] }> {
  const shown = workbook.sheets.filter((s) => !s.hidden),
    fields = await loadFields(db);
  let first: { sheet: string; sample: string[][] } | undefined, keyed: typeof first;
  for (const { name: sheet } of (shown.length > 0 ? shown : workbook.sheets).slice(0, mostSheets)) {
    const found = { sheet, sample: await takeRows(workbook.rows(sheet, notes), sampleRows) };
    first ??= found;
    const isFilled = found.sample.some((r) => r.some((c) => c.trim() !== ''));
    const held = new Set(isFilled ? understandSheet(found.sample, fields).columns.map((c) => c.field) : []);
    if (held.has('sku')) return found;
    if (knownBys.some((by) => held.has(by))) keyed ??= found;
  }
  return keyed ?? first!;
}

/** The sheets of a workbook, with whether they have the headings of the one that is read; so many are looked into. */
export async function listAlike(
  workbook: Workbook,
  sheet: string | null,
  header: readonly string[] | undefined,
): Promise<ImportShape['sheets']> {
  const read = sheet ?? workbook.sheets[0]?.name,
    listed: ImportShape['sheets'] = [];
  for (const [i, s] of workbook.sheets.entries()) {
    const isAsked = header !== undefined && !s.hidden && s.name !== read && i < mostSheets;
    const isAlike = isAsked && findHeadings(await takeRows(workbook.rows(s.name), mostOverHeadings), header) >= 0;
    listed.push({ ...s, isAlike });
  }
  return listed;
}

/** The rows of a sheet, and after them those of others with the same headings. */
export async function* readSheets(
  workbook: Workbook,
  { sheet, alsoSheets, headerRow }: ImportReadingShape,
  notes?: SheetNotes,
): AsyncGenerator<string[][]> {
  let lines = 0,
    header: string[] | undefined;
  for await (const rows of workbook.rows(sheet ?? undefined, notes)) {
    header ??= rows[headerRow - lines];
    lines += rows.length;
    yield rows;
  }
  if (alsoSheets.length === 0 || !header) return;
  notes?.starts.push({ name: sheet ?? workbook.sheets[0]!.name, from: 1 });
  for (const name of alsoSheets) {
    if (!workbook.sheets.some((s) => s.name === name)) continue;
    let over: string[][] | undefined = [];
    for await (const rows of workbook.rows(name, notes)) {
      let begun = rows;
      if (over) {
        over.push(...rows);
        const at = findHeadings(over, header);
        if (at < 0 && over.length < mostOverHeadings) continue;
        // Without its headings nobody knows what its columns hold.
        if (at < 0) break;
        notes?.starts.push({ name, from: lines + 1 });
        for (const row of over.slice(0, at + 1)) notes?.over.add(row);
        begun = over;
        over = undefined;
      }
      lines += begun.length;
      yield begun;
    }
  }
}

/** The first rows of a sheet or a text. */
export async function takeRows(rows: AsyncIterable<string[][]>, most: number): Promise<string[][]> {
  const taken: string[][] = [];
  for await (const batch of rows) {
    taken.push(...batch);
    if (taken.length >= most) break;
  }
  return taken.slice(0, most);
}
