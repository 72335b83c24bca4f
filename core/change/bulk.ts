// A change of many items as data: steps, one field and one operation each, done one after the other. The same code makes what
// is looked at before and what is written.
import { z } from 'zod';
import type { RowFault } from '../formula';
import type { Value, Values } from '../listing/values';
import { type CellFault, type FieldBook, findCellFault, isHeldBy, isSameField, readMarketKey } from '../product';
import type { PriceFault } from '../pricing';
import type { FieldChange } from './change';
import type { ListingFault } from './listing-fault';
import { operationSchema, prepareOperation, type PriceLeaving, type StepProblem } from './operations';
import type { Apply } from './operations/define';

export const mostSteps = 20;
export const changeSteps = z
  .array(z.strictObject({ field: z.string().min(1).max(120), operation: operationSchema }))
  .min(1, 'Say what is to be changed.')
  .max(mostSteps);

export type ChangeStep = z.output<typeof changeSteps>[number];

/** Why a row is left as it is, by the field in which it shows. */
export interface RowProblem {
  field: string;
  /** What would have been written, where it is that which cannot stand there. */
  value: Value | null;
  fault: CellFault | RowFault | PriceFault | ListingFault;
}

/** An item, or its listing where that is changed. */
export interface ChangeItem {
  kind: string;
  /** Its fields by their keys, with those of its listings that are read. */
  values: Values;
  listing?: {
    /** What the catalog gives by itself, where a step asks for it. */
    given?: Values | undefined;
    /** The price that leaves a margin, where a step asks for it. */
    priceLeaving?: PriceLeaving | undefined;
    /** Why something cannot be put into a field; undefined where it can. */
    refuse: (field: string) => ListingFault | undefined;
  };
}

/** What would become of one item. A row is changed as a whole: with a fault in one field none of the others is written. */
export interface RowOutcome {
  changes: FieldChange[];
  problem: RowProblem | null;
}

export interface PreparedChange {
  /** Fields that it writes, each once. */
  fields: readonly string[];
  /** Fields that it reads or writes: all that an item must be loaded with. */
  reads: readonly string[];
  /** The market whose listings are changed; null where items are. */
  market: string | null;
  /** Whether a step asks for what the catalog gives a listing by itself. */
  asksGiven: boolean;
  /** Whether a step asks which price leaves a margin. */
  asksPrices: boolean;
  run: (item: ChangeItem, row: { today: string; index: number }) => RowOutcome;
}

type Prepared = { ok: true; change: PreparedChange } | { ok: false; step: number; problem: StepProblem };

/** Makes a change ready; says of the first step that cannot be done what is wrong with it. */
export function prepareChange(steps: readonly ChangeStep[], book: FieldBook): Prepared {
  const applies: { field: string; apply: Apply }[] = [],
    reads = new Set(steps.map((s) => s.field));
  const market = marketOf(steps[0]?.field ?? '');
  for (const [i, { field, operation }] of steps.entries()) {
    if (marketOf(field) !== market)
      return { ok: false, step: i, problem: { is: 'elsewhere', field: book.labelOf(field) } };
    const made = prepareOperation(operation, field, book);
    if (!made.ok) return { ok: false, step: i, problem: made.problem };
    applies.push({ field, apply: made.apply });
    for (const key of made.reads) reads.add(key);
  }
  const fields = [...new Set(steps.map((s) => s.field))];
  return {
    ok: true,
    change: {
      fields,
      reads: [...reads],
      market,
      asksGiven: steps.some((s) => s.operation.do === 'follow'),
      asksPrices: steps.some((s) => s.operation.do === 'leave'),
      run: (item, row) => runRow(applies, fields, book, item, row),
    },
  };
}
const marketOf = (field: string): string | null => readMarketKey(field)?.market ?? null;

function runRow(
  applies: readonly { field: string; apply: Apply }[],
  fields: readonly string[],
  book: FieldBook,
  { kind, values, listing }: ChangeItem,
  row: { today: string; index: number },
): RowOutcome {
  const now: Record<string, Value> = { ...values };
  for (const { field, apply } of applies) {
    // What is sold has it; the row of a family is passed by, and so is the stock of a bundle.
    const known = book.get(field);
    if (known && !isHeldBy(known, { kind })) continue;
    const made = apply(now[field], { values: now, given: listing?.given, priceLeaving: listing?.priceLeaving, ...row });
    if (made.is === 'fault') return { changes: [], problem: { field, value: null, fault: made.fault } };
    if (made.is === 'left') continue;
    if (made.value === null) delete now[field];
    else now[field] = made.value;
  }
  const changes: FieldChange[] = [];
  for (const field of fields) {
    const before = values[field] ?? null,
      after = now[field] ?? null;
    if (isSameField(book, field, before, after)) continue;
    const fault = (after === null ? undefined : listing?.refuse(field)) ?? findCellFault(book, field, after, { kind });
    if (fault) return { changes: [], problem: { field, value: after, fault } };
    changes.push({ field, before, after });
  }
  return { changes, problem: null };
}
