// Sheets of a workbook that are read as one: suppliers have a sheet for each group of goods, all with the same headings.

/** Where the lines of a sheet begin among all that were read, from 1. */
export interface SheetStart {
  name: string;
  from: number;
}

/** Rows of a sheet among which its headings must stand. */
export const mostOverHeadings = 30;

const trimmed = (row: readonly string[]): string[] => {
  const cells = row.map((c) => c.trim());
  return cells.slice(0, cells.findLastIndex((c) => c !== '') + 1);
};

/** The row, from 0, that says the same headings; -1 where none of the first does, or there are too few to tell. */
export function findHeadings(rows: readonly (readonly string[])[], header: readonly string[]): number {
  const wanted = trimmed(header);
  if (wanted.filter((c) => c !== '').length < 2) return -1;
  return rows.slice(0, mostOverHeadings).findIndex((row) => {
    const cells = trimmed(row);
    return cells.length === wanted.length && cells.every((c, i) => c.toLowerCase() === wanted[i]!.toLowerCase());
  });
}

/** Where a line stands: which of its sheet's, and in which sheet where several were read. */
export function placeLine(line: number, starts: readonly SheetStart[]): { line: number; sheet?: string } {
  const start = starts.findLast((s) => s.from <= line);
  return start === undefined ? { line } : { line: line - start.from + 1, sheet: start.name };
}

/** A line by its place: "12", or "12 (Pots)" where several sheets were read. */
export function nameLine(line: number, starts: readonly SheetStart[]): string {
  const place = placeLine(line, starts);
  return place.sheet === undefined ? String(line) : `${place.line} (${place.sheet})`;
}
