// The market's memory: goods, each with how it stands in each country, and the files that were handed in.
import { openMemory } from '../frame';

export type Standing = 'granskas' | 'aktiv' | 'avvisad' | 'stoppad';
export interface Place {
  standing: Standing;
  reason: string;
  readyAt: number;
  stamp: number;
  sold: number;
}
export interface Good {
  sku: string;
  number: string;
  cells: Record<string, string>;
  /** By the key of a site. */
  places: Record<string, Place>;
  quantity: number;
}
export interface Handed {
  id: string;
  key: string;
  form: string;
  name: string;
  rows: Record<string, string>[];
  doneAt: number;
  answer: string | undefined;
}
export interface Memory {
  goods: Record<string, Good>;
  files: Record<string, Handed>;
  nextNumber: number;
  nextFile: number;
  clock: number;
}
export interface Shelf {
  memory: Memory;
  save: () => void;
  /** Notes that a place of a good has changed. */
  touch: (place: Place) => void;
}

const empty = (): Memory => ({ goods: {}, files: {}, nextNumber: 40_000_001, nextFile: 1, clock: 1 });

/** Opens the memory kept in a file, or one that is forgotten with the process. */
export function openShelf(file: string | undefined): Shelf {
  const { memory, save } = openMemory(file, empty);
  return {
    memory,
    save,
    touch: (place) => {
      place.stamp = memory.clock++;
    },
  };
}

/** True where a good is there to be changed: in some country it is neither refused nor taken out. */
export const stands = (good: Good | undefined): good is Good =>
  good !== undefined && Object.values(good.places).some((p) => p.standing === 'aktiv' || p.standing === 'granskas');
