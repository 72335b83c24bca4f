// The market's memory: entries, each with the items in it, and the files that were handed in.
import { openMemory } from '../frame';
import type { Cells } from './book';

/** How an entry or an item stands: 1 is shown, 2 is being read, 3 was turned down, 9 was taken out. */
export type Standing = '1' | '2' | '3' | '9';
export interface Item {
  sku: string;
  cells: Cells;
  standing: Standing;
  quantity: number;
  sold: number;
  stamp: number;
}
export interface Entry {
  key: string;
  number: string;
  cells: Cells;
  divided: string[];
  items: Record<string, Item>;
  standing: Standing;
  reason: string;
  readyAt: number;
  stamp: number;
}
export interface Handed {
  ticket: string;
  key: string;
  form: string;
  header: string[] | undefined;
  rows: string[][];
  doneAt: number;
  /** Base64 of the answer in its own encoding. */
  answer: string | undefined;
}
export interface Memory {
  entries: Record<string, Entry>;
  files: Record<string, Handed>;
  nextNumber: number;
  nextFile: number;
  clock: number;
}
export interface Shelf {
  memory: Memory;
  save: () => void;
  /** Notes that an entry or an item has changed. */
  touch: (thing: { stamp: number }) => void;
}

const empty = (): Memory => ({ entries: {}, files: {}, nextNumber: 7_000_001, nextFile: 1001, clock: 1 });

/** Opens the memory kept in a file, or one that is forgotten with the process. */
export function openShelf(file: string | undefined): Shelf {
  const { memory, save } = openMemory(file, empty);
  return {
    memory,
    save,
    touch: (thing) => {
      thing.stamp = memory.clock++;
    },
  };
}

export const isThere = (standing: Standing): boolean => standing !== '9';

/** The item of a number, wherever it stands. */
export function findItem(shelf: Shelf, sku: string): { entry: Entry; item: Item } | undefined {
  for (const entry of Object.values(shelf.memory.entries)) {
    const item = entry.items[sku];
    if (item) return { entry, item };
  }
  return undefined;
}
