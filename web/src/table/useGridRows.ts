import type { Value } from '@basileus/core/listing';
import { useMemo } from 'react';
import type { GridRow } from './GridLine';

/** A row of the table over one fetched item. */
export interface ItemRow<T> extends GridRow {
  item: T;
}

/**
 * Rows of the table over fetched items, each made once while its item stays the same, so that a drawn row knows that
 * nothing of it has changed. `storedOf` reads an item; `valueOf` lays what is being edited over it.
 */
export function useGridRows<T extends { id: number }>(
  itemAt: (index: number) => T | undefined,
  storedOf: (item: T, key: string) => Value | null,
  edits: {
    valueOf: (id: string, key: string, stored: Value | null) => Value | null;
    isUnsaved: (id: string, key: string) => boolean;
    version: unknown;
  },
): (index: number) => ItemRow<T> | undefined {
  const { valueOf, isUnsaved, version } = edits;
  return useMemo(() => {
    const made = new Map<number, ItemRow<T>>();
    return (index) => {
      const item = itemAt(index);
      if (!item) return undefined;
      const known = made.get(index);
      if (known?.item === item) return known;
      const id = String(item.id);
      const row: ItemRow<T> = {
        id,
        item,
        valueOf: (key) => valueOf(id, key, storedOf(item, key)),
        isUnsaved: (key) => isUnsaved(id, key),
      };
      made.set(index, row);
      return row;
    };
    // An edit makes the rows anew, so its version belongs here though nothing reads it.
  }, [itemAt, storedOf, valueOf, isUnsaved, version]);
}
