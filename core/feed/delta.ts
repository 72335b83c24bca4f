// What must go to a market: the current values against the last accepted ones, group by group.
import { applyChanges, compareValues, type FieldChange } from '../change/change';
import { isFilled, isSameValue, type RowRole, type Value, type Values } from '../listing/values';
import type { CompiledCategory } from '../rulebook/compile';
import type { Rulebook } from '../rulebook/schema';
import type { Operation, Part } from '../rulebook/terms';
import { canAsk, findOperation } from '../forms/record';

/** Last accepted values per group; `undefined` where the market has never taken that group. */
export interface Accepted {
  details: Values | undefined;
  price: Values | undefined;
  stock: Values | undefined;
}
export interface PlannedOperation {
  operation: Operation;
  differences: FieldChange[];
}

const groupOf = (part: Part): keyof Accepted => (part === 'price' ? 'price' : part === 'stock' ? 'stock' : 'details');

/** The part of an entry that each attribute of a rulebook belongs to, looked up once for it. */
const partsOf = new WeakMap<Rulebook, ReadonlyMap<string, Part>>();
export function getParts(rulebook: Rulebook): ReadonlyMap<string, Part> {
  const known = partsOf.get(rulebook) ?? new Map(rulebook.attributes.map((a) => [a.key, a.part]));
  partsOf.set(rulebook, known);
  return known;
}

/** Values of a listing split by the group in which a market takes them. Pictures travel with the details. */
export function splitByGroup(rulebook: Rulebook, values: Values): Record<keyof Accepted, Record<string, Value>> {
  const parts = getParts(rulebook);
  const groups: Record<keyof Accepted, Record<string, Value>> = { details: {}, price: {}, stock: {} };
  for (const key in values) {
    const part = parts.get(key),
      value = values[key];
    if (part !== undefined && isFilled(value)) groups[groupOf(part)][key] = value!;
  }
  return groups;
}

function isDifferent(before: Values, after: Values): boolean {
  for (const k in after) if (!isSameValue(before[k], after[k])) return true;
  for (const k in before) if (after[k] === undefined && !isSameValue(before[k], undefined)) return true;
  return false;
}

/** What a person wants of a listing beside keeping it right. */
export type Wish = 'keep' | 'withdraw' | 'restore';

const revisions = [
  ['revise', 'details'],
  ['price', 'price'],
  ['stock', 'stock'],
] as const;

/**
 * The operations that bring the market to our values: create where it has nothing, else revise, price and stock for what
 * differs. A parent row has no price or stock. Nothing differs: nothing is sent.
 */
export function listOperations(
  category: CompiledCategory,
  role: RowRole,
  values: Values,
  accepted: Accepted,
  wish: Wish,
  isWithdrawn: boolean,
): Operation[] {
  const ask = (operation: Operation): Operation[] => (canAsk(category.rulebook, operation) ? [operation] : []);
  if (wish === 'withdraw' && !isWithdrawn && accepted.details) return ask('withdraw');
  if (isWithdrawn) return wish === 'restore' ? ask('restore') : [];
  if (wish === 'withdraw') return [];
  // An offer has nothing to revise: what is not its price or stock goes with the offer.
  if (!accepted.details) return [category.isOffer ? 'offer' : 'create'];
  const now = splitByGroup(category.rulebook, values);
  return revisions
    .filter(([, group]) => role !== 'parent' || group === 'details')
    .filter(([, group]) => isDifferent(accepted[group] ?? {}, now[group]))
    .map(([operation]) => (operation === 'revise' && category.isOffer ? 'offer' : operation));
}

/** The same operations, each with the fields that it would change. */
export function planOperations(
  category: CompiledCategory,
  role: RowRole,
  values: Values,
  accepted: Accepted,
  wish: Wish,
  isWithdrawn: boolean,
): PlannedOperation[] {
  const now = splitByGroup(category.rulebook, values);
  return listOperations(category, role, values, accepted, wish, isWithdrawn).map((operation) => {
    if (operation === 'offer')
      return {
        operation,
        differences: (['details', 'price', 'stock'] as const).flatMap((g) => compareValues(accepted[g] ?? {}, now[g])),
      };
    if (findOperation(category.rulebook, operation)?.done === 'create')
      // Put back as a new entry, everything goes as it is now; what differs is what the market last had otherwise.
      return {
        operation,
        differences: (['details', 'price', 'stock'] as const).flatMap((g) =>
          compareValues(operation === 'create' ? {} : (accepted[g] ?? {}), now[g]),
        ),
      };
    const group = revisions.find(([o]) => o === operation)?.[1];
    return { operation, differences: group ? compareValues(accepted[group] ?? {}, now[group]) : [] };
  });
}

/** Accepted values after the market took an operation with these differences. */
export function applyAccepted(
  rulebook: Rulebook,
  accepted: Accepted,
  operation: Operation,
  differences: readonly FieldChange[],
): Accepted {
  if ((operation === 'withdraw' || operation === 'restore') && differences.length === 0) return accepted;
  const parts = getParts(rulebook);
  const apply = (group: keyof Accepted): Record<string, Value> =>
    applyChanges(
      accepted[group] ?? {},
      differences.filter((d) => groupOf(parts.get(d.field) ?? 'details') === group),
    );
  return { details: apply('details'), price: apply('price'), stock: apply('stock') };
}

/** True if a price moved by more than a share since it was last accepted: held for a look. */
export function isPriceMoveHeld(before: string | undefined, after: string | undefined, share: string): boolean {
  if (!before || !after || Number(before) === 0) return false;
  return Math.abs(Number(after) - Number(before)) / Number(before) > Number(share);
}
