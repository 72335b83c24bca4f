import { z } from 'zod';
import { problemKinds } from '@basileus/core/sheet';
import { defineEndpoint } from './endpoint';
import { importReading } from './import-reading';
import { fieldChange, id, idParam, nothing, ok, page, pathId, value } from './shapes';

/** What went in against what came out: rows = lines - above - headings - sums - blank - notes, and less those
 * that are hidden where they are left out; create + update + same + refuse = rows. */
const counts = z.object({
  lines: z.number(),
  above: z.number(),
  /** Lines among the items that say the headings again. */
  headings: z.number(),
  /** Lines that add up those over them. */
  sums: z.number(),
  blank: z.number(),
  notes: z.number(),
  /** Rows with items that the sheet does not show. */
  hidden: z.number(),
  /** Row of the first note under the table; 0 where there is none. */
  firstNote: z.number(),
  /** Rows that stand inside a cell of another row, behind a quotation mark that was not closed. */
  swallowed: z.number(),
  rows: z.number(),
  create: z.number(),
  update: z.number(),
  same: z.number(),
  refuse: z.number(),
  damaged: z.number(),
  /** Rows whose SKU differs from one of the catalog only in capitals or marks. */
  mistyped: z.number(),
  applied: z.number(),
  /** Rows that somebody else changed meanwhile, differently; they wait for a decision. */
  conflicts: z.number(),
  /** Rows with a number that the other decimal sign alone can read, and with one that either can read, as another number. */
  otherSign: z.number(),
  eitherSign: z.number(),
  /** Rows with an item that would be new, with the barcode of one that is there. */
  barcodes: z.number(),
  /** Rows that say what a cell says which goes down from a row before. */
  merged: z.number(),
});
export const importShape = z.object({
  id: z.number(),
  name: z.string(),
  size: z.number(),
  state: z.enum(['planning', 'planned', 'applying', 'applied', 'failed', 'cancelled']),
  kind: z.enum(['text', 'workbook']),
  sheets: z.array(
    z.object({
      name: z.string(),
      hidden: z.boolean(),
      /** True where it has the headings of the one that is read. */
      isAlike: z.boolean().default(false),
    }),
  ),
  /** Where each sheet begins among the lines, from 1; none where one is read. */
  starts: z.array(z.object({ name: z.string(), from: z.number() })),
  titleLines: z.array(z.string()),
  sample: z.array(z.array(z.string())),
  reading: importReading,
  counts,
  /** Brands, own categories and other shared names that no item has yet, with the nearest that one has, or what a market calls so. */
  novelties: z.array(
    z.object({
      field: z.string(),
      value: z.string(),
      rows: z.number(),
      first: z.number(),
      near: z.string().nullable(),
      /** The market in whose words it means that; none where it is only like it. */
      by: z.string().nullable().default(null),
    }),
  ),
  /** Cells that cannot be read and stand in several rows, the most frequent first. */
  unread: z.array(
    z.object({ field: z.string(), value: z.string(), says: z.string(), rows: z.number(), first: z.number() }),
  ),
  /** Fields of which most rows that would change have only the beginning of what we hold: so many of them, so long at the most. */
  cutTexts: z.array(z.object({ field: z.string(), rows: z.number(), of: z.number(), longest: z.number() })),
  /** The file from which the meaning of the columns was remembered. */
  rememberedFrom: z.string().nullable(),
  fault: z.string().nullable(),
  /** The file that went out of which this is the return: only what was changed in it is written. */
  baseline: z.object({ id: z.number(), name: z.string(), at: z.string() }).nullable(),
  /** Fields whose column was sorted without its neighbours, by all that can be told. */
  shuffled: z.array(z.string()),
  /** When it is written by itself, and by whose word; null where it waits for a person. */
  due: z.object({ at: z.string(), by: z.string() }).nullable(),
  createdAt: z.string(),
});
export type ImportShape = z.output<typeof importShape>;
const plannedRow = z.object({
  row: z.number(),
  sku: z.string(),
  action: z.enum(['create', 'update', 'same', 'refuse']),
  changes: z.array(fieldChange),
  problems: z.array(
    z.object({
      field: z.string(),
      value: z.string(),
      kind: z.enum(problemKinds),
      says: z.string(),
      level: z.enum(['blocker', 'caution']),
      mended: z.string().optional(),
    }),
  ),
  applied: z.boolean(),
  /** The cells of a row that has remarks, by the index of their column; any of them can be mended before it is written. */
  cells: z.array(z.string()).nullable(),
  /**
   * Why a row was not written as planned: its item was `changed` since, `added` by somebody else or `removed`; and the
   * values on which both sides differ.
   */
  clash: z.enum(['changed', 'added', 'removed']).nullable(),
  conflicts: z.array(
    z.object({ field: z.string(), base: value.nullable(), theirs: value.nullable(), ours: value.nullable() }),
  ),
});

