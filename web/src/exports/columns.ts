// Columns of a file, in the order of one's choice.

/** Columns with one more, or one less where it is there; the SKU is always the first. */
export const turnColumn = (columns: readonly string[], key: string): string[] =>
  key === 'sku' ? [...columns] : columns.includes(key) ? columns.filter((c) => c !== key) : [...columns, key];

/** Columns with one moved up or down by a place; the first stays the SKU. */
export function moveColumn(columns: readonly string[], key: string, by: -1 | 1): string[] {
  const at = columns.indexOf(key),
    to = at + by;
  if (at < 1 || to < 1 || to >= columns.length) return [...columns];
  const next = [...columns];
  next.splice(at, 1);
  next.splice(to, 0, key);
  return next;
}

/** What a file is likely to want where nobody has said: what names an item, and what is changed most. */
export const firstColumns: readonly string[] = ['sku', 'title', 'brand', 'category', 'gtin', 'cost', 'price', 'stock'];
