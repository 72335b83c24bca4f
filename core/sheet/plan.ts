// What an import would do with one row: pure, from the row, the columns' meaning and what we hold now.
import type { FieldChange } from '../change/change';
import { isSameValue, type Value } from '../listing/values';
import { type FieldBook, findValueFault, isSameField } from '../product';
import type { KnownAs } from './known-by';
import type { Problem, ProblemFact } from './problem';
import { type HeldProduct, type ImportReading, readRow } from './read-row';

export interface PlannedRow {
  sku: string;
  action: 'create' | 'update' | 'same' | 'refuse';
  changes: FieldChange[];
  problems: Problem[];
}

/** What is known of a row beside its cells. */
export interface RowContext {
  /** The fields of the house. */
  fields: FieldBook;
  /** SKUs of the rows before it, with their rows. */
  seen: ReadonlyMap<string, number>;
  /** A SKU of the catalog or of a row before it that this one was probably meant to be (`isSameSkuMistyped`). */
  twin?: { sku: string; isInFile: boolean } | undefined;
  /** Faults of the row as a whole (`findRowFaults`). */
  faults?: readonly Problem[];
  /** Where rows are known by something else: what this one is known as. What we `held` is of that item where it is one alone. */
  known?: KnownAs | undefined;
  /** What kind of item we hold under the SKU: a family is not sold, and a bundle's stock follows from its parts. */
  kind?: 'single' | 'family' | 'variant' | 'bundle' | undefined;
}

/** Decides what becomes of a row: added, changed, left as it is, or refused with all that is wrong with it. */
export function planRow(
  cells: readonly string[],
  reading: ImportReading,
  held: HeldProduct | undefined,
  { fields, seen, faults = [], kind, twin, known }: RowContext,
): PlannedRow {
  const read = readRow(cells, reading, held, fields);
  const { values } = read;
  const knownAs = known?.skus.length === 1 ? known.skus[0] : undefined;
  // What an item is known by is not changed by that, and a supplier's number is no SKU of ours.
  if (known && knownAs !== undefined) {
    delete values[known.by];
    values['sku'] = knownAs;
  } else if (known?.made !== undefined) values['sku'] = known.made;
  const problems = [...faults, ...read.problems];
  for (const [field, value] of Object.entries(values)) {
    const known = fields.get(field);
    const fault = value === null || !known ? undefined : findValueFault(known, value);
    if (value === null || fault === undefined) continue;
    problems.push({
      field,
      value: showValue(value),
      kind: 'not-held',
      fact: { is: 'fault', fault },
      level: 'blocker',
    });
    if (field !== 'sku') delete values[field];
  }
  const sku = typeof values['sku'] === 'string' ? values['sku'] : '';
  const refuse = (fact: ProblemFact, field = 'sku', value = sku): PlannedRow => ({
    sku,
    action: 'refuse',
    changes: [],
    problems: [...problems, { field, value, kind: 'does-not-fit', fact, level: 'blocker' }],
  });
  // A new item is one that has a SKU which nothing of ours has; any other number of that name is the supplier's own.
  const isFree = known?.made !== undefined || (sku !== '' && held === undefined);
  if (known && knownAs === undefined && (known.skus.length > 0 || !isFree || reading.mode === 'update'))
    return refuse({ is: 'not-known', skus: known.skus }, known.by, known.value);
  if (sku === '') return faults.length ? { sku, action: 'refuse', changes: [], problems } : refuse({ is: 'no-sku' });
  const before = seen.get(sku);
  if (before !== undefined) return refuse({ is: 'sku-again', row: before });
  if (held === undefined && reading.mode === 'update')
    return refuse({ is: 'not-in-catalog', ...(twin === undefined ? {} : { twin: twin.sku }) });
  if (held === undefined && twin !== undefined)
    return refuse({ is: 'mistyped-sku', twin: twin.sku, ...(twin.isInFile ? { isInFile: true } : {}) });
  if (held !== undefined && reading.mode === 'create') return refuse({ is: 'already-in-catalog' });
  if (problems.some((p) => p.level === 'blocker')) return { sku, action: 'refuse', changes: [], problems };
  if (held !== undefined) leaveOut(fields, values, held, kind, problems);
  const changes = Object.entries(values)
    .filter(
      ([field, value]) =>
        field !== 'sku' &&
        !isSameValue(value ?? undefined, held?.[field]) &&
        !(value === null && held?.[field] === undefined),
    )
    .filter(([field, value]) => !isSameField(fields, field, value, held?.[field] ?? null))
    .map(([field, value]) => ({ field, before: held?.[field] ?? null, after: value }));
  if (held === undefined) {
    if (!values['title'] && !values['parent_sku']) return refuse({ is: 'no-title' }, 'title');
    return { sku, action: 'create', changes, problems };
  }
  return { sku, action: changes.length ? 'update' : 'same', changes, problems };
}

/**
 * What a new row keeps when others name it as their family, which only the whole file tells: what belongs to its variants is
 * left out with a word.
 */
export function leaveOutOfFamily(
  changes: readonly FieldChange[],
  { isOfSellable }: Pick<FieldBook, 'isOfSellable'>,
): { changes: FieldChange[]; problems: Problem[] } {
  const out = changes.filter((c) => isOfSellable(c.field));
  return {
    changes: changes.filter((c) => !isOfSellable(c.field)),
    problems: out.map(({ field, after }) => ({
      field,
      value: showValue(after ?? ''),
      kind: 'left-out',
      fact: { is: 'of-variants' },
      level: 'caution',
    })),
  };
}

const showValue = (value: Value): string => (typeof value === 'string' ? value : value.join(' | ')).slice(0, 200);

/** Takes out, with a word, what an import does not change in an item that is there: its family, its title, stock that is derived. */
function leaveOut(
  { isOfSellable }: FieldBook,
  values: Record<string, Value | null>,
  held: HeldProduct,
  kind: RowContext['kind'],
  problems: Problem[],
): void {
  const leave = (field: string, fact: ProblemFact): void => {
    const value = values[field];
    if (typeof value === 'string' && value !== (held[field] ?? ''))
      problems.push({ field, value: showValue(value), kind: 'left-out', fact, level: 'caution' });
    delete values[field];
  };
  if ('parent_sku' in values)
    leave('parent_sku', {
      is: 'family-stays',
      family: typeof held['parent_sku'] === 'string' ? held['parent_sku'] : null,
    });
  if (values['title'] === null) {
    problems.push({
      field: 'title',
      value: '',
      kind: 'left-out',
      fact: { is: 'title-stays', title: showValue(held['title'] ?? '') },
      level: 'caution',
    });
    delete values['title'];
  }
  if ((kind === 'family' || kind === 'bundle') && 'stock' in values) leave('stock', { is: 'stock-follows' });
  if (kind !== 'family') return;
  for (const field of Object.keys(values)) if (isOfSellable(field)) leave(field, { is: 'of-variants' });
}
