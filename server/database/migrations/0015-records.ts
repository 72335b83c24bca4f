import type { Knex } from 'knex';

/** A record of a file may carry several listings: a family with its variants. Each line says in which record it stands. */
export const records = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
alter table dispatch_lines add column record int;
update dispatch_lines set record = line;
alter table dispatch_lines alter column record set not null;`);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('alter table dispatch_lines drop column record;');
  },
};
