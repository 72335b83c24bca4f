import type { Knex } from 'knex';

/** Blank templates of markets, into which the files of a form are written. */
export const marketTemplates = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(`
      create table market_templates (
        market_id int not null references markets (id) on delete cascade,
        form text not null,
        file_id int not null references files (id),
        name text not null,
        sheet text not null,
        first_row int not null check (first_row > 0),
        at timestamptz not null default now(),
        primary key (market_id, form)
      );
      create index market_templates_file on market_templates (file_id)`);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw('drop table market_templates');
  },
};
