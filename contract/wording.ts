// What a schema finds wrong, in our words: zod hands over facts, this is the one place that makes sentences of them.
// A message written at a schema itself goes before these.
import { z } from 'zod';
import { digits, plural, say, sayWord, term } from '@basileus/core/text';

const kinds: Readonly<Record<string, string>> = {
  string: term`a text`,
  number: term`a number`,
  int: term`a whole number`,
  boolean: term`true or false`,
  array: term`a list`,
  object: term`an object`,
  record: term`an object`,
};
const kindOf = (name: string): string => sayWord(kinds[name] ?? name);

/** A bound with the thing it counts: "300 characters", "50,000 entries", "12". */
function bound(origin: string, n: number | bigint): string {
  if (origin === 'string') return plural(Number(n), 'character', 'characters');
  return origin === 'array' || origin === 'set' ? plural(Number(n), 'entry', 'entries') : digits(Number(n));
}

/** Half a sentence that follows the field's name, such as "must be a whole number". */
export function wordIssue(issue: z.core.$ZodRawIssue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined ? say`is missing` : say`must be ${kindOf(issue.expected)}`;
    case 'too_big':
      return say`may have at most ${bound(issue.origin, issue.maximum)}`;
    case 'too_small':
      return issue.origin === 'string' && issue.minimum === 1
        ? say`may not be empty`
        : say`must have at least ${bound(issue.origin, issue.minimum)}`;
    case 'invalid_value':
      return say`must be ${issue.values.map((v) => (v === '' ? 'empty' : `“${String(v)}”`)).join(say` or `)}`;
    case 'unrecognized_keys':
      return say`has ${issue.keys.map((k) => `“${k.slice(0, 60)}”`).join(', ')}, which is not known here`;
    case 'invalid_union':
      return say`has none of the forms that are taken here`;
    case 'invalid_format':
    case 'invalid_key':
    case 'invalid_element':
    case 'not_multiple_of':
    case 'custom':
      return say`does not have the form that is asked for`;
  }
}

z.config({ customError: (issue) => wordIssue(issue) });
