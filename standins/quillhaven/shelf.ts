// The market's own memory: entries, tickets, what changed when.
import { openMemory } from '../frame';
import type { Cells } from './judge';
import { type Other, standing } from './others';

export interface Entry {
  sku: string;
  number: string;
  standing: 'being read' | 'on shelf' | 'turned back' | 'taken down';
  reason: string;
  cells: Record<string, string>;
  readyAt: number;
  stamp: number;
  quantity: number;
  sold: number;
  /** True where it is an offer of this seller on another's entry. */
  joins?: true;
}
export interface Ticket {
  id: string;
  key: string;
  operation: string;
  name: string;
  rows: Record<string, string>[];
  doneAt: number;
  receipt: string | undefined;
  fault: string | undefined;
}
export interface Memory {
  entries: Record<string, Entry>;
  burnt: string[];
  tickets: Record<string, Ticket>;
  nextNumber: number;
  nextTicket: number;
  clock: number;
  /** What other sellers have there; what they had from the first where nothing is said. */
  others?: Other[];
}

export interface Shelf {
  memory: Memory;
  save: () => void;
  touch: (entry: Entry) => void;
  findByItemNumber: (number: string) => Entry | undefined;
}

const empty = (): Memory => ({ entries: {}, burnt: [], tickets: {}, nextNumber: 710_001, nextTicket: 1, clock: 1 });

/** Opens the memory kept in a file, or one that is forgotten with the process where no file is named. */
export function openShelf(file: string | undefined): Shelf {
  const { memory, save } = openMemory(file, empty);
  const byNumber = new Map<string, string>();
  const pad = (n: string) => n.padStart(14, '0');
  for (const e of Object.values(memory.entries))
    if (e.cells['item_number']) byNumber.set(pad(e.cells['item_number']), e.sku);
  return {
    memory,
    save,
    touch: (entry) => {
      entry.stamp = memory.clock++;
      if (entry.cells['item_number']) byNumber.set(pad(entry.cells['item_number']), entry.sku);
    },
    findByItemNumber: (number) => {
      const sku = byNumber.get(pad(number));
      const e = sku === undefined ? undefined : memory.entries[sku];
      return e && e.standing !== 'taken down' && e.standing !== 'turned back' ? e : undefined;
    },
  };
}

/** What a partial line leaves as it is, changes and clears. */
export function mergeCells(before: Cells, line: Cells): Record<string, string> {
  const after = { ...before };
  for (const [k, v] of Object.entries(line)) {
    if (v === '') continue;
    if (v === '#empty#') delete after[k];
    else after[k] = v;
  }
  return after;
}

/** Entries of other sellers. */
export const othersOn = ({ memory }: Shelf): readonly Other[] => memory.others ?? standing;
