// Every change in a table is a patch: plain data, with a pure reverse. Undo, findings and the server call hang on it.
import type { Value } from '../listing/values';

export interface CellPatch {
  row: string;
  column: string;
  before: Value | null;
  after: Value | null;
  /** Number of the row in the table where it was made, for naming it to the person. */
  at?: number;
}
export type Patch = readonly CellPatch[];

/** The patch that takes another back. */
export const reversePatch = (patch: Patch): Patch =>
  patch.map((p) => ({ ...p, before: p.after, after: p.before })).reverse();
