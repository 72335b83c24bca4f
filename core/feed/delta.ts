// What must go to a market: the current values against the last accepted ones, group by group.
import { applyChanges, compareValues, type FieldChange } from '../change/change';
import { isFilled, isSameValue, type RowRole, type Value, type Values } from '../listing/values';
import type { CompiledCategory } from '../rulebook/compile';
import type { Rulebook } from '../rulebook/schema';
import type { Operation, Part } from '../rulebook/terms';
import { canAsk } from '../forms/record';
import { findOperation } from '../rulebook/form-choice';

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

/**
 * What was last accepted of a group, as far as it is asked for: prices and stock of a site where the item is not sold any
 * more are nothing to change, they go with the details that end it there.
 */
function toAsked(rulebook: Rulebook, accepted: Values | undefined): Values {
  if (accepted === undefined) return {};
  const parts = getParts(rulebook);
  for (const key in accepted)
    if (!parts.has(key)) return Object.fromEntries(Object.entries(accepted).filter(([k]) => parts.has(k)));
  return accepted;
}

/**
 * Prices at sites where an entry that stands is not sold yet: they go with the details that bring it there, since a market
 * takes no price for where nothing stands.
 */
export function pickNewAtSites(rulebook: Rulebook, accepted: Accepted, price: Values): Values {
  if (accepted.details === undefined) return {};
  const sites = new Set(
    rulebook.offers
      .filter((o) => o.site.optional && !isFilled(accepted.price?.[o.price]) && isFilled(price[o.price]))
      .map((o) => o.site.key),
  );
  if (sites.size === 0) return {};
  const own = new Set(rulebook.attributes.flatMap((a) => (a.facet?.site && sites.has(a.facet.site) ? [a.key] : [])));
  return Object.fromEntries(Object.entries(price).filter(([k]) => own.has(k)));
}

type Sides = Record<keyof Accepted, { before: Values; after: Values }>;
/** What the market has and what it is to have of each group, as the operations divide them. */
function divide(rulebook: Rulebook, values: Values, accepted: Accepted): Sides {
  const now = splitByGroup(rulebook, values);
  const fresh = pickNewAtSites(rulebook, accepted, now.price);
  const isNew = Object.keys(fresh).length > 0;
  return {
    details: { before: accepted.details ?? {}, after: isNew ? { ...now.details, ...fresh } : now.details },
    price: {
      before: toAsked(rulebook, accepted.price),
      after: isNew ? Object.fromEntries(Object.entries(now.price).filter(([k]) => !(k in fresh))) : now.price,
    },
    stock: { before: toAsked(rulebook, accepted.stock), after: now.stock },
  };
}
const compare = ({ before, after }: Sides['details']): FieldChange[] => compareValues(before, after);

function isDifferent({ before, after }: Sides['details']): boolean {
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
  const sides = divide(category.rulebook, values, accepted);
  return revisions
    .filter(([, group]) => role !== 'parent' || group === 'details')
    .filter(([, group]) => isDifferent(sides[group]))
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
  const sides = divide(category.rulebook, values, accepted);
  const all = (): FieldChange[] => (['details', 'price', 'stock'] as const).flatMap((g) => compare(sides[g]));
  return listOperations(category, role, values, accepted, wish, isWithdrawn).map((operation) => {
    if (operation === 'offer') return { operation, differences: all() };
    // Put back as a new entry, everything goes as it is now; what differs is what the market last had otherwise.
    if (findOperation(category.rulebook, operation)?.done === 'create')
      return {
        operation,
        differences:
          operation === 'create'
            ? Object.values(splitByGroup(category.rulebook, values)).flatMap((now) => compareValues({}, now))
            : all(),
      };
    const group = revisions.find(([o]) => o === operation)?.[1];
    return { operation, differences: group ? compare(sides[group]) : [] };
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
