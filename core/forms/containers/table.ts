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

/**
 * Reads rows under their header rows as cells by column, one after another, so that no cell is held longer than its record
 * takes; `over` lines stand over the headers.
 */
export function createTableReader<T>(
  heads: readonly Head[],
  columns: readonly string[],
  over: number,
  make: Make<T>,
): { row: (row: readonly string[]) => void; end: (before: string[]) => RecordsReading<T> } {
  const keysAt = heads.findIndex((h) => h.row === 'keys');
  const first = over + heads.length;
  let keys: readonly string[] = keysAt < 0 ? columns : [],
    at = 0;
  const records: T[] = [];
  return {
    row: (row) => {
      const i = at++;
      if (keysAt >= 0 && i === over + keysAt) keys = row;
      if (i < first) return;
      const cells: Record<string, Cell> = {};
      for (let c = 0; c < keys.length; c++) {
        const cell = row[c];
        if (cell !== undefined && cell !== '') cells[keys[c]!] = cell;
      }
      records.push(make(cells));
    },
    end: (before) => {
      const missing = columns.filter((k) => !keys.includes(k));
      if (missing.length) return { ok: false, reason: `The header lacks ${missing.join(', ')}.` };
      return { ok: true, before, over: first, beside: () => undefined, records };
    },
  };
}
