// What is ticked of categories that items are thought to belong to: all of it, until somebody takes something out.
import { type Sureness, surenesses } from '@basileus/contract';

export interface LeafCounts {
  key: string;
  path: readonly string[];
  sure: number;
  likely: number;
  unsure: number;
}

/** How many items of a leaf are at least so sure. */
export const countAtLeast = (leaf: Omit<LeafCounts, 'key' | 'path'>, least: Sureness): number =>
  leaf.sure + (least === 'sure' ? 0 : leaf.likely) + (least === 'unsure' ? leaf.unsure : 0);

export const isSureEnough = (sureness: Sureness | null, least: Sureness): boolean =>
  sureness !== null && surenesses.indexOf(sureness) <= surenesses.indexOf(least);

/** The leaves that can be taken: known ones of the tree with something at least so sure. */
export const listTakable = <T extends LeafCounts>(leaves: readonly T[], least: Sureness): T[] =>
  leaves.filter((l) => l.key !== '' && l.path.length > 0 && countAtLeast(l, least) > 0);

/** The other way round: what was in a set is not, and what was not is. */
export function turn<T>(set: ReadonlySet<T>, one: T): ReadonlySet<T> {
  const next = new Set(set);
  if (!next.delete(one)) next.add(one);
  return next;
}
