import type { Knex } from 'knex';

// One queue: pg-boss delivers, retries and keeps one-at-a-time keys; `jobs` holds what people see. A run of a job is a row
// of its own: every transaction of the run takes a key-share lock on it, and whoever takes the job away deletes it, so that
// nothing of a run that lost its job can be written.
const sql = `
alter table jobs add column boss_id uuid, add column doing text;
create table job_runs (token uuid primary key, job_id uuid not null unique references jobs (id) on delete cascade, started_at timestamptz not null default now());
update jobs set state = 'queued', worker = null where state = 'running';
alter table jobs drop column worker;
drop index jobs_once;
create unique index jobs_once on jobs (kind, once) where once is not null and state = 'queued';
create unique index jobs_boss on jobs (boss_id) where boss_id is not null;
create index jobs_running on jobs (heartbeat_at) where state = 'running';
`;

export const fencedRuns = {
  up: async (db: Knex): Promise<void> => {
    await db.raw(sql);
  },
  down: async (db: Knex): Promise<void> => {
    await db.raw(`drop table job_runs; drop index jobs_once, jobs_boss, jobs_running;
      alter table jobs drop column boss_id, drop column doing, add column worker text;
      create unique index jobs_once on jobs (once) where once is not null and state in ('queued', 'running')`);
  },
};
