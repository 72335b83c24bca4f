// What a market shows of prices and stock beside what it was last sent and took: where they differ, somebody changed it there, or
// something was lost.
import { canonicalNumber, exact } from '../quantity';
import type { Rulebook } from '../rulebook/schema';
import type { Values } from './values';

/** A field of which the market shows another value than it took. An empty text is nothing. */
export interface Drift {
  field: string;
  shows: string;
  took: string;
}

const isNumber = (text: string): boolean => canonicalNumber.test(text);
const isSame = (a: string, b: string): boolean =>
  a === b || (isNumber(a) && isNumber(b) && exact(a).eq(b)) || (a === '' && isNumber(b) && Number(b) === 0);

/**
 * Differences between what a market shows, by attribute, and what it took. What it was never sent is none of ours. Stock that is
 * less there was sold there and is no drift; more than it took is.
 */
export function findDrift(
  { attributes, roles }: Pick<Rulebook, 'attributes' | 'roles'>,
  shows: Readonly<Record<string, string>>,
  accepted: { price: Values | undefined; stock: Values | undefined },
): Drift[] {
  return Object.entries(shows).flatMap(([field, shown]): Drift[] => {
    const part = attributes.find((a) => a.key === field)?.part;
    const group = part === 'price' ? accepted.price : part === 'stock' ? accepted.stock : undefined;
    // The row of a family has neither, and of a stock that was never sent the market makes what it likes.
    if (!group || Object.keys(group).length === 0 || (part === 'stock' && group[field] === undefined)) return [];
    const held = group[field],
      took = typeof held === 'string' ? held : '';
    if (isSame(shown, took)) return [];
    if (part === 'stock' && field === roles.quantity && isNumber(shown) && isNumber(took) && exact(shown).lt(took))
      return [];
    return [{ field, shows: shown, took }];
  });
}
