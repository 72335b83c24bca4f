import type { Knex } from 'knex';

/** By what the rows of files with these headings are known, and whether new ones get their SKUs from that. */
export const knownBy = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(
      `alter table import_layouts
        add column known_by text not null default 'sku' check (known_by in ('sku', 'gtin', 'mpn')),
        add column makes_skus boolean not null default false`,
    );
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('alter table import_layouts drop column known_by, drop column makes_skus');
  },
};
