import { z } from 'zod';
import type { Value } from '../../listing/values';
import { becomes, isWritten, left, type OperationKind, ready, refuse } from './define';

const schema = z.strictObject({
  do: z.literal('rewrite'),
  find: z.string().max(500),
  by: z.string().max(5000),
  /** Capitals counted; whole words only, so that "pan" is not found in "company". */
  exactCase: z.boolean().default(false),
  wholeWords: z.boolean().default(false),
});

const escape = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
const beside = '[\\p{L}\\p{N}\\p{M}_]';

/** Every place where a text stands in another, as a pattern; the text is taken as it is, none of its signs has a meaning. */
function toFindPattern(given: { find: string; exactCase: boolean; wholeWords: boolean }): RegExp {
  const text = escape(given.find);
  return new RegExp(given.wholeWords ? `(?<!${beside})${text}(?!${beside})` : text, given.exactCase ? 'gu' : 'giu');
}

/** One text in place of another wherever it stands, in texts and in the entries of lists. */
export const rewrite: OperationKind<typeof schema> = {
  do: 'rewrite',
  schema,
  fits: isWritten,
  prepare: (given, field) => {
    if (given.find === '') return refuse({ is: 'nothing-given', part: 'find' });
    const pattern = toFindPattern(given);
    const put = (text: string): string => text.replace(pattern, () => given.by);
    return ready((held) => {
      if (held === undefined) return left;
      const made: Value =
        typeof held === 'string' ? tidy(put(held), field.kind) : held.map(put).filter((t) => t.trim() !== '');
      return becomes(made.length === 0 ? null : made);
    });
  },
};

/** What was taken out leaves no gap: a name has one space between words and none at its ends. */
const tidy = (text: string, kind: string): string => (kind === 'text' ? text.replace(/ {2,}/g, ' ').trim() : text);
