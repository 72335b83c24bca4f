// A language of the interface: one file, checked as it is read.
import { z } from 'zod';

const forms = z.object({
  zero: z.string().optional(),
  one: z.string().optional(),
  two: z.string().optional(),
  few: z.string().optional(),
  many: z.string().optional(),
  other: z.string(),
});

const message = z.object({ says: z.string(), title: z.string(), why: z.string().optional() });

/** A language of the interface: the document of `languages/`. */
export const tongueSchema = z.strictObject({
  /** BCP 47: how numbers and days are written, and which forms of a word go with which number. */
  language: z.string().regex(/^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/, 'is no tag of a language, such as sv or pt-BR'),
  /** What the language calls itself. */
  name: z.string().min(1).max(60),
  /** By the English sentence, `{1}`, `{2}` … for what stands in it; by “row|rows” the forms of a word beside a number. */
  says: z.record(z.string(), z.union([z.string(), forms])),
  /** By `check/message` what findings say, with the placeholders of the English ones. */
  findings: z.record(z.string(), message).default({}),
});
export type Tongue = z.output<typeof tongueSchema>;
