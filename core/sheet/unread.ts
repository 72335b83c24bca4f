// Cells of a file that stand in many rows and cannot be read in any: one answer mends them all.
import type { FieldBook } from '../product';
import type { Problem, ProblemFact } from './problem';
import { findReplacement, type ImportReading, writtenIn } from './read-row';

export interface Unread {
  field: string;
  /** What stands in the cells. */
  value: string;
  /** What it is read as and still cannot be, where a person has said so. */
  as?: string;
  fact: ProblemFact;
  /** Rows of the file that hold it, and the first of them. */
  rows: number;
  first: number;
}

/** Different cells that are kept in mind, and that are told. */
const mostKept = 2000,
  mostTold = 50;
/** Cells that are longer are texts, each of its own. */
const longest = 200;

/** The cells of a row for which it is refused and that could be read as something else. */
export function listUnread(
  cells: readonly string[],
  problems: readonly Problem[],
  reading: Pick<ImportReading, 'columns' | 'replacements'>,
  fields: FieldBook,
): Pick<Unread, 'field' | 'value' | 'as' | 'fact'>[] {
  return problems.flatMap((p) => {
    if (p.level !== 'blocker' || p.field === 'sku') return [];
    const known = fields.get(p.field),
      column = reading.columns.find((c) => c.field === p.field);
    if (!known || !column) return [];
    const value = writtenIn(cells, column.index, known),
      as = findReplacement(reading, p.field, value) ?? value;
    if (as !== p.value || value.length > longest) return [];
    return [{ field: p.field, value, ...(as === value ? {} : { as }), fact: p.fact }];
  });
}

export function createUnreadJudge(reading: Pick<ImportReading, 'columns' | 'replacements'>, fields: FieldBook) {
  const seen = new Map<string, Unread>();
  return {
    note: (row: number, cells: readonly string[], problems: readonly Problem[]): void => {
      for (const found of listUnread(cells, problems, reading, fields)) {
        const key = `${found.field}\n${found.value}`,
          before = seen.get(key);
        if (before) before.rows++;
        else if (seen.size < mostKept) seen.set(key, { ...found, rows: 1, first: row });
      }
    },
    /** Those that stand in several rows, the most frequent first. */
    list: (): Unread[] =>
      [...seen.values()]
        .filter((u) => u.rows > 1)
        .sort((a, b) => b.rows - a.rows)
        .slice(0, mostTold),
  };
}

/** What is left of them once one row was mended by itself. */
export const lessUnread = (
  list: readonly Unread[],
  before: readonly Pick<Unread, 'field' | 'value'>[],
  after: readonly Pick<Unread, 'field' | 'value'>[],
): Unread[] =>
  list.flatMap((u) => {
    const count = (of: readonly Pick<Unread, 'field' | 'value'>[]): number =>
      of.filter((o) => o.field === u.field && o.value === u.value).length;
    const rows = u.rows - count(before) + count(after);
    return rows > 0 ? [{ ...u, rows }] : [];
  });
