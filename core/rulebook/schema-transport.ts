// How files reach a market and its answers come back.
import { z } from 'zod';
import { nestedPath, path, regex } from './schema-basics';

const headerName = z.string().regex(/^[A-Za-z][A-Za-z0-9-]*$/, 'A header is letters, digits and hyphens.');
/** A piece of an answer: the group `found` of a pattern in its body or in one of its headers, or what stands at a path of JSON. */
const found = z.union([
  z.strictObject({
    in: z.union([z.literal('body'), z.strictObject({ header: headerName })]),
    pattern: regex.refine((r) => r.includes('(?<found>'), 'The pattern names what it finds: (?<found>…).'),
  }),
  z.strictObject({ json: nestedPath }),
]);

/** Folders and a file under the one that the person entered, which it can never leave. */
const filePath = z
  .string()
  .max(200)
  .regex(
    /^[A-Za-z0-9_-][A-Za-z0-9._-]*(\/[A-Za-z0-9_-][A-Za-z0-9._-]*)*$/,
    'A path is names divided by slashes, without one at either end, such as lists/standing.xml.',
  );
const fileName = z.string().regex(/^[A-Za-z0-9._{}-]+$/, 'A file name is letters, digits and . _ - {} only.');

/** How a seller is known: by a key that travels as a bearer token (RFC 6750). The key itself is kept apart, never here. */
const login = z.strictObject({ kind: z.literal('bearer') });
/** What a market takes in a stretch of time, from all who ask in the seller's name. */
const quota = z.strictObject({
  seconds: z.int().positive().max(86_400),
  requests: z.int().positive(),
  records: z.int().positive().optional(),
});

export const transport = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('http'),
    login: login.optional(),
    quota: quota.optional(),
    submit: z.strictObject({
      path,
      contentType: z.string().default('text/plain; charset=utf-8'),
      /** Where a file goes as a part of a form (RFC 7578): the name of its part, and what stands in others, {key} filled in. */
      multipart: z
        .strictObject({
          file: z.string().regex(/^[A-Za-z][A-Za-z0-9_-]*$/),
          fields: z.record(z.string(), z.string()).default({}),
        })
        .optional(),
      /** The header that carries the key under which the same file twice is one submission. */
      keyHeader: headerName.default('Idempotency-Key'),
      taken: z.array(z.int().min(200).max(299)).default([200, 201, 202]),
      ticket: found,
    }),
    answer: z.strictObject({
      path,
      /** Statuses that say that there is no answer yet. */
      waiting: z.array(z.int().min(200).max(499)).default([]),
      /** What an answer says of itself when it is whole. */
      until: z.strictObject({ json: nestedPath, is: z.string() }).optional(),
      /** Where its next page is, {next} filled in, as long as a page names one. */
      pages: z.strictObject({ path, next: found }).optional(),
    }),
    shelf: z.strictObject({ path, cursor: found }),
    find: path.optional(),
    /** The page that buyers see. */
    page: path,
  }),
  z.strictObject({
    kind: z.literal('sftp'),
    /** Files are put here under another name, then renamed: a market takes none that is half there, and each name once. */
    submit: z.strictObject({ folder: filePath }),
    /** Where the answer to a file is, {stem} being the file's name without its ending, and where it goes when it is read. */
    answer: z.strictObject({
      folder: filePath,
      name: fileName.refine(
        (n) => n.includes('{stem}') || n.includes('{name}'),
        'The name of an answer holds {stem} or {name}.',
      ),
      aside: filePath.optional(),
    }),
    shelf: z.strictObject({ file: filePath }),
    find: z.strictObject({ file: filePath }).optional(),
  }),
  z.strictObject({ kind: z.literal('by-hand') }),
]);
export type Transport = z.output<typeof transport>;
export type SftpTransport = Extract<Transport, { kind: 'sftp' }>;
export type HttpTransport = Extract<Transport, { kind: 'http' }>;
export type Found = z.output<typeof found>;
export type Quota = z.output<typeof quota>;
