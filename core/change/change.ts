// The one shape of a change, wherever something is edited, imported, mended, sent or taken back: a field, what it was and
// what it becomes. What was added had nothing before, what was removed has nothing after.
import { isSameValue, type Value, type Values } from '../listing/values';

/** One field of one thing; null where there is nothing. */
export interface FieldChange {
  field: string;
  before: Value | null;
  after: Value | null;
}

/** The changes of one item. */
export interface ItemChange {
  id: number;
  sku: string;
  changes: FieldChange[];
}

/** Whether a change adds a value, updates one or removes one; undefined where it leaves things as they are. */
export function getChangeKind({ before, after }: FieldChange): 'added' | 'updated' | 'removed' | undefined {
  if (isSameValue(before ?? undefined, after ?? undefined)) return undefined;
  return before === null ? 'added' : after === null ? 'removed' : 'updated';
}

/** The changes that take others back: the last first, each to what stood there before. What else they carry stays. */
export const reverseChanges = <C extends FieldChange>(changes: readonly C[]): C[] =>
  changes.map((c) => ({ ...c, before: c.after, after: c.before })).reverse();

/**
 * Changes made one after another as one: of each field what it was before the first and is after the last. Those that come
 * back to where they began are left out. `keyOf` tells the fields of several things apart.
 */
export function squashChanges<C extends FieldChange>(
  changes: readonly C[],
  keyOf: (change: C) => string = (c) => c.field,
): C[] {
  const byKey = new Map<string, C>();
  for (const c of changes) {
    const first = byKey.get(keyOf(c));
    byKey.set(keyOf(c), first ? { ...c, before: first.before } : c);
  }
  return [...byKey.values()].filter((c) => getChangeKind(c) !== undefined);
}

/** The changes that lead from one set of values to another. */
export const compareValues = (before: Values, after: Values): FieldChange[] =>
  [...new Set([...Object.keys(before), ...Object.keys(after)])]
    .map((field) => ({ field, before: before[field] ?? null, after: after[field] ?? null }))
    .filter((c) => getChangeKind(c) !== undefined);

/** Values as they are after changes, whatever stood there before. The values given are not changed. */
export function applyChanges(values: Values, changes: readonly FieldChange[]): Record<string, Value> {
  const next: Record<string, Value> = { ...values };
  for (const { field, after } of changes) {
    if (after === null) delete next[field];
    else next[field] = after;
  }
  return next;
}
