import type { Knex } from 'knex';

const allow = (kinds: string): string =>
  `alter table correspondences drop constraint correspondences_kind_check, add constraint correspondences_kind_check check (kind in (${kinds}));`;
const known = `'category', 'field', 'value'`;

/** An own category that is not wanted on a market is remembered, so that items which are added later are left out too. */
export const unwanted = {
  up: (db: Knex): Promise<unknown> => db.raw(allow(`${known}, 'unwanted'`)),
  down: async (db: Knex): Promise<void> => {
    await db.raw(`delete from correspondences where kind = 'unwanted'`);
    await db.raw(allow(known));
  },
};
