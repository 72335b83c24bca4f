// What a bundle is made of, kept and changed as if it were a value of its row: entries such as “2 × MP-MUG-06”.
import type { Value } from '../listing/values';

/** The field of a bundle's parts. */
export const partsField = 'parts';

export interface Part {
  sku: string;
  count: number;
}
const mostOfOne = 10_000;
const entry = /^(?:(\d{1,5})\s*[×x*]\s+)?(\S.*)$/i;

/** Parts as they are kept: how many of what, by SKU, so that the same parts are the same value. */
export const writeParts = (parts: readonly Part[]): string[] =>
  [...parts].sort((a, b) => (a.sku < b.sku ? -1 : 1)).map((p) => `${p.count} × ${p.sku}`);

/** Reads parts; a SKU alone is one of it. The first entry that is none is told as it stands. */
export function readParts(value: Value | null): { ok: true; parts: Part[] } | { ok: false; entry: string } {
  const parts: Part[] = [];
  for (const text of value === null ? [] : [value].flat()) {
    const read = entry.exec(text.trim());
    const count = Number(read?.[1] ?? 1);
    if (!read || count < 1 || count > mostOfOne) return { ok: false, entry: text };
    parts.push({ sku: read[2]!.trim(), count });
  }
  return { ok: true, parts };
}
