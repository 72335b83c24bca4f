// What refreshing has found, written set by set; what is as it was is left alone.
import type { Finding } from '@basileus/core/checks';
import { copyInto, type CopyValue, type Db, toJson } from '../database';
import type { Market } from '../markets';
import { isSameSight } from './members';
import type { Outcome } from './outcome';

const countLevel = (o: Outcome, level: string): number => o.findings.filter((f) => f.level === level).length;

/** What is written of every outcome that is written at all. */
const toMarks = (o: Outcome) => ({
  id: o.id,
  product_version: o.productVersion,
  findings_digest: o.findingsDigest,
  family_sight: o.familySight,
  margin: o.margin,
  blockers: countLevel(o, 'blocker'),
  cautions: countLevel(o, 'caution'),
  tips: countLevel(o, 'tip'),
});
const markColumns =
  'id bigint, product_version int, findings_digest text, family_sight jsonb, margin smallint, blockers int, cautions int, tips int';
const setMarks = `product_version = r.product_version, market_revision = ?, findings_digest = r.findings_digest,
        family_sight = r.family_sight, margin = r.margin, blockers = r.blockers, cautions = r.cautions, tips = r.tips`;

/**
 * Puts what refreshing found in the place of what stood there, a handful of statements for all rows. Only what is new is
 * written. `from` is the first revision of the market whose checks count: what was checked against an earlier one and is the
 * same gets the mark of the present one. 1 where a whole market is gone through, since then the market itself is marked.
 */
export async function storeOutcomes(
  db: Db,
  market: Market,
  outcomes: readonly Outcome[],
  from = market.checksFrom,
): Promise<void> {
  const rows = outcomes.filter((o) => o.isRowNew);
  const marks = outcomes.filter(
    (o) =>
      !o.isRowNew &&
      (o.areFindingsNew ||
        o.before.productVersion !== o.productVersion ||
        o.before.revision < from ||
        o.before.margin !== o.margin ||
        !isSameSight(o.before.familySight, o.familySight)),
  );
  if (rows.length) {
    const records = rows.map((o) => ({
      ...toMarks(o),
      values: o.values,
      origins: o.origins,
      planned: o.planned,
      refusal_open: o.refusalOpen,
      row_digest: o.rowDigest,
      own_category: o.ownCategory,
    }));
    await db.raw(
      `update listings l
        set ${setMarks}, "values" = r."values", origins = r.origins, planned = r.planned, refusal_open = r.refusal_open,
          row_digest = r.row_digest, own_category = r.own_category,
          version = case when l."values" is distinct from r."values" then l.version + 1 else l.version end
        from jsonb_to_recordset(?::jsonb) as r(${markColumns}, "values" jsonb, origins jsonb, planned jsonb, refusal_open boolean,
          row_digest text, own_category text)
        where l.id = r.id`,
      [market.revision, JSON.stringify(records)],
    );
    await db.raw(
      `update dispatch_lines d
        set mended = true
        from listings l
        where d.listing_id = l.id and d.state = 'refused' and not d.mended and not d.resent and l.id = any(?)
          and not l.refusal_open`,
      [rows.map((o) => o.id)],
    );
  }
  if (marks.length)
    await db.raw(
      `update listings l set ${setMarks} from jsonb_to_recordset(?::jsonb) as r(${markColumns}) where l.id = r.id`,
      [market.revision, JSON.stringify(marks.map(toMarks))],
    );
  await replaceFindings(
    db,
    market,
    outcomes.filter((o) => o.areFindingsNew),
  );
}

async function replaceFindings(db: Db, market: Market, outcomes: readonly Outcome[]): Promise<void> {
  if (outcomes.length === 0) return;
  await db.raw('delete from findings where listing_id = any(?)', [outcomes.map((o) => o.id)]);
  // One statement for all: what is kept of findings counts listings, so that those of one must not be divided.
  if (outcomes.some((o) => o.findings.length))
    await copyInto(
      db,
      'findings (listing_id, market_id, "check", message, level, field, value, params, remedies)',
      toLines(market, outcomes),
    );
}

function* toLines(market: Market, outcomes: readonly Outcome[]): Generator<CopyValue[]> {
  for (const o of outcomes) for (const f of o.findings) yield toLine(market, o.id, f);
}

const mostCharacters = 500;

const toLine = (market: Market, id: number, f: Finding): CopyValue[] => [
  id,
  market.id,
  f.check,
  f.message,
  f.level,
  f.field,
  f.value.slice(0, mostCharacters),
  toJson(f.params),
  toJson(f.remedies),
];
