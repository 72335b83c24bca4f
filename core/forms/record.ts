// Rows on their way to a market, and the records of a form that they become: one a listing, one a listing at each site, or
// one a family.
import type { RowRole, Values } from '../listing/values';
import { findForm } from '../rulebook/form-choice';
import type { Form, Rulebook, Site } from '../rulebook/schema';
import type { Operation } from '../rulebook/terms';

/** One row on its way to a market. `cleared` names attributes to be emptied on purpose. */
export interface FeedRow {
  operation: Operation;
  sku: string;
  role: RowRole;
  parentSku: string | undefined;
  axes: readonly string[];
  category: string;
  values: Values;
  cleared: readonly string[];
  /** The sites where it is offered, by key; all where none is named. */
  sites?: readonly string[];
  /** The number of the market's entry that it joins. */
  entry?: string;
}
export interface FeedRecord {
  /** The row that it speaks of; in a record of a family that of the family, with nothing in it where it is not on its way. */
  row: FeedRow;
  /** All rows on their way that it carries. */
  rows: readonly FeedRow[];
  /** What stands side by side in a record of a family: its variants, or an item by itself. */
  members?: readonly FeedRecord[];
  /** The site that the record is about; the market's first where the form has one record for all. */
  site: Site;
  /** True where the record is about that site alone. */
  isOfSite: boolean;
}

/** True where a market can be asked for an operation: a file takes it, and it does not bring back what is burnt for good. */
export const canAsk = (book: Rulebook, operation: Operation): boolean =>
  findForm(book, operation) !== undefined && !(operation === 'restore' && book.sku.reuse === 'never');

/** The records of a form that rows become, in their order. */
export function toRecords(book: Rulebook, form: Form, rows: readonly FeedRow[]): FeedRecord[] {
  const first = book.sites[0]!;
  if (form.record === 'family') return toFamilies(rows, form.members?.most ?? 1, first);
  if (form.record === 'listing') return rows.map((row) => ({ row, rows: [row], site: first, isOfSite: false }));
  return rows.flatMap((row) =>
    book.sites
      .filter((s) => row.sites?.includes(s.key) ?? true)
      .map((site) => ({ row, rows: [row], site, isOfSite: true })),
  );
}

/**
 * Rows of a family, which follow one another, as one record; as several, of which the first speaks for the family, where it
 * has more variants than a record has room for.
 */
function toFamilies(rows: readonly FeedRow[], most: number, site: Site): FeedRecord[] {
  const records: FeedRecord[] = [];
  const plain = { site, isOfSite: false };
  for (let i = 0; i < rows.length;) {
    const key = rows[i]!.parentSku ?? rows[i]!.sku;
    let end = i + 1;
    while (end < rows.length && rows[end]!.parentSku === key) end++;
    const own = rows.slice(i, end);
    const head = own.find((r) => r.parentSku === undefined);
    const members = own.filter((r) => r.role !== 'parent');
    for (let k = 0; k === 0 || k < members.length; k += most) {
      const here = members.slice(k, k + most);
      const speaks = k === 0 ? head : undefined;
      records.push({
        row: speaks ?? toHead(own[0]!, key),
        rows: speaks?.role === 'parent' ? [speaks, ...here] : here,
        members: here.map((row) => ({ row, rows: [row], ...plain })),
        ...plain,
      });
    }
    i = end;
  }
  return records;
}

/** A family of which only variants are on their way: named, and nothing said of it. */
const toHead = (variant: FeedRow, sku: string): FeedRow => ({
  ...variant,
  sku,
  role: 'parent',
  parentSku: undefined,
  values: {},
  cleared: [],
});
