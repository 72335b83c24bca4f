// Lines of a dispatch with the market's answer, and what became of those that it refused.
import type { DispatchLine } from '@basileus/contract';
import { type Db, rowOf, rowsOf } from '../database';
import type { Market } from '../markets';

export interface LineFilter {
  state: string;
  code: string;
  field: string;
  offset: number;
  limit: number;
}
interface LineRow {
  line: number;
  listing_id: number | null;
  sku: string;
  site: string;
  more: { code: string; field: string; says: string; remedy: string }[] | null;
  state: DispatchLine['state'];
  code: string;
  field: string;
  says: string;
  remedy: string;
  number: string | null;
  differences: DispatchLine['differences'];
  mended: boolean;
  current: DispatchLine['current'];
  settled_by: number | null;
}

const refused = `d.state in ('refused', 'lost')`;

/** A page of lines, the refused ones first. A refused line names the later dispatch with which the market took it. */
export async function loadDispatchLines(
  db: Db,
  market: Market,
  id: number,
  { state, code, field, offset, limit }: LineFilter,
): Promise<{ total: number; rows: DispatchLine[] }> {
  const where = `d.dispatch_id = ? and (? = '' or d.state = ? or (? = 'refused' and d.state = 'lost')) and (? = '' or d.code = ?) and (? = '' or d.field = ?)`,
    bindings = [id, state, state, state, code, code, field, field];
  const total = (await rowOf<{ n: number }>(db, `select count(*) as n from dispatch_lines d where ${where}`, bindings))!
    .n;
  const rows = await rowsOf<LineRow>(
    db,
    `select d.*, l."values" -> d.field as current,
        (select jsonb_agg(to_jsonb(f) order by f.place) from dispatch_faults f
          where f.dispatch_id = d.dispatch_id and f.line = d.line) as more,
        case when ${refused} then (
          select min(x.dispatch_id) from dispatch_lines x
            where x.listing_id = d.listing_id and x.dispatch_id > d.dispatch_id and x.state in ('accepted', 'remarked')
        ) end as settled_by
      from dispatch_lines d
      left join listings l on l.id = d.listing_id
      where ${where}
      order by (${refused}) desc, (d.state = 'remarked') desc, d.line offset ? limit ?`,
    [...bindings, offset, limit],
  );
  return { total, rows: rows.map((r) => toLine(market, r)) };
}

const toLine = (market: Market, r: LineRow): DispatchLine => ({
  line: r.line,
  listingId: r.listing_id,
  sku: r.sku,
  site: r.site,
  more: (r.more ?? []).map(({ code, field, says, remedy }) => ({
    code,
    field,
    fieldLabel: field ? market.labelOf(field) : '',
    says,
    remedy,
  })),
  state: r.state,
  code: r.code,
  field: r.field,
  fieldLabel: r.field ? market.labelOf(r.field) : '',
  says: r.says,
  remedy: r.remedy,
  number: r.number,
  differences: r.differences,
  current: r.current,
  mended: r.mended,
  settledBy: r.settled_by,
});
