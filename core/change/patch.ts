// Every change in a table is a patch: plain data, with a pure reverse. Undo, findings and the server call hang on it.
import type { Value } from '../listing/values';

export interface CellPatch {
  row: string;
  column: string;
  before: Value | null;
  after: Value | null;
}
export type Patch = readonly CellPatch[];

/** The patch that takes another back. */
export const reversePatch = (patch: Patch): Patch =>
  patch.map((p) => ({ ...p, before: p.after, after: p.before })).reverse();

/** Several patches as one: first before, last after, cells that end as they began left out. */
export function squashPatches(patches: readonly Patch[]): Patch {
  const cells = new Map<string, CellPatch>();
  for (const p of patches.flat()) {
    const key = `${p.row}\u0000${p.column}`;
    const first = cells.get(key);
    cells.set(key, first ? { ...first, after: p.after } : p);
  }
  return [...cells.values()].filter((c) => JSON.stringify(c.before) !== JSON.stringify(c.after));
}
