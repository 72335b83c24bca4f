// What the append-only history holds: facts, worded where they are shown.
import { scheduleSchema } from '@basileus/core/change';
import { sourceSchema } from '@basileus/core/listing';
import { operations } from '@basileus/core/rulebook';
import { z } from 'zod';

const text = z.string();
const rows = z.int().min(0);
const dispatched = {
  rows,
  market: text,
  operation: z.enum(operations),
  file: text,
};
/** One thing that somebody did, by its kind. `said` is how entries of older houses are kept: as they were worded. */
export const historyFact = z.discriminatedUnion('is', [
  z.strictObject({ is: z.literal('added'), sku: text, title: text }),
  z.strictObject({ is: z.literal('changed'), title: text, cells: rows, removed: rows.optional() }),
  z.strictObject({ is: z.literal('imported'), name: text, rows }),
  z.strictObject({ is: z.literal('import-stopped'), name: text, rows }),
  /** Null where it waits for a person again. */
  z.strictObject({ is: z.literal('import-timed'), name: text, at: text.nullable() }),
  z.strictObject({ is: z.literal('in-force'), market: text, version: text }),
  z.strictObject({ is: z.literal('wished'), rows, wish: z.enum(['keep', 'withdraw', 'restore']), market: text }),
  z.strictObject({ is: z.literal('wanted'), rows, wanted: z.boolean(), market: text }),
  z.strictObject({
    is: z.literal('entries-judged'),
    rows,
    as: z.enum(['found', 'joined', 'other']),
    market: text,
  }),
  z.strictObject({ is: z.literal('built'), ...dispatched }),
  z.strictObject({ is: z.literal('sent'), ...dispatched }),
  z.strictObject({ is: z.literal('stopped'), ...dispatched }),
  z.strictObject({ is: z.literal('abandoned'), ...dispatched }),
  z.strictObject({ is: z.literal('settled-by-shelf'), ...dispatched }),
  z.strictObject({
    is: z.literal('sending-said'),
    market: text,
    how: z.enum(['set', 'changed', 'called-off']),
    operations: z.array(z.enum(operations)),
    /** Null for one that goes once, at `at`. */
    schedule: scheduleSchema.nullable(),
    at: text.nullable(),
    rows,
  }),
  z.strictObject({ is: z.literal('let-go'), rows, dispatch: z.int(), code: text }),
  z.strictObject({ is: z.literal('market-added'), market: text, version: text }),
  z.strictObject({
    is: z.literal('market-changed'),
    market: text,
    what: z.array(z.enum(['address', 'key', 'host', 'settings', 'paused', 'resumed', 'template'])),
  }),
  z.strictObject({ is: z.literal('rate-said'), currency: text, rate: text }),
  z.strictObject({
    is: z.literal('own-said'),
    what: z.enum(['field', 'category', 'language', 'currency']),
    name: text,
    how: z.enum(['added', 'changed', 'removed', 'moved', 'renamed']),
    /** What it was moved under, or renamed to. */
    to: text.nullable(),
  }),
  z.strictObject({
    is: z.literal('source-said'),
    market: text,
    attribute: text,
    /** The category of the market for which it was said; null for all. */
    category: text.nullable(),
    /** What it was and what it is, fields by their labels of then; null for what is said above or suggested. */
    before: sourceSchema.nullable(),
    after: sourceSchema.nullable(),
  }),
  z.strictObject({
    is: z.literal('codes-said'),
    market: text,
    category: text.nullable(),
    /** The first of them. */
    attribute: text,
    ours: text,
    theirs: text.nullable(),
    values: rows,
  }),
  z.strictObject({ is: z.literal('market-removed'), market: text, rows }),
  z.strictObject({ is: z.literal('person-said'), name: text, how: z.enum(['came', 'left']) }),
  z.strictObject({ is: z.literal('laid-out'), live: rows }),
  z.strictObject({ is: z.literal('said'), action: text, subject: text, detail: text }),
]);
/** What a market can be changed in. */
export type MarketChange = Extract<z.output<typeof historyFact>, { is: 'market-changed' }>['what'][number];
export type HistoryFact = z.output<typeof historyFact>;
export const historyEntry = z.object({ id: z.number(), at: z.string(), actor: z.string(), fact: historyFact });
