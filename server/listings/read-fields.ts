// Which fields of items a market reads: what was changed beside them concerns it nothing, and need not be loaded for it.
import { type Correspondences, listReadAnywhere } from '@basileus/core/listing';
import { housePrices } from '@basileus/core/pricing';
import type { Db } from '../database';
import { loadFields } from '../fields';
import { loadCorrespondences, type Market } from '../markets';

/** What an item is to every market, whatever it asks for: how it is known, of which family and kind it is, what it costs. */
const readAlways = ['sku', 'parent_sku', 'kind', 'category', 'gtin', 'axes', 'pictures', 'cost'];

/** Fields of items by which what is made of them for a market may be another. */
export function listReadFields(market: Market, c: Correspondences): Set<string> {
  const read = listReadAnywhere(market.rulebook.attributes, c);
  // An item that has them and no others shows of which the market makes some.
  const bare = Object.fromEntries(housePrices.map((field) => [field, '1']));
  for (const from of Object.values(market.fillPrices(bare))) read.add(from);
  for (const field of readAlways) read.add(field);
  return read;
}

/** What was said of a market, with the facts of items that it does not read, by their names: texts of other languages mostly. */
export interface Reading extends Correspondences {
  unread?: readonly string[];
}

/** The same for going through many listings, where a question about the fields of the house costs less than it saves. */
export async function loadReading(db: Db, market: Market): Promise<Reading> {
  const c = await loadCorrespondences(db, market.id),
    read = listReadFields(market, c);
  const unread = (await loadFields(db)).all.flatMap(({ key }) =>
    key.startsWith('fact.') && !read.has(key) ? [key.slice('fact.'.length)] : [],
  );
  return { ...c, unread };
}
