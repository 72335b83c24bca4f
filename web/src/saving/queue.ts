// What was typed and is not saved yet: kept in the browser until the server has answered for it, over a reload and a closed
// window. Several tabs share it, so that it is always read anew and written whole.
import { type FieldChange, reverseChanges } from '@basileus/core/change';
import type { Value } from '@basileus/core/listing';

export interface UnsavedCell extends FieldChange {
  id: number;
  reset?: boolean;
  /** Number of the row in the table where it was typed. */
  at?: number;
  /** What its column was called there. */
  label?: string;
}
export interface Unsaved {
  id: string;
  /** What it belongs to: `products`, or `listings:` and a market. */
  scope: string;
  title: string;
  cells: UnsavedCell[];
  /** True where it takes an earlier change back, so that it is none to be taken back itself. */
  isUndo: boolean;
  /** True once the server could not be reached with it. */
  isLate: boolean;
}

interface Storage {
  getItem: (key: string) => string | null;
  setItem: (key: string, value: string) => void;
}
const key = 'basileus-unsaved';

export interface SavingQueue {
  list: () => readonly Unsaved[];
  add: (entry: Unsaved) => void;
  /** Marks entries as late; what has been removed meanwhile stays removed. */
  markLate: (id: string) => void;
  remove: (id: string) => void;
  subscribe: (listener: () => void) => () => void;
  /** Another tab has changed what is stored. */
  readAgain: () => void;
}

/** A queue over a browser's storage. What does not fit into it is kept in memory alone, and `isKept` is false. */
export function createQueue(storage: Storage): SavingQueue & { isKept: () => boolean } {
  let entries: readonly Unsaved[] = [],
    kept = true;
  const listeners = new Set<() => void>();
  const read = (): readonly Unsaved[] => {
    try {
      const stored: unknown = JSON.parse(storage.getItem(key) ?? '[]');
      return Array.isArray(stored) ? stored.filter(isEntry) : [];
    } catch {
      return [];
    }
  };
  const put = (next: readonly Unsaved[]): void => {
    entries = next;
    try {
      storage.setItem(key, JSON.stringify(next));
      kept = true;
    } catch {
      kept = false;
    }
    for (const tell of listeners) tell();
  };
  /** What is stored, where storing works: another tab may have added to it. */
  const now = (): readonly Unsaved[] => (kept ? read() : entries);
  entries = read();
  return {
    list: () => entries,
    add: (entry) => {
      put([...now(), entry]);
    },
    markLate: (id) => {
      if (now().some((e) => e.id === id && !e.isLate))
        put(now().map((e) => (e.id === id ? { ...e, isLate: true } : e)));
    },
    remove: (id) => {
      put(now().filter((e) => e.id !== id));
    },
    subscribe: (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    readAgain: () => {
      if (kept) entries = read();
      for (const tell of listeners) tell();
    },
    isKept: () => kept,
  };
}

function isEntry(value: unknown): value is Unsaved {
  const e = value as Partial<Unsaved> | null;
  return (
    typeof e?.id === 'string' &&
    typeof e.scope === 'string' &&
    typeof e.title === 'string' &&
    Array.isArray(e.cells) &&
    e.cells.every((c) => typeof c.id === 'number' && typeof c.field === 'string')
  );
}

/** What the cells of a scope show over what is stored: the last word of each. */
export function overlayOf(
  entries: readonly Unsaved[],
  scope: string,
): Map<string, { value: Value | null; isLate: boolean }> {
  const shown = new Map<string, { value: Value | null; isLate: boolean }>();
  for (const e of entries)
    if (e.scope === scope)
      for (const c of e.cells) if (!c.reset) shown.set(`${c.id}/${c.field}`, { value: c.after, isLate: e.isLate });
  return shown;
}

/** The cells that take others back: the last change first, each to what stood there before. */
export const takeBackCells = (cells: readonly UnsavedCell[]): UnsavedCell[] =>
  reverseChanges(cells.map(({ id, field, before, after }) => ({ id, field, before, after })));
