// Taking items out of the catalog, as a job. Which are meant is written down when it is asked for; each step judges what it
// takes as it stands then: bundles before what they hold, variants before their families.
import type { RemovalCounts, StaysFor } from '@basileus/contract';
import { isEveryItem, type Which, wordWhich } from '@basileus/core/choose';
import { plural, say } from '@basileus/core/text';
import { z } from 'zod';
import { toWhichSql } from '../choose';
import { type Db, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { loadFields } from '../fields';
import { recordHistory } from '../history';
import { AppError } from '../http';
import { defineJob, enqueue } from '../jobs';
import { loadMarkets } from '../markets';
import { loadChangeSet, openChangeSet, standsSql, wasSentSql } from '../products';
import { takeOut } from './take-out';

/** What is meant, and the variants of families that are. */
const meantSql = (
  condition: string,
): string => `select p.id, p.sku, p.kind, p.parent_id from products p where ${condition}
  union select v.id, v.sku, v.kind, v.parent_id from products v
    where v.parent_id in (select p.id from products p where p.kind = 'family' and ${condition})`;

const rankSql = `case kind when 'bundle' then 0 when 'family' then 2 else 1 end`;
const mostNamed = 20;

/** What taking items out would do. */
export async function lookAtRemovalOf(db: Db, which: Which): Promise<RemovalCounts> {
  const { sql, bindings } = await toWhichSql(db, which, await loadFields(db));
  const rows = await rowsOf<{
    why: StaysFor | null;
    kind: string;
    n: number;
    stock: number;
    typed: number;
    past: number;
    skus: string[];
  }>(
    db,
    `with meant as materialized (${meantSql(sql)}),
      sent as materialized (select m.*, ${standsSql('m.id')} as is_sent from meant m),
      held as materialized (select s.*, exists (
          select 1 from bundle_parts b left join sent g on g.id = b.bundle_id and not g.is_sent
          where b.part_id = s.id and g.id is null) as is_held
        from sent s),
      judged as (select h.id, h.sku, h.kind,
          case when h.is_sent then 'sent' when h.is_held then 'part'
            when h.kind = 'family' and exists (select 1 from held v where v.parent_id = h.id and (v.is_sent or v.is_held)) then 'family' end as why
        from held h)
      select why, kind, count(*)::int as n,
        count(*) filter (where exists (select 1 from stock s where s.product_id = j.id and s.on_hand > 0))::int as stock,
        count(*) filter (where exists (select 1 from listings l where l.product_id = j.id and l.overrides <> '{}'))::int as typed,
        count(*) filter (where ${wasSentSql('j.id')})::int as past,
        (array_agg(sku order by sku))[1:${mostNamed}] as skus
      from judged j group by 1, 2`,
    [...bindings, ...bindings],
  );
  const go = rows.filter((r) => r.why === null);
  const sum = (some: typeof rows, of: 'n' | 'stock' | 'typed' | 'past'): number => some.reduce((n, r) => n + r[of], 0);
  return {
    total: sum(go, 'n'),
    families: sum(
      go.filter((r) => r.kind === 'family'),
      'n',
    ),
    variants: sum(
      go.filter((r) => r.kind === 'variant'),
      'n',
    ),
    withStock: sum(go, 'stock'),
    withTyped: sum(go, 'typed'),
    withPast: sum(go, 'past'),
    stays: (['sent', 'part', 'family'] as const).flatMap((why) => {
      const some = rows.filter((r) => r.why === why);
      return some.length === 0
        ? []
        : [
            {
              why,
              count: sum(some, 'n'),
              skus: some
                .flatMap((r) => r.skus)
                .sort()
                .slice(0, mostNamed),
            },
          ];
    }),
  };
}

/** Begins to take items out. Throws where none is meant, or every one. */
export async function startRemoval(db: Db, which: Which, actor: string): Promise<{ changeSet: number; job: string }> {
  if (isEveryItem(which))
    throw new AppError('bad-input', say`The whole catalog is not taken out at once.`, {
      field: 'which',
      remedy: say`Choose the items that are to go.`,
    });
  const book = await loadFields(db);
  const { sql, bindings } = await toWhichSql(db, which, book);
  const changeSet = await openChangeSet(db, { title: 'Items taken out', actor, target: 'products', marketId: null });
  const put = (await rowOf<{ n: number; sku: string | null }>(
    db,
    `with put as (
        insert into removals (change_set_id, product_id, sku, rank)
          select ?, id, sku, ${rankSql} from (${meantSql(sql)}) m returning sku)
      select count(*)::int as n, min(sku) as sku from put`,
    [changeSet, ...bindings, ...bindings],
  ))!;
  if (put.n === 0)
    throw new AppError('bad-input', say`No item is meant.`, { field: 'which', remedy: say`Choose other conditions.` });
  const names = new Map((await loadMarkets(db)).map((m) => [m.key, m.name]));
  const of = which.ids.length > 0 ? '' : ` (${wordWhich(which, book, (k) => names.get(k) ?? k)})`;
  const title = put.n === 1 ? `${put.sku ?? ''} taken out` : `${plural(put.n, 'item', 'items')} taken out${of}`;
  await db.raw('update change_sets set title = ? where id = ?', [title, changeSet]);
  const job = await enqueue(db, {
    kind: 'remove-items',
    title,
    payload: { changeSet, actor },
    link: `/all/history?set=${changeSet}`,
    cancellable: true,
  });
  return { changeSet, job };
}

const itemsAtOnce = 300;

/** Takes the next items out, or leaves them with the reason; answers how many it went through. */
async function stepOf(tx: Db, set: number): Promise<number> {
  const due = await rowsOf<{ product_id: number; why: StaysFor | null; is_there: boolean }>(
    tx,
    `with due as (
        select product_id from removals r where change_set_id = ? and not is_done
          and rank = (select min(rank) from removals where change_set_id = ? and not is_done)
        order by product_id limit ?)
      select d.product_id, p.id is not null as is_there,
        case when ${standsSql('d.product_id')} then 'sent'
          when exists (select 1 from bundle_parts b where b.part_id = d.product_id) then 'part'
          when exists (select 1 from products v where v.parent_id = d.product_id) then 'family' end as why
      from due d left join products p on p.id = d.product_id`,
    [set, set, itemsAtOnce],
  );
  if (due.length === 0) return 0;
  const free = due.filter((d) => d.is_there && d.why === null).map((d) => d.product_id),
    gone = new Set(await takeOut(tx, free, set)),
    // What stands on a market only since it was judged here is judged again with the next ones.
    settled = due.filter((d) => !d.is_there || d.why !== null || gone.has(d.product_id));
  await tx.raw(
    `update removals r set is_done = true, left_as = d.why
      from jsonb_to_recordset(?::jsonb) as d(product_id bigint, why text)
      where r.change_set_id = ? and r.product_id = d.product_id`,
    [JSON.stringify(settled), set],
  );
  return due.length;
}

/** Nothing more goes: what went is told in the history, and a change that took nothing out is forgotten. */
async function end(tx: Db, set: number, actor: string): Promise<void> {
  const held = await loadChangeSet(tx, set);
  if (!held || held.is_done) return;
  const { n } = (await rowOf<{ n: number }>(
    tx,
    `select count(*)::int as n from change_products where change_set_id = ? and action = 'removed'`,
    [set],
  ))!;
  await tx.raw('update change_sets set is_done = true where id = ?', [set]);
  await tx.raw('delete from removals where change_set_id = ? and left_as is null', [set]);
  if (n === 0) await tx.raw('delete from change_sets where id = ?', [set]);
  else await recordHistory(tx, actor, { is: 'changed', title: held.title, cells: 0, removed: n });
  await announce(tx, { topic: 'products' }, { topic: 'listings' });
}

export const removeItemsJob = defineJob({
  kind: 'remove-items',
  payload: z.strictObject({ changeSet: z.int(), actor: z.string() }),
  attempts: 10,
  mostSeconds: 3600,
  run: async ({ changeSet, actor }, { db, write, progress }) => {
    const { total } = (await rowOf<{ total: number }>(
      db,
      'select count(*)::int as total from removals where change_set_id = ?',
      [changeSet],
    ))!;
    for (let done = 0; ;) {
      const n = await write((tx) => stepOf(tx, changeSet));
      if (n === 0) break;
      done += n;
      await progress(Math.min(done, total), total);
    }
    await write((tx) => end(tx, changeSet, actor));
    return 'done';
  },
  onFailed: ({ changeSet, actor }, db) => end(db, changeSet, actor),
  onCancelled: ({ changeSet, actor }, db) => end(db, changeSet, actor),
});
