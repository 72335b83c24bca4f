// What is done in a table is a patch: changes that name their rows. Undo, findings and the server call hang on it.
import type { FieldChange } from './change';

export interface CellPatch extends FieldChange {
  row: string;
  /** Number of the row in the table where it was made, for naming it to the person. */
  at?: number;
}
export type Patch = readonly CellPatch[];
