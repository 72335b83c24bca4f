// What the rows that are here become by some rules, before anything of it is written.
import type { FormedShape, RulesTried } from '@basileus/contract';
import { createClashJudge, type Former, prepareSource, type SourceRow, type SourceRules } from '@basileus/core/source';
import { toDay } from '@basileus/core/quantity';
import type { FieldBook } from '@basileus/core/product';
import { type Db, rowsOf } from '../database';
import { loadFields } from '../fields';
import { toGtin14 } from '../products';
import { mustLoadSource, openRows, readColumns } from './queries';

/** Makes rules ready for a source; undefined parts of a fault are told by the answer. */
export const prepareFor = (rules: SourceRules, columns: readonly string[], book: FieldBook) =>
  prepareSource(rules, columns, (f) => book.get(f)?.kind);

const mostShown = 60,
  mostOfOneKind = 12,
  mostClashes = 50;

/** SKUs among some that the catalog has, each with its barcode. */
async function loadHeld(db: Db, skus: readonly string[]): Promise<Map<string, string | null>> {
  const rows = await rowsOf<{ sku: string; gtin14: string | null }>(
    db,
    'select sku, gtin14 from products where sku = any(?)',
    [[...skus]],
  );
  return new Map(rows.map((r) => [r.sku, r.gtin14]));
}

/** Tries rules over all rows that are here. Those in which something is wrong are shown first. */
export async function tryRulesOn(db: Db, id: number, rules: SourceRules, search: string): Promise<RulesTried> {
  const source = await mustLoadSource(db, id);
  const book = await loadFields(db);
  const made = prepareFor(rules, readColumns(source), book);
  if (!made.ok) return { ok: false, part: made.part, fault: made.fault };
  const gtinAt = rules.fields.findIndex((f) => f.field === 'gtin');
  const counts = { rows: 0, formed: 0, leftOut: 0, noSku: 0, faults: 0, held: 0, fresh: 0, otherBarcode: 0 };
  const clashes = createClashJudge(),
    shown: FormedShape[] = [],
    ofKind = new Map<string, number>();
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const today = toDay(new Date());
  for await (const batch of openRows(db, id)) {
    const rows = batch.map(({ n, cells }) => ({ n, cells, formed: made.former.form(cells, today) }));
    const held = await loadHeld(
      db,
      rows.flatMap((r) => (r.formed.is === 'formed' ? r.formed.sku : [])),
    );
    for (const { n, cells, formed } of rows) {
      counts.rows++;
      const shape = toShape(n, cells, formed, held, gtinAt);
      if (formed.is === 'formed') {
        counts.formed++;
        clashes.note(formed.sku, n);
        if (shape.held === 'no') counts.fresh++;
        else counts.held++;
        if (shape.held === 'other-barcode') counts.otherBarcode++;
      } else if (formed.is === 'left-out') counts.leftOut++;
      else if (formed.is === 'no-sku') counts.noSku++;
      else counts.faults++;
      // Of each kind some are shown, so that what is rare is seen beside what is not.
      const kind = `${shape.is} ${shape.held}`;
      const isSought = words.every((w) => `${shape.sku} ${Object.values(cells).join(' ')}`.toLowerCase().includes(w));
      const shownOfKind = ofKind.get(kind) ?? 0;
      if (isSought && shown.length < mostShown && (words.length > 0 || shownOfKind < mostOfOneKind)) {
        ofKind.set(kind, shownOfKind + 1);
        shown.push(shape);
      }
    }
  }
  const all = clashes.list();
  const rank = (r: FormedShape): number => {
    if (r.is === 'fault' || r.is === 'no-sku') return 0;
    if (r.is === 'left-out') return 4;
    if (clashes.isClash(r.sku) || r.held === 'other-barcode') return 1;
    return r.held === 'no' ? 2 : 3;
  };
  return {
    ok: true,
    counts,
    clashes: all.slice(0, mostClashes),
    clashCount: all.length,
    rows: shown
      .map((r) => ({
        ...r,
        values: r.values.map((v, i) => made.former.tidy(v, i)),
        isClash: r.is === 'formed' && clashes.isClash(r.sku),
      }))
      .sort((a, b) => rank(a) - rank(b) || a.row - b.row),
  };
}

function toShape(
  row: number,
  cells: SourceRow,
  formed: ReturnType<Former['form']>,
  held: ReadonlyMap<string, string | null>,
  gtinAt: number,
): FormedShape {
  const base = {
    row,
    cells: { ...cells },
    sku: '',
    family: '',
    values: [],
    held: 'no' as const,
    isClash: false,
    fault: null,
  };
  if (formed.is === 'fault') return { ...base, is: 'fault', fault: { part: formed.part, fault: formed.fault } };
  if (formed.is !== 'formed') return { ...base, is: formed.is };
  const gtin = gtinAt < 0 ? null : toGtin14(formed.values[gtinAt] ?? '');
  const known = held.get(formed.sku);
  return {
    ...base,
    is: 'formed',
    sku: formed.sku,
    family: formed.family,
    values: [...formed.values],
    held: known === undefined ? 'no' : known !== null && gtin !== null && known !== gtin ? 'other-barcode' : 'yes',
  };
}
