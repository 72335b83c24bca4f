// What refreshing has found, written set by set.
import type { Finding } from '@basileus/core/checks';
import type { Values } from '@basileus/core/listing';
import type { Db } from '../database';
import type { Market } from '../markets/load';

/** A listing made anew. */
export interface Outcome {
  id: number;
  values: Values;
  origins: unknown;
  findings: Finding[];
  planned: { operation: string; held: string | null }[];
  refusalOpen: boolean;
  /** Version of the product that it was made from. */
  productVersion: number;
}

/** Puts what refreshing found in the place of what stood there, a handful of statements for all rows. */
export async function storeOutcomes(db: Db, market: Market, outcomes: readonly Outcome[]): Promise<void> {
  if (outcomes.length === 0) return;
  const count = (o: Outcome, level: string) => o.findings.filter((f) => f.level === level).length;
  const records = outcomes.map((o) => ({
    id: o.id,
    values: o.values,
    origins: o.origins,
    planned: o.planned,
    refusal_open: o.refusalOpen,
    product_version: o.productVersion,
    blockers: count(o, 'blocker'),
    cautions: count(o, 'caution'),
    tips: count(o, 'tip'),
  }));
  await db.raw(
    `update listings l set "values" = r."values", origins = r.origins, planned = r.planned,
        refusal_open = r.refusal_open, blockers = r.blockers, cautions = r.cautions, tips = r.tips,
        checked_at = now(), product_version = r.product_version, market_revision = ?,
      version = case when l."values" is distinct from r."values" then l.version + 1 else l.version end
    from jsonb_to_recordset(?::jsonb) as r(id bigint, "values" jsonb, origins jsonb, planned jsonb, refusal_open boolean, product_version int, blockers int, cautions int, tips int) where l.id = r.id`,
    [market.revision, JSON.stringify(records)],
  );
  await db.raw(
    `update dispatch_lines d
      set mended = true
      from listings l
      where d.listing_id = l.id and d.state = 'refused' and not d.mended and not d.resent and l.id = any(?)
        and not l.refusal_open`,
    [outcomes.map((o) => o.id)],
  );
  await db.raw('delete from findings where listing_id = any(?)', [outcomes.map((o) => o.id)]);
  const findings = outcomes.flatMap((o) =>
    o.findings.map((f) => ({
      listing_id: o.id,
      c: f.check,
      message: f.message,
      level: f.level,
      field: f.field,
      value: f.value.slice(0, 500),
      params: f.params,
      remedies: f.remedies,
    })),
  );
  for (let i = 0; i < findings.length; i += 5000) {
    await db.raw(
      `insert into findings (listing_id, market_id, "check", message, level, field, value, params, remedies)
        select r.listing_id, ?, r.c, r.message, r.level, r.field, r.value, r.params, r.remedies
        from jsonb_to_recordset(?::jsonb) as r(listing_id bigint, c text, message text, level text, field text, value text, params jsonb, remedies jsonb)`,
      [market.id, JSON.stringify(findings.slice(i, i + 5000)).replace(/\\u0000/g, '')],
    );
  }
}
