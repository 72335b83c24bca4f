// What measures usually are, by our own category and field: kept from a sample of its items, made anew when a market is
// checked as a whole, and asked for when a listing is judged.
import { computeUsual, type Usual } from '@basileus/core/quantity';
import { type Db, rowOf, rowsOf, type Write, writeOn } from '../database';
import { loadFields } from '../fields';

/** Items of a category that are looked at, and how long what they told counts. */
const sampled = 300,
  freshMinutes = 10;

/** Makes the usual measures of all categories anew, unless that was done a short while ago. */
export async function refreshUsual(db: Db, write: Write = writeOn(db)): Promise<void> {
  const [state] = await rowsOf<{ is_fresh: boolean }>(
    db,
    `select coalesce(max(made_at) > now() - make_interval(mins => ?), false) as is_fresh from usual_measures`,
    [freshMinutes],
  );
  if (state?.is_fresh) return;
  const facts = (await loadFields(db)).all
    .filter((f) => f.kind === 'measure' && f.fact)
    .map((f) => f.key.slice('fact.'.length));
  const found = await rowsOf<{ category: string; fact: string; texts: string[] }>(
    db,
    `select s.category, k.fact, array_agg(s.facts ->> k.fact) as texts
      from (select category, facts, row_number() over (partition by category order by md5(sku)) as n
        from products where category <> '' and kind <> 'family') s
      cross join unnest(?::text[]) as k(fact)
      where s.n <= ? and s.facts ->> k.fact is not null
      group by 1, 2`,
    [facts, sampled],
  );
  const rows = found.flatMap(({ category, fact, texts }) => {
    const usual = computeUsual(texts);
    return usual ? [{ category, field: `fact.${fact}`, ...usual }] : [];
  });
  await write(async (tx) => {
    const isFirst = await rowOf<{ ok: boolean }>(
      tx,
      `select pg_try_advisory_xact_lock(hashtext('usual-measures')) as ok`,
    );
    if (!isFirst?.ok) return;
    await tx.raw('delete from usual_measures');
    await tx.raw(
      `insert into usual_measures (category, field, amount, unit, count)
        select category, field, amount, unit, count
        from jsonb_to_recordset(?::jsonb) as r(category text, field text, amount text, unit text, count int)`,
      [JSON.stringify(rows)],
    );
  });
}

/** The usual measures of categories of ours, by category and field. */
export async function loadUsual(
  db: Db,
  categories: readonly string[],
): Promise<ReadonlyMap<string, Readonly<Record<string, Usual>>>> {
  const rows = await rowsOf<Usual & { category: string; field: string }>(
    db,
    'select category, field, amount, unit, count from usual_measures where category = any(?)',
    [[...categories]],
  );
  const usual = new Map<string, Record<string, Usual>>();
  for (const { category, field, ...u } of rows)
    (usual.get(category) ?? usual.set(category, {}).get(category)!)[field] = u;
  return usual;
}
