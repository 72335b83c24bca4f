import type { Knex } from 'knex';

// A listing remembers against which version of its product and which revision of its market it was last checked. Where
// either has moved on, its findings and its plan speak of something else, and nothing of it goes out until it is checked.
const sql = `
alter table markets add column revision int not null default 1;
alter table listings add column product_version int not null default 0, add column market_revision int not null default 0;
update listings l set product_version = p.version, market_revision = 1 from products p where p.id = l.product_id and l.checked_at is not null;
`;

export const checkedAgainst = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(sql);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(
      'alter table listings drop column product_version, drop column market_revision; alter table markets drop column revision',
    );
  },
};
