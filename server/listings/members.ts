// What the members of a family show each other. A listing is judged beside the others of its family; what of it they look at
// is little, and while that stays as it was they need not be judged again.
import { type HeldOperation, takesWholeFamilies } from '@basileus/core/feed';
import type { Values } from '@basileus/core/listing';
import { listAxes, type Rulebook } from '@basileus/core/rulebook';
import { type Db, rowsOf } from '../database';
import type { Market } from '../markets';

/**
 * What a member shows the others: its family, whether it counts as a member on this market, whether it holds the others back,
 * what stands in the fields that they look at, and how what of it is to be created is held where a family goes whole or not at all.
 */
export type Sight = [
  root: number,
  isThere: boolean,
  holdsBack: boolean,
  values: (Values[string] | null)[],
  creates: HeldOperation['held'][],
];
export const isSameSight = (a: Sight | null, b: Sight | null): boolean => JSON.stringify(a) === JSON.stringify(b);

/** A member of a family that is not judged itself, as it was judged last. */
export interface Member {
  rootId: number;
  sku: string;
  isParent: boolean;
  isThere: boolean;
  holdsBack: boolean;
  values: Values;
  /** What of it is to be created, where a family goes whole or not at all. */
  creates: HeldOperation[];
}

const seen = new WeakMap<Rulebook, readonly string[]>();
/** Attributes of a market that members of a family look at in each other: what divides them, and what they share. */
export function listSeenFields(book: Rulebook): readonly string[] {
  const known = seen.get(book);
  if (known) return known;
  const fields = [...new Set([...book.attributes.filter((a) => a.shared).map((a) => a.key), ...listAxes(book)])].sort();
  seen.set(book, fields);
  return fields;
}

const isCreate = (p: { operation: string }): boolean => p.operation === 'create';

/** True where a family's own row cannot go, so that its variants wait for it. */
export const holdsBack = (isOut: boolean, hasLeaf: boolean, planned: readonly HeldOperation[]): boolean =>
  isOut || !hasLeaf || planned.some((p) => isCreate(p) && p.held !== null);

/** What a listing that was judged shows the others of its family. */
export const toSight = (
  market: Market,
  shown: Omit<Member, 'sku' | 'creates'> & { planned: readonly HeldOperation[] },
): Sight => [
  shown.rootId,
  shown.isThere,
  shown.isParent && shown.holdsBack,
  listSeenFields(market.rulebook).map((k) => shown.values[k] ?? null),
  takesWholeFamilies(market.rulebook) ? shown.planned.filter(isCreate).map((p) => p.held) : [],
];

/** Members of families as they were judged last, but for those that are judged now. One that was never judged so is left out. */
export async function loadMembers(
  db: Db,
  market: Market,
  roots: readonly number[],
  judged: readonly number[],
): Promise<Member[]> {
  if (roots.length === 0) return [];
  const rows = await rowsOf<{ sku: string; kind: string; sight: Sight }>(
    db,
    `select p.sku, p.kind, l.family_sight as sight
      from products p join listings l on l.product_id = p.id and l.market_id = ?
      where coalesce(p.parent_id, p.id) = any(?) and not l.id = any(?) and l.family_sight is not null`,
    [market.id, [...roots], [...judged]],
  );
  const fields = listSeenFields(market.rulebook);
  return rows.map(({ sku, kind, sight: [rootId, isThere, holds, values, creates] }) => ({
    rootId,
    sku,
    isParent: kind === 'family',
    isThere,
    holdsBack: holds,
    creates: creates.map((held) => ({ operation: 'create', held })),
    values: Object.fromEntries(
      fields.flatMap((k, i) => {
        const held = values[i] ?? null;
        return held === null ? [] : [[k, held] as const];
      }),
    ),
  }));
}
