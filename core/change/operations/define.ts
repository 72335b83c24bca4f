// What can be done to a field of many items: operations are data, `{ field, do, … }`, and each is read, judged and run by one
// file of this folder.
import type { z } from 'zod';
import type { RowFault, FormulaProblem, Place } from '../../formula';
import type { Value, Values } from '../../listing/values';
import type { PriceFault } from '../../pricing';
import type { CellFault, FieldBook, ProductField } from '../../product';
import type { ListingFault } from '../listing-fault';

/** One row as an operation sees it. */
export interface ChangeRow {
  /** The item with what earlier steps have made of it. */
  values: Values;
  /** What the catalog gives a listing by itself, by the same keys, where a listing is changed. */
  given?: Values | undefined;
  /** Where a listing is changed and a step asks for it: the price in a field that leaves a share of what is taken. */
  priceLeaving?: PriceLeaving | undefined;
  /** The day that counts as today, ISO 8601. */
  today: string;
  /** Its place among the rows that are changed, from 0. */
  index: number;
}

/** The price of a listing in one of its fields that leaves a margin (a share), with an ending where one is wanted. */
export type PriceLeaving = (
  field: string,
  cost: string | undefined,
  margin: string,
  ending: string | undefined,
) => { ok: true; price: string } | { ok: false; fault: PriceFault | ListingFault };

/** Why an operation cannot be done to a field at all. */
export type StepProblem =
  | { is: 'unknown-field'; name: string }
  | { is: 'not-changed-here'; field: string }
  | { is: 'not-for-field'; field: string }
  /** Steps of one change are all about items, or all about the listings of one market. */
  | { is: 'elsewhere'; field: string }
  | { is: 'nothing-given'; part: string }
  | { is: 'not-a-number'; part: string; value: string }
  | { is: 'no-margin'; value: string }
  | { is: 'no-digits'; pattern: string }
  | { is: 'cannot-hold'; field: string; from: string }
  | { is: 'value'; field: string; fault: CellFault; value: Value }
  | { is: 'formula'; at: Place; problem: FormulaProblem };

/** What becomes of one cell: a value, emptied (null), left as it is, or a fault of this row. */
export type CellOutcome =
  { is: 'value'; value: Value | null } | { is: 'left' } | { is: 'fault'; fault: RowFault | PriceFault | ListingFault };
export const left: CellOutcome = { is: 'left' };
export const becomes = (value: Value | null): CellOutcome => ({ is: 'value', value });

export type Apply = (held: Value | undefined, row: ChangeRow) => CellOutcome;
/** `reads` are the fields that it looks at beside its own. */
export type PreparedStep = { ok: true; apply: Apply; reads: readonly string[] } | { ok: false; problem: StepProblem };

export interface OperationKind<S extends z.ZodObject = z.ZodObject> {
  do: string;
  schema: S;
  /** Whether it can be done to a field of this kind. */
  fits: (field: ProductField) => boolean;
  /** Makes it ready for a field, or says what is wrong with it. */
  prepare: (operation: z.output<S>, field: ProductField, book: FieldBook) => PreparedStep;
}

export const refuse = (problem: StepProblem): PreparedStep => ({ ok: false, problem });
export const ready = (apply: Apply, reads: readonly string[] = []): PreparedStep => ({ ok: true, apply, reads });

const numeric: ReadonlySet<string> = new Set(['money', 'number', 'integer']);
export const isNumeric = ({ kind }: ProductField): boolean => numeric.has(kind);
const written: ReadonlySet<string> = new Set(['text', 'long-text', 'list', 'identifier']);
/** True for what is written in letters: parts of it can be replaced. */
export const isWritten = ({ kind }: ProductField): boolean => written.has(kind);
