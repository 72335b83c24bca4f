import { foldSku } from '@basileus/core/identifiers';
import type { Knex } from 'knex';
import { rowsOf } from '../connection';

const page = 5000;

/** How a SKU is folded is the core's to say; what was folded by the database, in Latin letters only, is folded anew. */
async function foldSkus(db: Knex): Promise<void> {
  await db.raw(`drop index products_sku_fold;
    alter table products drop column sku_fold;
    alter table products add column sku_fold text not null default ''`);
  for (let after = 0; ;) {
    const rows = await rowsOf<{ id: number; sku: string }>(
      db,
      'select id, sku from products where id > ? order by id limit ?',
      [after, page],
    );
    if (rows.length === 0) break;
    await db.raw(
      `update products p set sku_fold = r.fold from jsonb_to_recordset(?::jsonb) as r(id bigint, fold text) where r.id = p.id`,
      [JSON.stringify(rows.map((r) => ({ id: r.id, fold: foldSku(r.sku) })))],
    );
    after = rows.at(-1)!.id;
  }
  await db.raw(`alter table products alter column sku_fold drop default, add check (sku_fold <> '');
    create index products_sku_fold on products (sku_fold)`);
}

export const firmGround = {
  up: async (db: Knex): Promise<void> => {
    await foldSkus(db);
    // Findings are facts; their sentences are made where they are shown.
    await db.raw('alter table findings drop column says');
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(`alter table findings add column says text not null default '';
      alter table products drop column sku_fold;
      alter table products add column sku_fold text generated always as (regexp_replace(lower(sku), '[^a-z0-9]', '', 'g')) stored;
      create index products_sku_fold on products (sku_fold)`);
  },
};