export type ImportRowShape = z.output<typeof plannedRow>;

export const uploadImport = defineEndpoint({
  id: 'uploadImport',
  takesFile: true,
  method: 'post',
  path: '/imports',
  about:
    'Takes a file (multipart, one part named “file”), says what was understood of it and begins to plan. Nothing in the catalog changes.',
  params: nothing,
  query: nothing,
  body: z.any(),
  response: importShape,
});
export const listImports = defineEndpoint({
  id: 'listImports',
  method: 'get',
  path: '/imports',
  about: 'Imports, newest first.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({
    rows: z.array(
      importShape.pick({
        ...{ id: true, name: true, size: true, state: true, counts: true, createdAt: true, fault: true, due: true },
      }),
    ),
  }),
});
export const readImport = defineEndpoint({
  id: 'readImport',
  method: 'get',
  path: '/imports/:id',
  about: 'One import: what was understood, how it stands.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: importShape,
});
export const changeImport = defineEndpoint({
  id: 'changeImport',
  method: 'put',
  path: '/imports/:id/reading',
  about: 'Corrects how the file is read and plans anew.',
  params: idParam,
  query: nothing,
  body: importReading,
  response: importShape,
});
export const takeAsNew = defineEndpoint({
  id: 'takeAsNew',
  method: 'post',
  path: '/imports/:id/as-new',
  about: 'Reads a file that was taken for the return of one that went out as any other file, and plans it anew.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: importShape,
});
export const listImportRows = defineEndpoint({
  id: 'listImportRows',
  method: 'get',
  path: '/imports/:id/rows',
  about: 'Planned rows with their differences.',
  params: idParam,
  query: page.extend({ action: z.enum(['', 'create', 'update', 'same', 'refuse', 'damaged', 'conflict']).default('') }),
  body: nothing,
  response: z.object({ total: z.number(), rows: z.array(plannedRow) }),
});
export const mendImportRow = defineEndpoint({
  id: 'mendImportRow',
  method: 'put',
  path: '/imports/:id/rows/:row',
  about: 'Mends a cell of a row with remarks, as if the file had said so, and plans that row anew.',
  params: z.object({ id: pathId, row: pathId }),
  query: nothing,
  body: z.object({ column: z.int().min(0).max(16_383), text: z.string().max(32_767) }),
  response: importShape,
});
export const applyImport = defineEndpoint({
  id: 'applyImport',
  method: 'post',
  path: '/imports/:id/apply',
  about: 'Writes the planned rows into the catalog, as a job.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.object({ job: z.string() }),
});
export const timeImport = defineEndpoint({
  id: 'timeImport',
  method: 'put',
  path: '/imports/:id/time',
  about:
    'Says when the planned rows are written: a list that is valid from a day. They are planned once more then, against the catalog of that time. Null lets it wait for a person again.',
  params: idParam,
  query: nothing,
  body: z.strictObject({ at: z.iso.datetime({ offset: true }).nullable() }),
  response: importShape,
});
export const decideImport = defineEndpoint({
  id: 'decideImport',
  method: 'post',
  path: '/imports/:id/decisions',
  about:
    'Decides rows that somebody else changed meanwhile: what the file says is written over it, or what stands there is kept. All rows that wait, or the named ones.',
  params: idParam,
  query: nothing,
  body: z.object({ take: z.enum(['file', 'ours']), rows: z.array(id).max(10_000).optional() }),
  response: z.object({ decided: z.number(), job: z.string().nullable() }),
});
export const discardImport = defineEndpoint({
  id: 'discardImport',
  method: 'delete',
  path: '/imports/:id',
  about: 'Drops an import that was not applied.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: ok,
});
export const downloadRefused = defineEndpoint({
  id: 'downloadRefused',
  method: 'get',
  path: '/imports/:id/refused.csv',
  about: 'The refused rows as a file, each with its reason.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.any(),
  answers: 'text/csv',
});
