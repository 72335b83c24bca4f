import type { Knex } from 'knex';

// What is wrong with a row of an import is kept as a fact; what was worded before stays as it was said.
const change = (sql: string): string => `
update import_rows set problems = (select jsonb_agg(${sql} order by n) from jsonb_array_elements(problems) with ordinality as x (p, n))
  where jsonb_array_length(problems) > 0`;

export const problemFacts = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(
      change(`(p - 'says') || jsonb_build_object('fact', jsonb_build_object('is', 'said', 'says', p -> 'says'))`),
    );
  },
  /** The sentences of facts are made outside the database; what goes back says only what kind of thing is wrong. */
  down: async (db: Knex): Promise<void> => {
    await db.raw(change(`(p - 'fact') || jsonb_build_object('says', coalesce(p -> 'fact' -> 'says', p -> 'kind'))`));
  },
};
