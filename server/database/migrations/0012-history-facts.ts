import type { Knex } from 'knex';

/** The history holds facts; what was worded before stays as it was said. */
export const historyFacts = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
alter table history alter column detail drop default;
alter table history alter column detail type jsonb
  using jsonb_build_object('is', 'said', 'action', action, 'subject', subject, 'detail', detail);
alter table history rename column detail to fact;
alter table history drop column action, drop column subject;`);
  },
  /** Words are made outside the database: what goes back says what kind of deed it was and keeps the fact as it is. */
  down: async (db: Knex): Promise<void> => {
    await db.raw(`
alter table history add column action text, add column subject text;
update history set action = coalesce(fact ->> 'action', fact ->> 'is'), subject = coalesce(fact ->> 'subject', fact ->> 'title', fact ->> 'name', '');
alter table history alter column action set not null;
alter table history alter column subject set not null;
alter table history rename column fact to detail;
alter table history alter column detail type text using coalesce(detail ->> 'detail', detail::text);
alter table history alter column detail set default '';`);
  },
};
