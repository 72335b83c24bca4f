import { z } from 'zod';

/** The one table of refusals: code, status. Wording comes with the refusal, naming field, value and remedy. */
export const errorStatus = {
  'not-found': 404,
  'bad-input': 400,
  'not-allowed': 403,
  'wrong-form': 415,
  conflict: 409,
  'too-large': 413,
  'not-now': 409,
  'needs-look': 409,
  'unreadable-file': 422,
  'market-unreachable': 502,
  'source-unreachable': 502,
  'not-ready': 503,
  internal: 500,
} as const;
export type ErrorCode = keyof typeof errorStatus;

export const errorSchema = z.object({
  code: z.enum(Object.keys(errorStatus) as [ErrorCode, ...ErrorCode[]]),
  message: z.string(),
  field: z.string().nullable(),
  remedy: z.string().nullable(),
});
export type ErrorBody = z.output<typeof errorSchema>;
