// The market's memory: entries with how they stand, the folders, and the files that were taken from them.
import { type Folders, makeHostKey, openFolders, openMemory } from '../frame';
import type { Cells } from './book';
import { type Other, standing } from './others';

export type Standing = 'being_read' | 'on_sale' | 'declined' | 'resting';
export interface Entry {
  ref: string;
  number: string;
  cells: Cells;
  standing: Standing;
  because: string;
  /** When its reader comes to an end with it; after that, when somebody looks again. */
  readAt: number;
  since: number;
  sold: number;
  /** True where it is an offer of this seller on another's entry. */
  joins?: true;
}
export interface Taken {
  name: string;
  form: string;
  entries: Cells[] | undefined;
  doneAt: number;
}
export interface Memory {
  hostKey: string;
  /** Public keys that the seller has left at its desk. */
  publicKeys?: string[];
  folders: Folders;
  entries: Record<string, Entry>;
  /** Files at work, by their names. */
  taken: Record<string, Taken>;
  /** Names of files that have been taken: each is taken once. */
  seen: Record<string, true>;
  nextNumber: number;
  clock: number;
  /** What other sellers have there; what they had from the first where nothing is said. */
  others?: Other[];
}
export interface Shelf {
  memory: Memory;
  save: () => void;
  touch: (entry: Entry) => void;
}

const empty = (): Memory => ({
  hostKey: makeHostKey(),
  folders: openFolders(['/in', '/said', '/said/read', '/lists']),
  entries: {},
  taken: {},
  seen: {},
  nextNumber: 500_001,
  clock: 1,
});

/** Opens the memory kept in a file, or one that is forgotten with the process. */
export function openShelf(file: string | undefined): Shelf {
  const { memory, save } = openMemory(file, empty);
  return {
    memory,
    save,
    touch: (entry) => {
      entry.since = memory.clock++;
    },
  };
}

/** True where an entry is there to be changed. */
export const stands = (entry: Entry | undefined): entry is Entry =>
  entry !== undefined && (entry.standing === 'on_sale' || entry.standing === 'being_read');

/** Entries of other sellers. */
export const othersOn = ({ memory }: Shelf): readonly Other[] => memory.others ?? standing;
