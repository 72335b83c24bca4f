// What delimited text and sheets have in common: columns under header rows.
import type { Container } from '../../rulebook/schema';
import type { Cell, Make, RecordsReading } from './cell';

export type Head = Extract<Container, { heads: unknown }>['heads'][number];
export interface Column {
  key: string;
  label?: string | undefined;
  labels?: Readonly<Record<string, string>> | undefined;
}

/** What a header row says over a column: its key, or its label in the language of the row. */
export const labelColumn = (c: Column, head: Head): string =>
  head.row === 'keys'
    ? c.key
    : ((head.language === undefined ? undefined : c.labels?.[head.language]) ?? c.label ?? c.key);

/** Rows under their header rows as cells by column; `before` are lines that stand over the headers. */
export function readTable<T>(
  heads: readonly Head[],
  columns: readonly string[],
  rows: readonly (readonly string[])[],
  before: string[],
  make: Make<T>,
): RecordsReading<T> {
  const keysAt = heads.findIndex((h) => h.row === 'keys');
  const keys = keysAt < 0 ? columns : (rows[before.length + keysAt] ?? []);
  const missing = columns.filter((k) => !keys.includes(k));
  if (missing.length) return { ok: false, reason: `The header lacks ${missing.join(', ')}.` };
  const first = before.length + heads.length;
  return {
    ok: true,
    before,
    over: first,
    beside: () => undefined,
    records: rows.slice(first).map((row) => {
      const cells: Record<string, Cell> = {};
      for (let i = 0; i < keys.length; i++) {
        const cell = row[i];
        if (cell !== undefined && cell !== '') cells[keys[i]!] = cell;
      }
      return make(cells);
    }),
  };
}
