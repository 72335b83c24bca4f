// Our own categories as people put them in order: added, moved in the tree, renamed or put together, removed.
import { isWithin, type OwnCategory } from '@basileus/core/product';
import { plural, say } from '@basileus/core/text';
import { type Db, rowOf, rowsOf } from '../database';
import { announce } from '../events';
import { recordHistory } from '../history';
import { AppError } from '../http';
import { enqueue } from '../jobs';
import { loadCatalogCounts, openChangeSet } from '../products';

const loadTree = (db: Db): Promise<OwnCategory[]> =>
  rowsOf<OwnCategory>(db, 'select name, parent from own_categories order by name');
const lockTree = (db: Db): Promise<unknown> => db.raw(`select pg_advisory_xact_lock(hashtext('own-categories'))`);

/** The tree with how many items stand in each category. */
export async function loadCategories(db: Db): Promise<(OwnCategory & { items: number })[]> {
  const counts = new Map((await loadCatalogCounts(db, 'category')).map((c) => [c.name, c.count]));
  return (await loadTree(db)).map((c) => ({ ...c, items: counts.get(c.name) ?? 0 }));
}

function mustKnow(all: readonly OwnCategory[], name: string, field: string): void {
  if (!all.some((c) => c.name === name))
    throw new AppError('bad-input', say`We have no category “${name}”.`, {
      field,
      remedy: say`Choose one that is there, or add it first.`,
    });
}

/** Refuses names that no category of ours has. */
export async function refuseStrangers(db: Db, names: readonly string[]): Promise<void> {
  if (names.length === 0) return;
  const all = await loadTree(db);
  for (const name of names) mustKnow(all, name, 'categories');
}

export const addCategory = (db: Db, { name, parent }: OwnCategory, actor: string): Promise<void> =>
  db.transaction(async (tx) => {
    await lockTree(tx);
    const all = await loadTree(tx);
    if (parent !== null) mustKnow(all, parent, 'parent');
    if (all.some((c) => c.name === name))
      throw new AppError('conflict', say`There is a category “${name}” already.`, { field: 'name' });
    await tx.raw('insert into own_categories (name, parent) values (?, ?)', [name, parent]);
    await recordHistory(tx, actor, { is: 'own-said', what: 'category', name, how: 'added', to: null });
    await announce(tx, { topic: 'own' });
  });

/** Puts a category under another one, or at the top; never under itself. */
export const moveCategory = (db: Db, name: string, parent: string | null, actor: string): Promise<void> =>
  db.transaction(async (tx) => {
    await lockTree(tx);
    const all = await loadTree(tx);
    mustKnow(all, name, 'name');
    if (parent !== null) {
      mustKnow(all, parent, 'parent');
      if (isWithin(all, parent, name))
        throw new AppError('bad-input', say`“${name}” cannot stand under “${parent}”, which is itself under it.`, {
          field: 'parent',
          remedy: say`Move that one out first.`,
        });
    }
    await tx.raw('update own_categories set parent = ? where name = ?', [parent, name]);
    await recordHistory(tx, actor, { is: 'own-said', what: 'category', name, how: 'moved', to: parent });
    await announce(tx, { topic: 'own' });
  });

/**
 * Gives a category another name, or puts it together with the one that has that name. The new one takes the place in the tree
 * and what was remembered of the old one for each market, unless it has its own; a job moves the items.
 */
export const renameCategory = (
  db: Db,
  name: string,
  to: string,
  actor: string,
): Promise<{ job: string | null; items: number }> =>
  db.transaction(async (tx) => {
    await lockTree(tx);
    const all = await loadTree(tx);
    mustKnow(all, name, 'name');
    if (name === to) throw new AppError('bad-input', say`It is called “${to}” already.`, { field: 'rename' });
    const isThere = all.some((c) => c.name === to);
    if (isThere && isWithin(all, to, name))
      throw new AppError('bad-input', say`“${to}” stands under “${name}”; they cannot be put together so.`, {
        field: 'rename',
        remedy: say`Move it out first.`,
      });
    await tx.raw(
      `insert into own_categories (name, parent) select ?, parent from own_categories where name = ? on conflict do nothing`,
      [to, name],
    );
    await tx.raw('update own_categories set parent = ? where parent = ?', [to, name]);
    await tx.raw(
      `insert into correspondences (market_id, kind, attribute, ours, theirs)
        select market_id, kind, attribute, ?, theirs from correspondences
        where ours = ? and kind in ('category', 'unwanted')
        on conflict do nothing`,
      [to, name],
    );
    await tx.raw(
      `update own_fields set categories = (select jsonb_agg(distinct case when c = ? then ? else c end) from jsonb_array_elements_text(categories) c)
        where categories @> jsonb_build_array(?::text)`,
      [name, to, name],
    );
    await recordHistory(tx, actor, { is: 'own-said', what: 'category', name, how: 'renamed', to });
    await announce(tx, { topic: 'own' });
    const items = (await rowOf<{ n: number }>(tx, 'select count(*)::int as n from products where category = ?', [
      name,
    ]))!.n;
    if (items === 0) {
      await endCategory(tx, name);
      return { job: null, items };
    }
    const title = `Own category, ${name} becomes ${to}`;
    const changeSet = await openChangeSet(tx, { title, actor, target: 'products', marketId: null });
    const job = await enqueue(tx, {
      kind: 'move-category',
      title,
      payload: { from: name, to, changeSet, actor },
      once: `move-category-${changeSet}`,
      link: '/all/history',
    });
    return { job, items };
  });

/** Takes a category without items away, with what was remembered of it; those under it go up by one. */
export async function endCategory(db: Db, name: string): Promise<void> {
  await db.raw(
    `update own_categories c set parent = o.parent from own_categories o where c.parent = o.name and o.name = ?`,
    [name],
  );
  await db.raw('delete from own_categories where name = ?', [name]);
  await db.raw(`delete from correspondences where ours = ? and kind in ('category', 'unwanted')`, [name]);
  await db.raw('update own_fields set categories = categories - ? where categories @> jsonb_build_array(?::text)', [
    name,
    name,
  ]);
}

export const removeCategory = (db: Db, name: string, actor: string): Promise<void> =>
  db.transaction(async (tx) => {
    await lockTree(tx);
    mustKnow(await loadTree(tx), name, 'name');
    const items = (await rowOf<{ n: number }>(tx, 'select count(*)::int as n from products where category = ?', [
      name,
    ]))!.n;
    if (items > 0)
      throw new AppError('conflict', say`${plural(items, 'item is', 'items are')} in “${name}”.`, {
        field: 'name',
        remedy: say`Put it together with another category: give it that one’s name.`,
      });
    await endCategory(tx, name);
    await recordHistory(tx, actor, { is: 'own-said', what: 'category', name, how: 'removed', to: null });
    await announce(tx, { topic: 'own' });
  });
