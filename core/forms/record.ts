// Rows on their way to a market, and the records of a form that they become: one a listing, or one a listing at each site.
import type { RowRole, Values } from '../listing/values';
import type { Form, OperationTerms, Rulebook, Site } from '../rulebook/schema';
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
}
export interface FeedRecord {
  row: FeedRow;
  /** The site that the record is about; the market's first where the form has one record for all. */
  site: Site;
  /** True where the record is about that site alone. */
  isOfSite: boolean;
}

type FormTerms = Extract<OperationTerms, { form: string }>;
/** How a market does an operation, by a form of its own or as another operation; undefined where it does not. */
export function findOperation(book: Rulebook, operation: Operation): (FormTerms & { done: Operation }) | undefined {
  const terms = book.operations[operation];
  if (terms === undefined) return undefined;
  if (!('as' in terms)) return { ...terms, done: operation };
  const other = book.operations[terms.as];
  return other && !('as' in other) ? { ...other, done: terms.as } : undefined;
}

/** The form for an operation, or undefined where the market takes no file for it. */
export function findForm(book: Rulebook, operation: Operation): Form | undefined {
  const terms = findOperation(book, operation);
  return terms && book.forms.find((f) => f.key === terms.form);
}

/** True where a market can be asked for an operation: a file takes it, and it does not bring back what is burnt for good. */
export const canAsk = (book: Rulebook, operation: Operation): boolean =>
  findForm(book, operation) !== undefined && !(operation === 'restore' && book.sku.reuse === 'never');

/** The records of a form that rows become, in their order. */
export function toRecords(book: Rulebook, form: Form, rows: readonly FeedRow[]): FeedRecord[] {
  const first = book.sites[0]!;
  if (form.record === 'listing') return rows.map((row) => ({ row, site: first, isOfSite: false }));
  return rows.flatMap((row) =>
    book.sites.filter((s) => row.sites?.includes(s.key) ?? true).map((site) => ({ row, site, isOfSite: true })),
  );
}
