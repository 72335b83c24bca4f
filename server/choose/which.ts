// Which items are meant, as one condition on products p: refused in words where it cannot be asked.
import { findClauseProblem, isFieldClause, type Which, wordClauseProblem } from '@basileus/core/choose';
import { type FieldBook, readMarketKey } from '@basileus/core/product';
import { categoryAttribute, marginAttribute } from '@basileus/core/rulebook';
import { type Db, rowOf } from '../database';
import { AppError } from '../http';
import { listFedFields, toStandingSql } from '../listings';
import { loadMarket, type Market } from '../markets';
import { widenFields } from './fields';
import { type Condition, toClauseSql, toListingSql } from './sql';

const rowsSql = {
  all: undefined,
  sold: `p.kind <> 'family'`,
  single: `p.kind = 'single'`,
  family: `p.kind = 'family'`,
  variant: `p.kind = 'variant'`,
  bundle: `p.kind = 'bundle'`,
} as const;

/** The condition of a choice of items; `true` where every row is meant. Throws where it asks what cannot be asked. */
export async function toWhichSql(db: Db, which: Which, book: FieldBook): Promise<Condition> {
  const parts: Condition[] = [];
  const rows = rowsSql[which.rows];
  if (rows) parts.push({ sql: rows, bindings: [] });
  for (const word of which.search.toLowerCase().split(/\s+/).filter(Boolean))
    parts.push({ sql: 'p.search like ?', bindings: [`%${word.replace(/[\\%_]/g, '\\$&')}%`] });
  if (which.skus.length > 0) parts.push({ sql: 'p.sku = any(?)', bindings: [which.skus] });
  if (which.ids.length > 0) parts.push({ sql: 'p.id = any(?)', bindings: [which.ids] });
  const clauses: Condition[] = [];
  for (const clause of which.clauses) clauses.push(await toSql(db, clause, book));
  if (clauses.length > 0)
    parts.push({
      sql: `(${clauses.map((c) => `(${c.sql})`).join(which.match === 'any' ? ' or ' : ' and ')})`,
      bindings: clauses.flatMap((c) => c.bindings),
    });
  for (const clause of which.also) {
    const { sql, bindings } = await toSql(db, clause, book);
    parts.push({ sql: `(${sql})`, bindings });
  }
  return parts.length === 0
    ? { sql: 'true', bindings: [] }
    : { sql: parts.map((p) => p.sql).join(' and '), bindings: parts.flatMap((p) => p.bindings) };
}

async function toSql(db: Db, clause: Which['clauses'][number], own: FieldBook): Promise<Condition> {
  const listed = isFieldClause(clause) ? readMarketKey(clause.field) : undefined;
  const book = listed ? await widenFields(db, own) : own;
  const problem = findClauseProblem(clause, book);
  if (problem) throw new AppError('bad-input', wordClauseProblem(problem), { field: 'which' });
  if (clause.is === 'state')
    return (await toStandingSql(db, { on: clause.market, state: clause.state })) ?? { sql: 'false', bindings: [] };
  if (listed && isFieldClause(clause)) {
    const market = await loadMarket(db, listed.market);
    return toListingSql(clause, book.get(clause.field)!, market.id, listLeavesWith(market, listed.attribute));
  }
  if (clause.is !== 'finding') return toClauseSql(clause, book);
  return {
    sql: `p.id in (
      select l.product_id from jsonb_to_recordset(?::jsonb) as r(market_id bigint, field text)
        join findings f on f.market_id = r.market_id and f."check" = ? and f.message = ? and f.field = r.field
        join listings l on l.id = f.listing_id)`,
    bindings: [JSON.stringify(await listFedFields(db, clause.field)), clause.check, clause.message],
  };
}

/** Leaves of a market in which a field is asked for; all, and listings without one, where it is none that a leaf asks for. */
const listLeavesWith = (market: Market, attribute: string): string[] | undefined =>
  attribute === categoryAttribute || attribute === marginAttribute
    ? undefined
    : market.rulebook.tree.flatMap(({ key }) => {
        const asked = market.category(key)?.compiled.byKey.get(attribute);
        return asked && asked.strongest !== 'unused' ? [key] : [];
      });

/** How many items are meant, and which of the SKUs that were named are not in the catalog. */
export async function countWhich(db: Db, which: Which, book: FieldBook): Promise<{ total: number; unknown: string[] }> {
  const { sql, bindings } = await toWhichSql(db, which, book);
  const { n } = (await rowOf<{ n: number }>(db, `select count(*)::int as n from products p where ${sql}`, bindings))!;
  if (which.skus.length === 0) return { total: n, unknown: [] };
  const known = await rowOf<{ unknown: string[] | null }>(
    db,
    `select array_agg(s order by s) as unknown from unnest(?::text[]) s where not exists (select 1 from products p where p.sku = s)`,
    [which.skus],
  );
  return { total: n, unknown: known?.unknown ?? [] };
}
