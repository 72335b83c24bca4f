import type { Knex } from 'knex';

/** People by name: all who have signed something until now are here. What somebody did last is found at once. */
export const people = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      create table people (
        id bigint generated always as identity primary key,
        name text not null check (name <> '' and length(name) <= 80),
        left_at timestamptz
      );
      create unique index people_by_name on people (lower(name));
      insert into people (name)
        select min(name) from (
            select 'Catalog desk' as name union select actor from history union select actor from change_sets) x
          where name not in ('', 'Basileus') and length(name) <= 80 group by lower(name);
      create index history_by_actor on history (actor, id);
      create index change_sets_by_actor on change_sets (actor, id);
    `);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('drop index change_sets_by_actor; drop index history_by_actor; drop table people');
  },
};
