// What rows of a file say of listings, held against what stands there: where it cannot be written it is left out with a word.
import type { FieldChange, ListingFault } from '@basileus/core/change';
import { toText, type Value } from '@basileus/core/listing';
import { readMarketKey, toMarketKey } from '@basileus/core/product';
import { categoryAttribute } from '@basileus/core/rulebook';
import type { PlannedRow, Problem, ProblemFact } from '@basileus/core/sheet';
import { findComingFault, findListingFault, groupByMarket, loadListedValues, loadListings } from '../choose';
import type { Db } from '../database';
import { loadOwnRules } from '../listings';
import { loadMarket, type Market } from '../markets';
import type { ProductRow } from '../products';

interface ListedJudge {
  /** What stands in the listings of an item, by the keys of the file's fields. */
  held: (item: number) => Record<string, Value> | undefined;
  /** A planned row without what cannot be written into the listings of its item, those that a new one will have. */
  leaveOut: (planned: PlannedRow, product: ProductRow | undefined) => PlannedRow;
}

function toFact(fault: ListingFault): ProblemFact {
  switch (fault.kind) {
    case 'not-in-category':
      return { is: 'not-asked-there', category: fault.category };
    case 'not-in-rows':
      return { is: fault.of === 'family' ? 'of-family' : 'of-variants' };
    case 'no-category':
      return { is: 'no-leaf-there' };
    case 'not-on-market':
    case 'worked-out':
      return { is: fault.kind };
  }
}

/** A change that is left out, with its reason. */
export const toLeftOut = ({ field, after }: Pick<FieldChange, 'field' | 'after'>, fault: ListingFault): Problem => ({
  field,
  value: toText(after ?? '').slice(0, 200),
  kind: 'left-out',
  fact: toFact(fault),
  level: 'caution',
});

/** What a planned row gives a field, as a text. */
const textOf = (planned: PlannedRow, field: string): string | undefined => {
  const after = planned.changes.find((c) => c.field === field)?.after;
  return typeof after === 'string' && after !== '' ? after : undefined;
};

/** Reads the listings of some items on the markets whose fields are among `keys`. */
export async function createListedJudge(
  db: Db,
  keys: readonly string[],
  products: readonly ProductRow[],
): Promise<ListedJudge> {
  const markets = new Map<string, Market>();
  for (const key of groupByMarket(keys).keys()) markets.set(key, await loadMarket(db, key));
  if (markets.size === 0) return { held: () => undefined, leaveOut: (planned) => planned };
  const ids = products.map((p) => p.id);
  const values = await loadListedValues(db, keys, ids),
    listings = await loadListings(db, markets.keys(), ids);
  const rules = new Map<string, Awaited<ReturnType<typeof loadOwnRules>>>();
  for (const [key, market] of markets) rules.set(key, await loadOwnRules(db, market));
  const find = (
    { field, after }: FieldChange,
    planned: PlannedRow,
    product: ProductRow | undefined,
  ): ListingFault | undefined => {
    const named = readMarketKey(field);
    const market = named && markets.get(named.market);
    if (!market) return undefined;
    if (!product) {
      const own = textOf(planned, 'category') ?? '',
        { leaves, unwanted } = rules.get(named.market)!;
      const category = textOf(planned, toMarketKey(named.market, categoryAttribute)) ?? leaves.get(own) ?? null;
      const isVariant = textOf(planned, 'parent_sku') !== undefined;
      return findComingFault(market, { category, isWanted: !unwanted.has(own), isVariant }, named.attribute);
    }
    const listing = listings.get(named.market)?.get(product.id);
    // What is not asked for may always be emptied.
    return listing && after === null ? undefined : findListingFault(market, listing, product, named.attribute);
  };
  return {
    held: (item) => values.get(item),
    leaveOut: (planned, product) => {
      const problems: Problem[] = [];
      const changes = planned.changes.filter((c) => {
        const fault = find(c, planned, product);
        if (fault) problems.push(toLeftOut(c, fault));
        return fault === undefined;
      });
      if (problems.length === 0) return planned;
      return {
        ...planned,
        action: planned.action === 'update' && changes.length === 0 ? 'same' : planned.action,
        changes,
        problems: [...planned.problems, ...problems],
      };
    },
  };
}
