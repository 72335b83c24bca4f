// Fields that can be asked of, changed in bulk and named in formulas: those of the items, and those of their listings.
import { extendFields, type FieldBook, type ProductField } from '@basileus/core/product';
import { listMarketFields, type Rulebook } from '@basileus/core/rulebook';
import type { Db } from '../database';
import { loadFields } from '../fields';
import { loadMarkets, type Market } from '../markets';

const known = new WeakMap<Rulebook, { name: string; fields: readonly ProductField[] }>();

/** The fields of a market's listings, made once for each rulebook. */
function fieldsOf({ key, name, rulebook }: Market): readonly ProductField[] {
  const found = known.get(rulebook);
  if (found?.name === name) return found.fields;
  const fields = listMarketFields({ key, name }, rulebook);
  known.set(rulebook, { name, fields });
  return fields;
}

/** The book of the house with the fields of the listings of all markets behind it. */
export const widenFields = async (db: Db, book: FieldBook): Promise<FieldBook> =>
  extendFields(book, (await loadMarkets(db)).flatMap(fieldsOf));
export const loadWideFields = async (db: Db): Promise<FieldBook> => widenFields(db, await loadFields(db));
