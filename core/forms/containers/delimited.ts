// Records as lines of delimited text, under their header rows. Reading is the inverse of writing.
import type { Container } from '../../rulebook/schema';
import { isMatched } from '../../text';
import type { Cell, Make, RecordsReading, RecordWriter } from './cell';
import { type Column, labelColumn, createTableReader } from './table';
import { createQuoter, createRowReader, type Delimiter } from '../../sheet/delimited';

type Delimited = Extract<Container, { kind: 'delimited' }>;

export const delimiterSigns: Readonly<Record<Delimited['delimiter'], Delimiter>> = {
  tab: '\t',
  comma: ',',
  semicolon: ';',
  pipe: '|',
};
/** Characters that are taken apart at once. */
const piece = 1_000_000;
const newlines = { crlf: '\r\n', lf: '\n' } as const;

/** Writer of a container's header and lines. A line is given cell by cell and never held as cells. */
export function createLineWriter(
  container: Delimited,
  columns: readonly Column[],
  listSeparator: string,
): RecordWriter {
  const delimiter = delimiterSigns[container.delimiter],
    newline = newlines[container.lineEnd];
  const needed = createQuoter(delimiter);
  const quote = container.quotes === 'always' ? (cell: string): string => `"${cell.replaceAll('"', '""')}"` : needed;
  const always = container.quotes === 'always';
  return {
    header: () =>
      container.heads.map((h) => columns.map((c) => quote(labelColumn(c, h))).join(delimiter) + newline).join(''),
    record: (cellAt) => {
      let text = '';
      for (let i = 0; i < columns.length; i++) {
        const there: Cell = cellAt(i);
        const cell = typeof there === 'string' ? there : (there?.join(listSeparator) ?? '');
        if (i > 0) text += delimiter;
        if (cell !== '' || always) text += quote(cell);
      }
      return text + newline;
    },
    footer: () => '',
  };
}

/** Reads a container's text into cells by column. Refused where what stands over the records is not what was agreed. */
export function readLines<T>(
  container: Delimited,
  columns: readonly string[],
  text: string,
  make: Make<T>,
): RecordsReading<T> {
  const clean = text.replace(/^\ufeff/, '');
  const over = container.before.length;
  const before = clean.split(/\r\n|\n/, over);
  for (const [i, pattern] of container.before.entries())
    if (!isMatched(pattern, before[i] ?? ''))
      return {
        ok: false,
        reason: `Line ${i + 1} is “${(before[i] ?? '').slice(0, 60)}”, which is not what was agreed.`,
      };
  const table = createTableReader(container.heads, columns, over, make),
    rows = createRowReader(delimiterSigns[container.delimiter]);
  for (let i = 0; i < clean.length; i += piece) rows.push(clean.slice(i, i + piece)).forEach(table.row);
  rows.end().forEach(table.row);
  return table.end(before);
}
