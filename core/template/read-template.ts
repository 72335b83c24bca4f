// A market's blank template as it is: its sheets, what stands in them, and the drop-downs of its cells.
import { type ByteSource, type CellRange, openWorkbook, SheetError } from '../sheet';

export interface TemplateSheet {
  name: string;
  /** Rows from 0; at most `mostRows` of them. */
  rows: readonly (readonly string[])[];
  /** What the drop-down of a column offers, by its place from 0. */
  choices: ReadonlyMap<number, readonly string[]>;
}

/** Rows of a sheet that are looked at: lists of values are long, the rows to fill are empty. */
const mostRows = 20_000,
  mostChoices = 20_000;

/** Reads a template. Throws `SheetError` where it is no workbook that can be read. */
export async function readTemplate(source: ByteSource): Promise<TemplateSheet[]> {
  const workbook = await openWorkbook(source);
  if (workbook.kind !== 'workbook')
    throw new SheetError(
      'not-a-workbook',
      'This is an .ods workbook; templates are filled as .xlsx.',
      'Take the .xlsx that the market gives out, or save this one as .xlsx.',
    );
  const rowsOf = new Map<string, string[][]>();
  for (const { name } of workbook.sheets) {
    const rows: string[][] = [];
    for await (const batch of workbook.rows(name)) {
      for (const row of batch) if (rows.length < mostRows) rows.push(row);
      if (rows.length >= mostRows) break;
    }
    rowsOf.set(name, rows);
  }
  const read = ({ sheet, column, firstRow, lastRow }: CellRange, here: string): string[] => [
    ...new Set(
      (rowsOf.get(sheet ?? here) ?? [])
        .slice(firstRow, lastRow + 1)
        .map((r) => (r[column] ?? '').trim())
        .filter((t) => t !== ''),
    ),
  ];
  const sheets: TemplateSheet[] = [];
  for (const { name } of workbook.sheets) {
    const choices = new Map<number, readonly string[]>();
    for (const { from, to, list } of await workbook.choices(name)) {
      const values = 'column' in list ? read(list, name) : list;
      if (values.length === 0) continue;
      for (let c = from; c <= to && choices.size < mostChoices; c++) if (!choices.has(c)) choices.set(c, values);
    }
    sheets.push({ name, rows: rowsOf.get(name)!, choices });
  }
  return sheets;
}
