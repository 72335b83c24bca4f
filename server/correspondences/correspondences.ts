// The correspondence tables of fields and values: what feeds what, what becomes what, made once.
import { fold, findNearest } from '@basileus/core/text';
import { isFilled } from '@basileus/core/listing';
import { type Db, rowOf } from '../database';
import { loadFields } from '../fields';
import { AppError } from '../http';
import { loadFilledCounts, loadOwnCounts, refreshLater, refreshMarket } from '../listings';
import { loadCatalogCounts } from '../products';
import { bumpRevision, loadCorrespondences, loadMarketById, type Market } from '../markets';

export async function loadFieldMap(db: Db, market: Market) {
  const c = await loadCorrespondences(db, market.id);
  const fields = await loadFields(db);
  const filled = await loadFilledCounts(db, market.id);
  const placed = (await loadOwnCounts(db, market.id)).flatMap(({ chosen, n }) =>
    chosen === null ? [] : [{ chosen, n }],
  );
  const demanded = (key: string) =>
    placed.reduce(
      (sum, { chosen, n }) => sum + (market.category(chosen)?.compiled.byKey.get(key)?.strongest === 'must' ? n : 0),
      0,
    );
  return {
    rows: market.rulebook.attributes.map((a) => ({
      attribute: a.key,
      label: a.label,
      type: a.type,
      suggested: a.from ?? null,
      chosen: c.fields.get(a.key) ?? null,
      filled: filled.get(a.key) ?? 0,
      demanded: demanded(a.key),
    })),
    ours: fields.all.map((f) => ({ key: f.key, label: f.label })),
  };
}

/** A market small enough is made anew at once, so that the person sees the effect; a large one by a job. */
async function followUp(db: Db, market: Market): Promise<{ refreshed: number; job: string | null }> {
  const count =
    (await rowOf<{ n: number }>(db, 'select count(*) as n from listings where market_id = ?', [market.id]))?.n ?? 0;
  if (count > 3000) return { refreshed: 0, job: await refreshLater(db, market) };
  await refreshMarket(db, await loadMarketById(db, market.id), () => Promise.resolve());
  return { refreshed: count, job: null };
}

export async function putFieldSource(db: Db, market: Market, attribute: string, source: string | null) {
  if (!market.rulebook.attributes.some((a) => a.key === attribute))
    throw new AppError('bad-input', `${market.name} has no attribute “${attribute}”.`, { field: 'attribute' });
  if (source && !source.startsWith('=') && !(await loadFields(db)).get(source))
    throw new AppError('bad-input', `We have no field “${source}”.`, {
      field: 'source',
      remedy: 'Choose a field of ours, or write =text for the same text everywhere.',
    });
  await db.transaction(async (tx) => {
    await tx.raw(`delete from correspondences where market_id = ? and kind = 'field' and attribute = ?`, [
      market.id,
      attribute,
    ]);
    if (source !== null)
      await tx.raw(
        `insert into correspondences (market_id, kind, attribute, ours, theirs) values (?, 'field', ?, ?, ?)`,
        [market.id, attribute, source, attribute],
      );
    await bumpRevision(tx, market);
  });
  return followUp(db, market);
}

/** True where a word of ours is the code or its label, and not only another word for it. */
const isNamed = (entry: { code: string; label: string }, ours: string): boolean =>
  entry.code === ours || fold(entry.label) === fold(ours);

/** Words of one field that are shown to be translated, those of most items. */
const mostWords = 300;

export async function loadValueMap(db: Db, market: Market, only: string) {
  const c = await loadCorrespondences(db, market.id);
  const rows = [];
  for (const a of market.rulebook.attributes) {
    const list = a.codes === undefined ? undefined : market.rulebook.codeLists[a.codes];
    const source = c.fields.get(a.key) ?? a.from;
    if (!list || !source || source.startsWith('=') || (only !== '' && only !== a.key)) continue;
    const ours = source.startsWith('fact.') ? await loadCatalogCounts(db, 'fact', source.slice('fact.'.length)) : [];
    for (const { name: v, count: n } of ours.slice(0, mostWords)) {
      const mapped = c.values.get(a.key)?.get(fold(v));
      const byCode = list.entries.find((e) => isNamed(e, v) || e.also.some((w) => fold(w) === fold(v)));
      rows.push({
        attribute: a.key,
        label: a.label,
        ours: v,
        items: n,
        theirs: mapped ?? byCode?.code ?? null,
        by: mapped
          ? ('mapping' as const)
          : byCode
            ? isNamed(byCode, v)
              ? ('label' as const)
              : ('also' as const)
            : ('nothing' as const),
        proposals: findNearest(v, list.entries, (e) => [e.label, ...e.also]).map((p) => ({
          code: p.candidate.code,
          label: p.candidate.label,
        })),
      });
    }
  }
  rows.sort(
    (x, y) =>
      Number(x.by !== 'nothing') - Number(y.by !== 'nothing') || x.label.localeCompare(y.label) || y.items - x.items,
  );
  return { rows };
}

/** Says which code a word of ours becomes; null forgets it. */
export const putValueCode = (db: Db, market: Market, attribute: string, ours: string, theirs: string | null) =>
  putValueCodes(db, market, attribute, [ours], theirs);

/** Says which code several words of ours become. */
export async function putValueCodes(
  db: Db,
  market: Market,
  attribute: string,
  ours: readonly string[],
  theirs: string | null,
) {
  const a = market.rulebook.attributes.find((x) => x.key === attribute);
  const list = a?.codes === undefined ? undefined : market.rulebook.codeLists[a.codes];
  if (!list)
    throw new AppError('bad-input', `“${attribute}” is not a choice on ${market.name}.`, { field: 'attribute' });
  if (theirs !== null && !list.entries.some((e) => e.code === theirs))
    throw new AppError('bad-input', `“${theirs}” is not a code of ${a!.label}.`, {
      field: 'theirs',
      remedy: 'Choose one from the list.',
    });
  await db.transaction(async (tx) => {
    await tx.raw(
      `delete from correspondences where market_id = ? and kind = 'value' and attribute = ? and ours = any(?)`,
      [market.id, attribute, [...ours]],
    );
    if (isFilled(theirs ?? undefined))
      await tx.raw(
        `insert into correspondences (market_id, kind, attribute, ours, theirs)
          select ?, 'value', ?, o, ? from unnest(?::text[]) o`,
        [market.id, attribute, theirs!, [...ours]],
      );
    await bumpRevision(tx, market);
  });
  return followUp(db, market);
}
