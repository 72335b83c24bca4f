// Findings grouped by cause, and remedies applied to all rows of a cause as one change set.
import { getCheck, type Level, type Remedy, wordCause } from '@basileus/core/checks';
import { isSameValue, type Value } from '@basileus/core/listing';
import { type Db, rowOf, rowsOf } from '../database';
import type { Market } from '../markets/load';
import { stateSql } from './queries';
import { patchListingCells } from './service';

export interface CauseRow {
  check: string;
  message: string;
  field: string;
  level: Level;
  title: string;
  count: number;
  example: string;
  safe: number;
  why: string;
  source: string;
}

export async function loadCauses(
  db: Db,
  market: Market,
  search: string,
): Promise<{ rows: CauseRow[]; blockers: number; cautions: number; tips: number; listings: number; ready: number }> {
  const like = `%${search.toLowerCase()}%`;
  const [rows, totals] = await Promise.all([
    rowsOf<Omit<CauseRow, 'title' | 'why' | 'source'>>(
      db,
      `select f."check", f.message, f.field, min(f.level) as level, count(distinct f.listing_id) as count,
          (array_agg(f.says order by f.id))[1] as example,
          count(*) filter (where f.remedies @> '[{"safe": true}]') as safe
        from findings f
        where f.market_id = ? and (? = '%%' or lower(f.says) like ?)
        group by 1, 2, 3`,
      [market.id, like, like],
    ),
    rowOf<{ blockers: number; cautions: number; tips: number; listings: number; ready: number }>(
      db,
      `select coalesce(sum(blockers), 0) as blockers, coalesce(sum(cautions), 0) as cautions,
          coalesce(sum(tips), 0) as tips, count(*) as listings, count(*) filter (where ${stateSql} = 'ready') as ready
        from listings l
        where market_id = ?`,
      [market.id],
    ),
  ]);
  const order = { blocker: 0, caution: 1, tip: 2 };
  const wording = { market: market.name, labelOf: market.labelOf };
  const causes = rows.map((r) => {
    const docs = getCheck(r.check)?.docs;
    return { ...r, title: wordCause(r, wording), why: docs?.why ?? '', source: docs?.source ?? '' };
  });
  causes.sort((a, b) => order[a.level] - order[b.level] || b.count - a.count || a.title.localeCompare(b.title));
  return { rows: causes, ...totals! };
}

export interface RemedyRequest {
  check: string;
  message: string;
  field: string;
  ids?: number[] | undefined;
  fill?: Value | undefined;
  includeUnsafe: boolean;
  dryRun: boolean;
}
export interface RemedyOutcome {
  changeSet: number | null;
  changed: number;
  left: number;
  rows: { id: number; sku: string; field: string; before: Value | null; after: Value | null }[];
}

/** One value for all rows of a cause, or each row's own mechanical remedy. */
export async function remedyCause(
  db: Db,
  market: Market,
  request: RemedyRequest,
  actor: string,
): Promise<RemedyOutcome> {
  const found = await rowsOf<{ id: number; sku: string; remedies: Remedy[]; values: Record<string, Value> }>(
    db,
    `select distinct on (l.id) l.id, p.sku, f.remedies, l."values"
      from findings f
      join listings l on l.id = f.listing_id
      join products p on p.id = l.product_id
      where f.market_id = ? and f."check" = ? and f.message = ? and f.field = ? and (? or l.id = any(?))
      order by l.id, f.id`,
    [market.id, request.check, request.message, request.field, request.ids === undefined, request.ids ?? []],
  );
  const rows = found
    .flatMap(({ id, sku, remedies, values }) => {
      if (request.fill !== undefined)
        return [{ id, sku, field: request.field, before: values[request.field] ?? null, after: request.fill }];
      const first = remedies[0];
      if (!first || (first.kind !== 'set' && first.kind !== 'clear') || (!first.safe && !request.includeUnsafe))
        return [];
      return [
        {
          id,
          sku,
          field: first.field,
          before: values[first.field] ?? null,
          after: first.kind === 'set' ? first.value : null,
        },
      ];
    })
    .filter((r) => !isSameValue(r.before ?? undefined, r.after ?? undefined));
  if (request.dryRun || rows.length === 0)
    return {
      changeSet: null,
      changed: request.dryRun ? rows.length : 0,
      left: found.length - rows.length,
      rows: rows.slice(0, 500),
    };
  const title = wordCause(request, { market: market.name, labelOf: market.labelOf });
  const outcome = await patchListingCells(db, market.id, rows, `Mended: ${title}`, actor);
  return {
    changeSet: outcome.changeSet,
    changed: outcome.applied,
    left: found.length - outcome.applied,
    rows: rows.slice(0, 500),
  };
}
