// What must go to a market: the current values against the last accepted ones, group by group.
import { isFilled, isSameValue, type RowRole, type Value, type Values } from '../listing/values';
import type { CompiledCategory } from '../rulebook/compile';
import type { Rulebook } from '../rulebook/schema';
import type { Operation, Part } from '../rulebook/terms';
import { canAsk } from './layout';

/** Last accepted values per group; `undefined` where the market has never taken that group. */
export interface Accepted {
  details: Values | undefined;
  price: Values | undefined;
  stock: Values | undefined;
}
export interface FieldDifference {
  field: string;
  before: Value | null;
  after: Value | null;
}
export interface PlannedOperation {
  operation: Operation;
  differences: FieldDifference[];
}

const groupOf = (part: Part): keyof Accepted => (part === 'price' ? 'price' : part === 'stock' ? 'stock' : 'details');

/** Values of a listing split by the group in which a market takes them. Pictures travel with the details. */
export function splitByGroup(rulebook: Rulebook, values: Values): Record<keyof Accepted, Record<string, Value>> {
  const groups: Record<keyof Accepted, Record<string, Value>> = { details: {}, price: {}, stock: {} };
  for (const a of rulebook.attributes) {
    const v = values[a.key];
    if (isFilled(v)) groups[groupOf(a.part)][a.key] = v!;
  }
  return groups;
}

const compare = (before: Values, after: Values): FieldDifference[] =>
  [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .filter((k) => !isSameValue(before[k], after[k]))
    .map((field) => ({ field, before: before[field] ?? null, after: after[field] ?? null }));

/** What a person wants of a listing beside keeping it right. */
export type Wish = 'keep' | 'withdraw' | 'restore';

/**
 * The operations that bring the market to our values: create where it has nothing, else revise, price and stock for what
 * differs. A parent row has no price or stock. Nothing differs: nothing is sent.
 */
export function planOperations(
  category: CompiledCategory,
  role: RowRole,
  values: Values,
  accepted: Accepted,
  wish: Wish,
  isWithdrawn: boolean,
): PlannedOperation[] {
  const ask = (operation: Operation): PlannedOperation[] =>
    canAsk(category.rulebook, operation) ? [{ operation, differences: [] }] : [];
  if (wish === 'withdraw' && !isWithdrawn && accepted.details) return ask('withdraw');
  if (isWithdrawn) return wish === 'restore' ? ask('restore') : [];
  if (wish === 'withdraw') return [];
  const now = splitByGroup(category.rulebook, values);
  if (!accepted.details)
    return [
      {
        operation: 'create',
        differences: [...compare({}, now.details), ...compare({}, now.price), ...compare({}, now.stock)],
      },
    ];
  const operations: PlannedOperation[] = [];
  for (const [operation, group] of [
    ['revise', 'details'],
    ['price', 'price'],
    ['stock', 'stock'],
  ] as const) {
    if (role === 'parent' && group !== 'details') continue;
    const differences = compare(accepted[group] ?? {}, now[group]);
    if (differences.length) operations.push({ operation, differences });
  }
  return operations;
}

/** Accepted values after the market took an operation with these differences. */
export function applyAccepted(
  rulebook: Rulebook,
  accepted: Accepted,
  operation: Operation,
  differences: readonly FieldDifference[],
): Accepted {
  if (operation === 'withdraw' || operation === 'restore') return accepted;
  const parts = new Map(rulebook.attributes.map((a) => [a.key, groupOf(a.part)]));
  const next = {
    details: { ...accepted.details },
    price: { ...accepted.price },
    stock: { ...accepted.stock },
  } as Record<keyof Accepted, Record<string, Value>>;
  for (const d of differences) {
    const group = next[parts.get(d.field) ?? 'details'];
    if (d.after === null) delete group[d.field];
    else group[d.field] = d.after;
  }
  return next;
}

/** True if a price moved by more than a share since it was last accepted: held for a look. */
export function isPriceMoveHeld(before: string | undefined, after: string | undefined, share: string): boolean {
  if (!before || !after || Number(before) === 0) return false;
  return Math.abs(Number(after) - Number(before)) / Number(before) > Number(share);
}
