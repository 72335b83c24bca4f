// How a file is read: what its columns hold, how its numbers and lists are written, and by what its rows are known.
import { encodings, guessReasons, knownBys } from '@basileus/core/sheet';
import { z } from 'zod';
import { word } from './shapes';

export const importReading = z.object({
  encoding: z.enum(encodings),
  delimiter: z.enum(['\t', ';', ',', '|']),
  /** True where each line stands between quotation marks as a whole, as a program leaves it that took it for one cell. */
  wrapped: z.boolean().default(false),
  sheet: z.string().nullable(),
  /** Whether rows that the sheet does not show are read. */
  hiddenRows: z.enum(['read', 'left-out']).default('read'),
  /** From 0; -1 where the file has no headings. */
  headerRow: z.number().int().min(-1).max(1000),
  decimalSign: z.enum(['.', ',', 'undetermined']),
  /** Which of day and month stands first in dates. */
  dateOrder: z.enum(['day-first', 'month-first']).default('day-first'),
  listSeparator: z.string().length(1),
  columns: z.array(
    z.object({
      index: z.number().int().min(0).max(16_383),
      name: z.string(),
      samples: z.array(z.string()),
      field: z.string().nullable(),
      /** The fields that several measures in each cell fill, the first of them `field`. */
      parts: z.array(z.string()).min(2).max(3).optional(),
      /** The currency of its amounts where that is not the field's, and what one unit of the house's buys of it. */
      converts: z
        .object({
          currency: z.string().regex(/^[A-Z]{3}$/),
          rate: z
            .string()
            .regex(/^\d{1,9}(\.\d{1,9})?$/)
            .refine((r) => Number(r) > 0),
        })
        .optional(),
      why: z.enum([...guessReasons, 'remembered', 'chosen', 'left-out', 'given']),
    }),
  ),
  /** Other sheets with the same headings that are read after it. */
  alsoSheets: z.array(z.string().max(200)).max(50).default([]),
  mode: z.enum(['update', 'create', 'both']),
  blankClears: z.boolean(),
  acceptMended: z.boolean(),
  /** By what rows are known as items of ours. */
  knownBy: z.enum(knownBys).default('sku'),
  /** True where new items without a SKU get the barcode or part number that they are known by. */
  makesSkus: z.boolean().default(false),
  /** True where a SKU that differs from one of the catalog only in capitals or marks is read as that. */
  asTwins: z.boolean().default(false),
  /** Cells that are read as others wherever they stand: “Fryng pans” as “Frying pans”, “on order” as 0; as blank ones where `to` is empty. */
  replacements: z
    .array(z.object({ field: word, from: z.string().max(2000), to: z.string().max(2000) }))
    .max(500)
    .default([]),
});
export type ImportReadingShape = z.output<typeof importReading>;
