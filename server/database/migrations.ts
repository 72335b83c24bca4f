import type { Knex } from 'knex';
import { firstTables } from './migrations/0001-first-tables';
import { checkedAgainst } from './migrations/0002-checked-against';
import { fencedRuns } from './migrations/0003-fenced-runs';
import { longRoads } from './migrations/0004-long-roads';
import { twoWriters } from './migrations/0005-two-writers';
import { firmGround } from './migrations/0006-firm-ground';
import { tallies } from './migrations/0007-tallies';

interface Migration {
  name: string;
  up: (db: Knex) => Promise<void>;
  down: (db: Knex) => Promise<void>;
}
const all: readonly Migration[] = [
  { name: '0001-first-tables', ...firstTables },
  { name: '0002-checked-against', ...checkedAgainst },
  { name: '0003-fenced-runs', ...fencedRuns },
  { name: '0004-long-roads', ...longRoads },
  { name: '0005-two-writers', ...twoWriters },
  { name: '0006-firm-ground', ...firmGround },
  { name: '0007-tallies', ...tallies },
];

/** Migrations live in code, so that the built server carries them. */
const source = {
  getMigrations: () => Promise.resolve([...all]),
  getMigrationName: (m: Migration) => m.name,
  getMigration: (m: Migration) => Promise.resolve(m),
};

/** Brings the database up to this version. Safe to call from several processes: knex takes a lock. */
export const migrate = (db: Knex): Promise<unknown> => db.migrate.latest({ migrationSource: source });
