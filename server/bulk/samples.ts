// A few of the items that are meant, whole, for showing what a formula gives while it is written.
import type { SampleItem } from '@basileus/contract';
import type { Which } from '@basileus/core/choose';
import { loadListedValues, loadWideFields, toWhichSql } from '../choose';
import { type Db, rowsOf } from '../database';
import { loadProductRows, toFields } from '../products';
import { orderSql } from './meant';

const most = 3;

/** The first items that are meant and sold, with their fields and those of their listings; on a market where one is named. */
export async function loadSamples(db: Db, which: Which, market: string): Promise<SampleItem[]> {
  const book = await loadWideFields(db);
  const { sql, bindings } = await toWhichSql(db, which, book);
  const there =
    market === ''
      ? ''
      : `and exists (select 1 from listings l join markets m on m.id = l.market_id
          where l.product_id = p.id and m.key = ? and l.market_state <> 'left out')`;
  const ids = (
    await rowsOf<{ id: number }>(
      db,
      `select p.id from products p where p.kind <> 'family' and ${sql} ${there} order by ${orderSql} limit ?`,
      [...bindings, ...(market === '' ? [] : [market]), most],
    )
  ).map((r) => r.id);
  const listed = await loadListedValues(
    db,
    book.all.filter((f) => f.market !== undefined).map((f) => f.key),
    ids,
  );
  const rows = new Map((await loadProductRows(db, 'p.id = any(?)', [ids])).map((r) => [r.id, r]));
  return ids.flatMap((id) => {
    const row = rows.get(id);
    return row ? [{ id, sku: row.sku, kind: row.kind, fields: { ...toFields(row), ...listed.get(id) } }] : [];
  });
}
