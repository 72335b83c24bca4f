import type { Knex } from 'knex';
import { firstTables } from './migrations/0001-first-tables';
import { checkedAgainst } from './migrations/0002-checked-against';
import { fencedRuns } from './migrations/0003-fenced-runs';
import { longRoads } from './migrations/0004-long-roads';
import { twoWriters } from './migrations/0005-two-writers';
import { firmGround } from './migrations/0006-firm-ground';
import { tallies } from './migrations/0007-tallies';
import { constraints } from './migrations/0008-constraints';
import { keptMarks } from './migrations/0009-kept-marks';
import { changeItems } from './migrations/0010-change-items';
import { problemFacts } from './migrations/0011-problem-facts';
import { historyFacts } from './migrations/0012-history-facts';
import { sites } from './migrations/0013-sites';
import { gates } from './migrations/0014-gates';
import { records } from './migrations/0015-records';
import { leftOut } from './migrations/0016-left-out';
import { entries } from './migrations/0017-entries';
import { unwanted } from './migrations/0018-unwanted';
import { ownFields } from './migrations/0019-own-fields';
import { inBulk } from './migrations/0020-in-bulk';
import { outAndBack } from './migrations/0021-out-and-back';
import { views } from './migrations/0022-views';
import { sources } from './migrations/0023-sources';
import { standingExports } from './migrations/0024-standing-exports';
import { familySight } from './migrations/0025-family-sight';
import { bulkTrials } from './migrations/0026-bulk-trials';
import { listedColumns } from './migrations/0027-listed-columns';
import { formOfFile } from './migrations/0031-form-of-file';
import { pictures } from './migrations/0032-pictures';
import { saidByNode } from './migrations/0033-said-by-node';
import { leanCounts } from './migrations/0035-lean-counts';
import { markedFields } from './migrations/0036-marked-fields';
import { unreadCells } from './migrations/0037-unread-cells';
import { sendings } from './migrations/0038-sendings';
import { sharedStock } from './migrations/0039-shared-stock';
import { priceHistory } from './migrations/0040-price-history';
import { drift } from './migrations/0041-drift';
import { margins } from './migrations/0042-margins';
import { clockWork } from './migrations/0043-clock-work';
import { releasedPrices } from './migrations/0044-released-prices';
import { people } from './migrations/0045-people';
import { timedImports } from './migrations/0046-timed-imports';
import { placing } from './migrations/0047-placing';
import { cutTexts } from './migrations/0048-cut-texts';
import { knownBy } from './migrations/0049-known-by';
import { alsoSheets } from './migrations/0050-also-sheets';
import { leftEntries } from './migrations/0034-left-entries';
import { marketTemplates } from './migrations/0030-market-templates';
import { deeds } from './migrations/0029-deeds';
import { retries } from './migrations/0028-retries';

interface Migration {
  name: string;
  up: (db: Knex) => Promise<unknown>;
  down: (db: Knex) => Promise<unknown>;
}
const all: readonly Migration[] = [
  { name: '0001-first-tables', ...firstTables },
  { name: '0002-checked-against', ...checkedAgainst },
  { name: '0003-fenced-runs', ...fencedRuns },
  { name: '0004-long-roads', ...longRoads },
  { name: '0005-two-writers', ...twoWriters },
  { name: '0006-firm-ground', ...firmGround },
  { name: '0007-tallies', ...tallies },
  { name: '0008-constraints', ...constraints },
  { name: '0009-kept-marks', ...keptMarks },
  { name: '0010-change-items', ...changeItems },
  { name: '0011-problem-facts', ...problemFacts },
  { name: '0012-history-facts', ...historyFacts },
  { name: '0013-sites', ...sites },
  { name: '0014-gates', ...gates },
  { name: '0015-records', ...records },
  { name: '0016-left-out', ...leftOut },
  { name: '0017-entries', ...entries },
  { name: '0018-unwanted', ...unwanted },
  { name: '0019-own-fields', ...ownFields },
  { name: '0020-in-bulk', ...inBulk },
  { name: '0021-out-and-back', ...outAndBack },
  { name: '0022-views', ...views },
  { name: '0023-sources', ...sources },
  { name: '0024-standing-exports', ...standingExports },
  { name: '0025-family-sight', ...familySight },
  { name: '0026-bulk-trials', ...bulkTrials },
  { name: '0027-listed-columns', ...listedColumns },
  { name: '0028-retries', ...retries },
  { name: '0029-deeds', ...deeds },
  { name: '0030-market-templates', ...marketTemplates },
  { name: '0031-form-of-file', ...formOfFile },
  { name: '0032-pictures', ...pictures },
  { name: '0033-said-by-node', ...saidByNode },
  { name: '0034-left-entries', ...leftEntries },
  { name: '0035-lean-counts', ...leanCounts },
  { name: '0036-marked-fields', ...markedFields },
  { name: '0037-unread-cells', ...unreadCells },
  { name: '0038-sendings', ...sendings },
  { name: '0039-shared-stock', ...sharedStock },
  { name: '0040-price-history', ...priceHistory },
  { name: '0041-drift', ...drift },
  { name: '0042-margins', ...margins },
  { name: '0043-clock-work', ...clockWork },
  { name: '0044-released-prices', ...releasedPrices },
  { name: '0045-people', ...people },
  { name: '0046-timed-imports', ...timedImports },
  { name: '0047-placing', ...placing },
  { name: '0048-cut-texts', ...cutTexts },
  { name: '0049-known-by', ...knownBy },
  { name: '0050-also-sheets', ...alsoSheets },
];

/** Migrations live in code, so that the built server carries them. */
const source = {
  getMigrations: () => Promise.resolve([...all]),
  getMigrationName: (m: Migration) => m.name,
  getMigration: (m: Migration) => Promise.resolve(m),
};

/** Brings the database up to this version. Safe to call from several processes: knex takes a lock. */
export const migrate = (db: Knex): Promise<unknown> => db.migrate.latest({ migrationSource: source });

/** Takes the last migrations back, down to the one of this name, which stays; for tests of the way back. */
export async function migrateDownTo(db: Knex, name: string): Promise<void> {
  const isThere = async (): Promise<boolean> => {
    const [last] = (await db('knex_migrations').select('name').orderBy('id', 'desc').limit(1)) as { name: string }[];
    return last !== undefined && last.name !== name;
  };
  while (await isThere()) await db.migrate.down({ migrationSource: source });
}
