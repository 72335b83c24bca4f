import type { Knex } from 'knex';

/** By what the rows of files with these headings are known. */
export const knownBy = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(
      `alter table import_layouts add column known_by text not null default 'sku' check (known_by in ('sku', 'gtin', 'mpn'))`,
    );
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('alter table import_layouts drop column known_by');
  },
};
