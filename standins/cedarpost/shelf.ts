// The market's memory: entries with how they stand, and the files that were dropped. Other sellers' entries stand there too.
import { openMemory } from '../frame';
import type { Group, Note } from './book';

export type Standing = 'looked_at' | 'showing' | 'turned_down' | 'shelved';
export interface Entry {
  ref: string;
  number: string;
  record: Group;
  standing: Standing;
  because: string;
  readyAt: number;
  stamp: number;
  sold: number;
}
export interface Line {
  n: number;
  ref: string;
  went: 'in' | 'in_with_notes' | 'out';
  entry?: string;
  notes?: (Note & { words: string })[];
}
export interface Drop {
  id: string;
  key: string;
  form: string;
  file: string;
  /** What was dropped, until it is worked through. */
  records: Group[];
  count: number;
  doneAt: number;
  lines: Line[] | undefined;
}
export interface Memory {
  entries: Record<string, Entry>;
  drops: Record<string, Drop>;
  nextNumber: number;
  nextDrop: number;
  clock: number;
}
export interface Shelf {
  memory: Memory;
  save: () => void;
  touch: (entry: Entry) => void;
}

const empty = (): Memory => ({ entries: {}, drops: {}, nextNumber: 70_001, nextDrop: 1, clock: 1 });

/** What others sell here: found by buyers, and by sellers who look whether something stands there already. */
export const others: readonly { entry: string; name: string; maker: string; code: string; aisle: string }[] = [
  {
    entry: 'G9001',
    name: 'Rowan Hill Skillet 10 in',
    maker: 'Rowan Hill',
    code: '9529990000018',
    aisle: 'cook.stove.skillets',
  },
  {
    entry: 'G9002',
    name: 'Rowan Hill Skillet 12 in',
    maker: 'Rowan Hill',
    code: '9529990000025',
    aisle: 'cook.stove.skillets',
  },
  {
    entry: 'G9003',
    name: 'Lindqvarn Glass Teapot',
    maker: 'Lindqvarn',
    code: '9529990000032',
    aisle: 'eat.table.teapots',
  },
];

/** Opens the memory kept in a file, or one that is forgotten with the process. */
export function openShelf(file: string | undefined): Shelf {
  const { memory, save } = openMemory(file, empty);
  return {
    memory,
    save,
    touch: (entry) => {
      entry.stamp = memory.clock++;
    },
  };
}

/** True where an entry is there to be changed. */
export const stands = (entry: Entry | undefined): entry is Entry =>
  entry !== undefined && entry.standing !== 'turned_down' && entry.standing !== 'shelved';
