// What was done by the clock in the last day, put together by what did it: each part one statement.
import type { ClockWork } from '@basileus/contract';
import { type Db, rowsOf } from '../database';

const lastDay = `now() - interval '1 day'`;
type Of<K extends ClockWork['kind']> = Omit<Extract<ClockWork, { kind: K }>, 'kind' | 'at'> & { at: Date };

/** Rows that went to markets by themselves, and what the markets have said of them so far. */
const loadSent = (db: Db): Promise<Of<'sent'>[]> =>
  rowsOf(
    db,
    `select m.key as market, m.name, max(d.created_at) as at, count(*)::int as times, sum(d.total)::int as rows,
        sum(d.accepted + d.remarked)::int as accepted, sum(d.refused)::int as refused
      from dispatches d join markets m on m.id = d.market_id
      where d.by_clock and d.created_at > ${lastDay}
      group by 1, 2`,
  );

/** Business systems that were asked, what of it was written, and how often it failed or was held for a look. */
const loadBrought = (db: Db): Promise<Of<'brought'>[]> =>
  rowsOf(
    db,
    `select s.id as source, s.name, max(r.at) as at, count(*)::int as times,
        coalesce(sum((i.counts ->> 'create')::int + (i.counts ->> 'update')::int) filter (where r.state = 'done'), 0)::int as items,
        (count(*) filter (where r.state = 'failed'))::int as failed, (count(*) filter (where r.state = 'held'))::int as held
      from source_runs r join sources s on s.id = r.source_id
      left join imports i on i.id = r.import_id
      where r.how = 'clock' and r.at > ${lastDay}
      group by 1, 2`,
  );

/** Recipes that were done, by the last change that each made. */
const loadRecipes = (db: Db): Promise<Of<'recipe'>[]> =>
  rowsOf(
    db,
    `select r.name, max(c.at) as at, count(*)::int as times, sum(b.changed)::int as items, max(c.id) as "changeSet"
      from bulk_changes b join recipes r on r.id = b.recipe_id join change_sets c on c.id = b.change_set_id
      where b.by_clock and c.at > ${lastDay}
      group by r.id`,
  );

/** Files that were taken out. */
const loadFiles = (db: Db): Promise<Of<'file'>[]> =>
  rowsOf(
    db,
    `select s.name, max(e.at) as at, count(*)::int as times
      from exports e join export_sets s on s.id = e.set_id
      where e.at > ${lastDay}
      group by s.id`,
  );

/** Files that were written at their time. */
const loadImports = (db: Db): Promise<Of<'import'>[]> =>
  rowsOf(
    db,
    `select id as import, name, clock_at as at, coalesce((counts ->> 'applied')::int, 0) as rows,
        coalesce((counts ->> 'refuse')::int, 0) as refused
      from imports where clock_at > ${lastDay}`,
  );

/** What the clock did in the last day, what it did last first. */
export async function loadClockWork(db: Db): Promise<ClockWork[]> {
  const done = [
    ...(await loadSent(db)).map((r) => ({ kind: 'sent' as const, ...r })),
    ...(await loadBrought(db)).map((r) => ({ kind: 'brought' as const, ...r })),
    ...(await loadRecipes(db)).map((r) => ({ kind: 'recipe' as const, ...r })),
    ...(await loadFiles(db)).map((r) => ({ kind: 'file' as const, ...r })),
    ...(await loadImports(db)).map((r) => ({ kind: 'import' as const, ...r })),
  ];
  return done.sort((a, b) => b.at.getTime() - a.at.getTime()).map((r) => ({ ...r, at: r.at.toISOString() }));
}
