// How files reach a market and its answers come back.
import { z } from 'zod';
import { path, regex } from './schema-basics';

const headerName = z.string().regex(/^[A-Za-z][A-Za-z0-9-]*$/, 'A header is letters, digits and hyphens.');
/** A piece of an answer: the group `found` of a pattern in its body or in one of its headers. */
const found = z.strictObject({
  in: z.union([z.literal('body'), z.strictObject({ header: headerName })]),
  pattern: regex.refine((r) => r.includes('(?<found>'), 'The pattern names what it finds: (?<found>…).'),
});

export const transport = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('http'),
    submit: z.strictObject({
      path,
      contentType: z.string().default('text/plain; charset=utf-8'),
      /** The header that carries the key under which the same file twice is one submission. */
      keyHeader: headerName.default('Idempotency-Key'),
      taken: z.array(z.int().min(200).max(299)).default([200, 201, 202]),
      ticket: found,
    }),
    answer: z.strictObject({ path, waiting: z.array(z.int().min(200).max(499)).min(1) }),
    shelf: z.strictObject({ path, cursor: found }),
    find: path.optional(),
    /** The page that buyers see. */
    page: path,
  }),
  z.strictObject({ kind: z.literal('by-hand') }),
]);
export type Transport = z.output<typeof transport>;
export type HttpTransport = Extract<Transport, { kind: 'http' }>;
export type Found = z.output<typeof found>;
