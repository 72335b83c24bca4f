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
  // A listing's findings go in with one statement: what is kept of them counts listings.
  for (const some of divide(outcomes, 5000)) {
    const part = some.flatMap((o) => o.findings.map((f) => toRecord(o.id, f)));
    if (part.length === 0) continue;
    await db.raw(
      `insert into findings (listing_id, market_id, "check", message, level, field, value, params, remedies)
        select r.listing_id, ?, r.c, r.message, r.level, r.field, r.value, r.params, r.remedies
        from jsonb_to_recordset(?::jsonb) as r(listing_id bigint, c text, message text, level text, field text, value text, params jsonb, remedies jsonb)`,
      [market.id, JSON.stringify(part).replace(/\\u0000/g, '')],
    );
  }
}

const toRecord = (id: number, f: Finding) => ({
  listing_id: id,
  c: f.check,
  message: f.message,
  level: f.level,
  field: f.field,
  value: f.value.slice(0, 500),
  params: f.params,
  remedies: f.remedies,
});

/** Outcomes in pieces of about so many findings, none of them divided. */
function* divide(outcomes: readonly Outcome[], most: number): Generator<readonly Outcome[]> {
  let from = 0,
    findings = 0;
  for (const [i, o] of outcomes.entries()) {
    findings += o.findings.length;
    if (findings < most) continue;
    yield outcomes.slice(from, i + 1);
    from = i + 1;
    findings = 0;
  }
  yield outcomes.slice(from);
}
