// One time that a business system is asked, as a job: rows are fetched, formed into a file, planned, and written where nobody
// has to look first. Its state stands in the database and is changed with what it tells of, so that a killed run goes on.
import { findNextTime, scheduleSchema } from '@basileus/core/change';
import type { FieldBook } from '@basileus/core/product';
import { understandSheet } from '@basileus/core/sheet';
import { guessRules, type SourceRow, type SourceRules } from '@basileus/core/source';
import { z } from 'zod';
import { type Db, rowOf } from '../database';
import { announce } from '../events';
import { loadFields } from '../fields';
import { dropFile, storeFile } from '../files';
import { AppError } from '../http';
import { discard, startWriting, takePrepared } from '../imports';
import { defineClock, defineJob, enqueue, type JobContext } from '../jobs';
import { bringRows, loadShare } from './bring';
import { loadKey, loadRun, mustLoadSource, noRunCounts, stageRows, type StoredRun, type StoredSource } from './queries';
import { readSource } from './transport';
import { say } from '@basileus/core/text';

const tell = (tx: Db): Promise<void> => announce(tx, { topic: 'sources' });
const setState = async (tx: Db, run: number, state: StoredRun['state'], more: object = {}): Promise<void> => {
  const said = Object.entries(more);
  await tx.raw(`update source_runs set state = ?${said.map(([k]) => `, ${k} = ?`).join('')} where id = ?`, [
    state,
    ...said.map(([, v]) => (typeof v === 'object' && v !== null ? JSON.stringify(v) : v) as string | number | null),
    run,
  ]);
  await tell(tx);
};

/** Begins to ask a business system. Throws where it is being asked already. */
export async function startRun(
  tx: Db,
  source: StoredSource,
  { then, changedOnly, how }: { then: 'look' | 'bring'; changedOnly: boolean; how: 'hand' | 'clock' },
  actor: string,
): Promise<{ run: number; job: string }> {
  const busy = await rowOf(
    tx,
    `select 1 as x from source_runs where source_id = ? and state in ('fetching', 'forming', 'planning', 'writing')`,
    [source.id],
  );
  if (busy)
    throw new AppError('not-now', say`${source.name} is being asked already.`, {
      remedy: say`Wait until that is done.`,
    });
  const { id: run } = (await rowOf<{ id: number }>(
    tx,
    `insert into source_runs (source_id, actor, how, then_do, changed_only, counts) values (?, ?, ?, ?, ?, ?) returning id`,
    [source.id, actor, how, then, changedOnly && source.since_param !== '', JSON.stringify(noRunCounts)],
  ))!;
  const job = await enqueue(tx, {
    kind: 'run-source',
    title: then === 'look' ? `Looking at ${source.name}` : `Bringing in ${source.name}`,
    payload: { run },
    once: `source-${source.id}`,
    link: `/all/gather/sources?source=${source.id}`,
    cancellable: true,
  });
  await tell(tx);
  return { run, job };
}

const sampleRows = 100;
/** Rules out of what columns are called and hold, by the same judgement as of a file that is dropped. */
function guessFrom(names: readonly string[], sample: readonly SourceRow[], book: FieldBook): SourceRules {
  const { columns } = understandSheet([[...names], ...sample.map((r) => names.map((n) => r[n] ?? ''))], book);
  const fieldOf = new Map(columns.map((c) => [names[c.index], c.field]));
  return guessRules(names, (column) => fieldOf.get(column));
}

/** Fetches all rows, or those that changed, in place of those that are here. */
async function fetchRows(run: StoredRun, source: StoredSource, { db, write, progress }: JobContext): Promise<void> {
  const asked = new Date();
  await write((tx) => tx.raw('delete from source_rows where source_id = ?', [source.id]));
  const columns = new Set<string>(),
    sample: SourceRow[] = [];
  let total = 0;
  const since = run.changed_only ? source.asked_at?.toISOString() : undefined;
  const reached = {
    name: source.name,
    way: source.way,
    address: source.address,
    decimalSign: source.decimal_sign,
    sinceParam: source.since_param,
    key: await loadKey(db, source.id),
  };
  for await (const rows of readSource(reached, since)) {
    for (const row of rows) for (const column in row) columns.add(column);
    if (sample.length < sampleRows) sample.push(...rows.slice(0, sampleRows));
    const from = total;
    await write((tx) => stageRows(tx, source.id, from, rows));
    total += rows.length;
    await progress(total, total, `row ${total}`);
  }
  const names = total === 0 ? undefined : [...columns];
  // A system that is there for the first time is told by its columns what they may mean.
  const guessed = source.rules === null && names ? guessFrom(names, sample, await loadFields(db)) : undefined;
  await write(async (tx) => {
    await tx.raw(
      `update sources set row_count = ?, fetched_at = now(), asked_at = ?, columns = coalesce(?::jsonb, columns), rules = coalesce(?::jsonb, rules)
        where id = ?`,
      [total, asked, names ? JSON.stringify(names) : null, guessed ? JSON.stringify(guessed) : null, source.id],
    );
    await setState(tx, run.id, run.then_do === 'look' ? 'done' : 'forming', {
      counts: { ...noRunCounts, rows: total },
    });
  });
}

