// Which values the item that stays of several holds. Pure.
import type { Product } from '@basileus/contract';
import { toText, type Value } from '@basileus/core/listing';
import { type FieldBook, isSameField } from '@basileus/core/product';

/** A field in which items that are joined are not the same, with what each of them holds. */
export interface JoinedField {
  field: string;
  values: readonly (Value | null)[];
}

const own = new Set(['sku', 'parent_sku']);

/** Fields in which the items differ, in the order of the book. */
export function listDiffering(items: readonly Product[], book: FieldBook): JoinedField[] {
  return book.all.flatMap(({ key }) => {
    if (own.has(key)) return [];
    const values = items.map((i) => (i.fields[key] as Value | undefined) ?? null);
    return values.every((v) => isSameField(book, key, v, values[0] ?? null)) ? [] : [{ field: key, values }];
  });
}

/** Whose value is taken at first: that of the item that stays, else of the first that has one. */
export const guessTaken = ({ values }: JoinedField, kept: number): number =>
  values[kept] !== null && values[kept] !== undefined ? kept : values.findIndex((v) => v !== null);

/** Stock of all of them together; null where none is counted. */
export function addStock(values: readonly (Value | null)[]): string | null {
  const counted = values.flatMap((v) => (v === null ? [] : [Number(toText(v))]));
  return counted.length === 0 ? null : String(counted.reduce((a, b) => a + b, 0));
}

/** Whose value is taken where stock is added up. */
export const together = -1;

/** What of the item that stays becomes another than it is. */
export function listNew(
  fields: readonly JoinedField[],
  kept: number,
  taken: Readonly<Record<string, number>>,
): Record<string, Value | null> {
  return Object.fromEntries(
    fields.flatMap((f) => {
      const from = taken[f.field] ?? guessTaken(f, kept);
      const value = from === together ? addStock(f.values) : (f.values[from] ?? null);
      return JSON.stringify(value) === JSON.stringify(f.values[kept] ?? null) ? [] : [[f.field, value]];
    }),
  );
}
