import type { Knex } from 'knex';

/** Change sets of one deed, which wrote into items and into listings of markets, share a number. */
export const deeds = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      alter table change_sets add column deed int;
      create index change_sets_deed on change_sets (deed) where deed is not null;
      with sets as (
          select n.import_id, n.change_set_id as id from import_sets n
          union select i.id, i.change_set_id from imports i join import_sets n on n.import_id = i.id where i.change_set_id is not null),
        shared as (select id, min(id) over (partition by import_id) as deed, count(*) over (partition by import_id) as n from sets)
      update change_sets s set deed = d.deed from shared d where s.id = d.id and d.n > 1`);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('alter table change_sets drop column deed');
  },
};
