// What stands in one slot of a record, whatever the container: a text, the entries of a list, or null for a field that is
// emptied on purpose. An empty text is a slot that says nothing.
export type Cell = string | readonly string[] | null;

/** Entries of a cell; none where it says nothing. */
export const toEntries = (cell: Cell | undefined): readonly string[] =>
  cell === undefined || cell === null || cell === '' ? [] : typeof cell === 'string' ? [cell] : cell;

/** Writes records of a container: what stands before all, each record, what stands after all. */
export interface RecordWriter {
  header: () => string;
  /** One record, slot by slot. Most slots say nothing, so it is put together as it goes. */
  record: (cellAt: (slot: number) => Cell) => string;
  footer: () => string;
}

/** Cells by the key of their slot; what says nothing is left out of them. */
export type Cells = Readonly<Record<string, Cell>>;
/**
 * What is made of the cells of a record, as soon as it is read: a long file is not held as cells and as rows at once. The cells
 * stand in the order of the columns that were asked for, '' where one says nothing; the next record has the same list.
 */
export type Make<T> = (cells: readonly Cell[]) => T;

export type RecordsReading<T> =
  | {
      ok: true;
      /** Lines over the header, where the container has them. */
      before: string[];
      /** What was made of each record. */
      records: T[];
      /** Lines of the file that stand over the first record. */
      over: number;
      /** What stands at a path beside the records; undefined where nothing does. */
      beside: (path: string) => string | undefined;
    }
  | { ok: false; reason: string };
