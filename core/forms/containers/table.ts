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
  /** Where each column stands in a row; none where the header lacks it. */
  let places = columns.map((_, i) => (keysAt < 0 ? i : -1)),
    at = 0;
  const cells = columns.map((): Cell => '');
  const records: T[] = [];
  return {
    row: (row) => {
      const i = at++;
      if (keysAt >= 0 && i === over + keysAt) places = columns.map((c) => row.lastIndexOf(c));
      if (i < first) return;
      for (let c = 0; c < places.length; c++) cells[c] = row[places[c]!] ?? '';
      records.push(make(cells));
    },
    end: (before) => {
      const missing = columns.filter((_, c) => places[c]! < 0);
      if (missing.length) return { ok: false, reason: `The header lacks ${missing.join(', ')}.` };
      return { ok: true, before, over: first, beside: () => undefined, records };
    },
  };
}
