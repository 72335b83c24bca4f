// Files of the catalog that go out, and come back.
import { scheduleSchema } from '@basileus/core/change';
import { exportFormats } from '@basileus/core/sheet';
import { type Which, whichSchema } from '@basileus/core/choose';
import { z } from 'zod';
import { defineEndpoint } from './endpoint';
import { idParam, nothing, word } from './shapes';

const name = z.string().trim().min(1, 'Give a name.').max(120);
const wanted = z.object({
  which: whichSchema as z.ZodType<Which>,
  /** Keys of the fields that are its columns, in their order; the SKU stands first whatever is said. */
  columns: z.array(word.min(1)).min(1, 'Choose a column.').max(200),
  format: z.enum(exportFormats),
});
export type ExportWanted = z.output<typeof wanted>;
const exportShape = wanted.extend({
  id: z.number(),
  name: z.string(),
  rows: z.number(),
  size: z.number(),
  state: z.enum(['making', 'ready', 'failed']),
  actor: z.string(),
  at: z.string(),
  /** Imports that brought it back. */
  cameBack: z.array(z.object({ id: z.number(), name: z.string(), at: z.string() })),
});
export type ExportShape = z.output<typeof exportShape>;
export const listExports = defineEndpoint({
  id: 'listExports',
  method: 'get',
  path: '/exports',
  about: 'Files of the catalog that went out, newest first, with what came back of each.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({ rows: z.array(exportShape) }),
});
export const startExport = defineEndpoint({
  id: 'startExport',
  method: 'post',
  path: '/exports',
  about:
    'Makes a file of the items that are meant, as a job. What it holds is remembered: brought back, only what was changed in it is written.',
  params: nothing,
  query: nothing,
  body: wanted.extend({ name: name.default('Catalog') }),
  response: z.object({ id: z.number(), job: z.string() }),
});
export const removeExport = defineEndpoint({
  id: 'removeExport',
  method: 'delete',
  path: '/exports/:id',
  about: 'Forgets a file that went out. Brought back, it is read as any other.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.object({}),
});
export const downloadExport = defineEndpoint({
  id: 'downloadExport',
  method: 'get',
  path: '/exports/:id/file',
  about: 'The file itself.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.any(),
  answers: 'application/octet-stream',
});

const exportSet = wanted.extend({
  id: z.number(),
  name: z.string(),
  /** When it is taken out by itself, and when next. */
  schedule: scheduleSchema.nullable(),
  nextAt: z.string().nullable(),
});
export type ExportSet = z.output<typeof exportSet>;
export const listExportSets = defineEndpoint({
  id: 'listExportSets',
  method: 'get',
  path: '/export-sets',
  about: 'Columns and items that are kept under a name, to be taken out again.',
  params: nothing,
  query: nothing,
  body: nothing,
  response: z.object({ rows: z.array(exportSet) }),
});
export const keepExportSet = defineEndpoint({
  id: 'keepExportSet',
  method: 'post',
  path: '/export-sets',
  about:
    'Keeps columns and items under a name; one of that name is replaced. With a schedule the file is made by the clock, and the last fourteen are kept.',
  params: nothing,
  query: nothing,
  body: wanted.extend({ name, schedule: scheduleSchema.nullable().default(null) }),
  response: exportSet,
});
export const removeExportSet = defineEndpoint({
  id: 'removeExportSet',
  method: 'delete',
  path: '/export-sets/:id',
  about: 'Forgets a set of columns and items.',
  params: idParam,
  query: nothing,
  body: nothing,
  response: z.object({}),
});