const monthNames = 'Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec'.split(' ');
const two = (n: number): string => String(n).padStart(2, '0');
/** What the file of a run is called: the system, and when it was asked. */
const nameFile = (name: string, at: Date): string =>
  `${name}, ${at.getDate()} ${monthNames[at.getMonth()] ?? ''} ${two(at.getHours())}.${two(at.getMinutes())}.csv`;

/** Makes the file and begins to plan its import. */
async function formFile(run: StoredRun, source: StoredSource, { db, write }: JobContext): Promise<void> {
  const brought = await bringRows(db, source.id);
  const name = nameFile(source.name, run.at);
  const file = await storeFile(db, name, brought.lines());
  try {
    await write(async (tx) => {
      const id = await takePrepared(tx, { id: file.id, name }, brought.reading, brought.sample);
      await setState(tx, run.id, 'planning', { counts: brought.counts, import_id: id });
    });
  } catch (error) {
    await dropFile(db, file.id);
    throw error;
  }
}

/** Decides what becomes of a planned import: nothing is new, somebody looks first, or it is written. */
async function decide(run: StoredRun, source: StoredSource, { db, write }: JobContext): Promise<boolean> {
  const { news, rows, refused } = await loadShare(db, run.import_id!);
  if (news === 0 && refused === 0) {
    await discard(db, run.import_id!);
    await write((tx) => setState(tx, run.id, 'done', { import_id: null }));
    return true;
  }
  const isSurprising = rows > 0 && news * 100 > source.hold_percent * rows;
  if (run.how === 'hand' || isSurprising || news === 0) {
    await write((tx) => setState(tx, run.id, run.how === 'clock' && isSurprising ? 'held' : 'planned'));
    return true;
  }
  await startWriting(db, run.import_id!, run.actor);
  await write((tx) => setState(tx, run.id, 'writing'));
  return false;
}

const importState = async (db: Db, id: number | null): Promise<{ state: string; fault: string | null } | undefined> =>
  id === null ? undefined : rowOf(db, 'select state, fault from imports where id = ?', [id]);

export const runSourceJob = defineJob({
  kind: 'run-source',
  payload: z.strictObject({ run: z.int() }),
  attempts: 6,
  mostSeconds: 1800,
  run: async ({ run: id }, context) => {
    const { db, write } = context;
    for (;;) {
      const run = await loadRun(db, id);
      if (!run) return 'done';
      const source = await mustLoadSource(db, run.source_id);
      switch (run.state) {
        case 'fetching':
          await fetchRows(run, source, context);
          break;
        case 'forming':
          await formFile(run, source, context);
          break;
        case 'planning': {
          const found = await importState(db, run.import_id);
          if (found?.state === 'planning') return { again: 1 };
          if (found?.state !== 'planned')
            throw new AppError('not-now', found?.fault ?? say`The import of these rows is gone.`);
          if (await decide(run, source, context)) return 'done';
          break;
        }
        case 'writing': {
          const found = await importState(db, run.import_id);
          if (found?.state === 'applying') return { again: 1 };
          if (found?.state !== 'applied')
            throw new AppError('not-now', found?.fault ?? say`The import of these rows was stopped.`);
          await write((tx) => setState(tx, id, 'done'));
          return 'done';
        }
        default:
          return 'done';
      }
    }
  },
  onFailed: ({ run }, db, reason) => setState(db, run, 'failed', { fault: reason }),
  onCancelled: ({ run }, db) => setState(db, run, 'failed', { fault: 'It was stopped.' }),
});

/** Asks one system that is due, and says when it is due again; answers false where none is. */
async function runDue(tx: Db, now: Date): Promise<boolean> {
  const due = await rowOf<{ id: number; schedule: unknown; actor: string }>(
    tx,
    'select id, schedule, actor from sources where next_at <= ? order by next_at, id limit 1 for update skip locked',
    [now],
  );
  if (!due) return false;
  await tx.raw('update sources set next_at = ? where id = ?', [
    findNextTime(scheduleSchema.parse(due.schedule), now),
    due.id,
  ]);
  try {
    const source = await mustLoadSource(tx, due.id);
    await tx.transaction((inner) =>
      startRun(inner, source, { then: 'bring', changedOnly: true, how: 'clock' }, due.actor),
    );
  } catch (e) {
    // One that is being asked already is asked the next time.
    if (!(e instanceof AppError)) throw e;
  }
  return true;
}

const clock = defineClock('source-clock', 'sources', runDue);
export const sourceClockJob = clock.job;
/** The clock looks when the next system is due. */
export const wakeClock = clock.wake;
