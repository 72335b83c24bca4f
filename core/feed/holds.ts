// What must go out of one listing, and what holds it back.
import type { Finding } from '../checks/finding';
import type { Listing, Values } from '../listing/values';
import type { CompiledCategory } from '../rulebook/compile';
import { findForm } from '../rulebook/form-choice';
import type { Rulebook } from '../rulebook/schema';
import type { Operation, Part } from '../rulebook/terms';
import { type Accepted, getParts, isPriceMoveHeld, listOperations, type Wish } from './delta';

/**
 * Why an operation waits: the listing has a blocker that concerns it, was `refused` and is as it was, its `family` row
 * cannot be created, a `member` of the family that goes whole cannot, its price moved so far that somebody should look, or a
 * person has set a `timed` moment at which it goes.
 */
export type Hold = 'blocked' | 'refused' | 'family' | 'member' | 'price-moved' | 'timed';
export interface HeldOperation {
  operation: Operation;
  held: Hold | null;
}

/** How a listing stands with the market, beside its values. */
export interface Standing {
  accepted: Accepted;
  wish: Wish;
  isWithdrawn: boolean;
  /** True where the market refused these very values. */
  isRefused: boolean;
  /** True where the family row, which must go first, cannot. */
  isParentHeld: boolean;
  /** Prices that a person has looked at and let go, by field. */
  releasedPrices: Values | undefined;
  /** Operations for which a person has set a time that is still to come. */
  timed: readonly Operation[];
}

/**
 * The operations of a listing, each with what holds it. A blocker holds what it concerns: that of a text holds neither
 * price nor stock, since an entry that sells wrong stock costs more than one with an old text; that of the SKU holds all.
 * A blocker holds neither taking down nor putting back. A refusal holds all but stock, and but taking down: an entry that
 * should not be there is not kept there for a text that was refused. Common practice.
 */
export function planHeldOperations(
  category: CompiledCategory,
  listing: Listing,
  standing: Standing,
  findings: readonly Finding[],
): HeldOperation[] {
  const { rulebook } = category;
  const parts = getParts(rulebook);
  const blockers = findings.filter((f) => f.level === 'blocker');
  const { accepted, wish, isWithdrawn } = standing;
  return listOperations(category, listing.role, listing.values, accepted, wish, isWithdrawn).map((operation) => ({
    operation,
    held: blockers.some((f) => concerns(f, operation, parts))
      ? 'blocked'
      : standing.isRefused && operation !== 'stock' && operation !== 'withdraw'
        ? 'refused'
        : // A variant that waits for its time may wait with its family row.
          standing.isParentHeld && operation === 'create' && !standing.timed.includes('create')
          ? 'family'
          : operation === 'price' && isPriceHeld(category, listing, standing)
            ? 'price-moved'
            : standing.timed.includes(operation)
              ? 'timed'
              : null,
  }));
}

function concerns(finding: Finding, operation: Operation, parts: ReadonlyMap<string, Part>): boolean {
  if (operation === 'withdraw' || operation === 'restore') return false;
  if (operation === 'price' || operation === 'stock')
    return finding.field === 'sku' || parts.get(finding.field) === operation;
  return true;
}

function isPriceHeld({ rulebook }: CompiledCategory, { values }: Listing, standing: Standing): boolean {
  return rulebook.offers.some(({ price }) => {
    const before = standing.accepted.price?.[price],
      after = values[price];
    if (typeof before !== 'string' || typeof after !== 'string' || standing.releasedPrices?.[price] === after)
      return false;
    return isPriceMoveHeld(before, after, rulebook.offer.priceMoveHeld);
  });
}

/** True where a market takes a new family as one record, so that all of it goes or nothing. */
export const takesWholeFamilies = (book: Rulebook): boolean => findForm(book, 'create')?.record === 'family';

/**
 * The operations of a family that goes whole. While one of its rows that is wanted cannot be created, a family that the
 * market does not have yet waits with all of them; what joins a family that is there waits for nobody.
 */
export function holdWholeFamily<T extends { isParent: boolean; planned: readonly HeldOperation[] }>(
  family: readonly T[],
): (T & { planned: HeldOperation[] })[] {
  const creates = (row: T): HeldOperation | undefined => row.planned.find((p) => p.operation === 'create');
  const isNew = family.some((r) => r.isParent && creates(r));
  const isHeld = isNew && family.some((r) => creates(r)?.held);
  return family.map((row) => ({
    ...row,
    planned: row.planned.map((p) =>
      isHeld && p.operation === 'create' && p.held === null ? { ...p, held: 'member' as const } : p,
    ),
  }));
}
