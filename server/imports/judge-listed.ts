// What rows of a file say of listings, held against what stands there: where it cannot be written it is left out with a word.
import type { FieldChange, ListingFault } from '@basileus/core/change';
import { toText, type Value } from '@basileus/core/listing';
import { readMarketKey } from '@basileus/core/product';
import type { PlannedRow, Problem, ProblemFact } from '@basileus/core/sheet';
import { findListingFault, groupByMarket, loadListedValues, loadListings } from '../choose';
import type { Db } from '../database';
import { loadMarket, type Market } from '../markets';
import type { ProductRow } from '../products';

interface ListedJudge {
  /** What stands in the listings of an item, by the keys of the file's fields. */
  held: (item: number) => Record<string, Value> | undefined;
  /** A planned row without what cannot be written into the listings of its item; nothing can of one that is new. */
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
      return { is: 'not-on-market' };
  }
}

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
  const find = ({ field, after }: FieldChange, product: ProductRow | undefined): ListingFault | undefined => {
    const named = readMarketKey(field);
    const market = named && markets.get(named.market);
    if (!market) return undefined;
    const listing = product && listings.get(named.market)?.get(product.id);
    // What is not asked for may always be emptied.
    return listing && after === null
      ? undefined
      : findListingFault(market, listing, product ?? { kind: 'single' }, named.attribute);
  };
  return {
    held: (item) => values.get(item),
    leaveOut: (planned, product) => {
      const problems: Problem[] = [];
      const changes = planned.changes.filter((c) => {
        const fault = find(c, product);
        if (fault)
          problems.push({
            field: c.field,
            value: toText(c.after ?? '').slice(0, 200),
            kind: 'left-out',
            fact: toFact(fault),
            level: 'caution',
          });
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
