// What a schema finds wrong, in our words: zod hands over facts, this is the one place that makes sentences of them.
// A message written at a schema itself goes before these.
import { z } from 'zod';

const kinds: Readonly<Record<string, string>> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  object: 'an object',
  record: 'an object',
};
const kindOf = (name: string): string => kinds[name] ?? name;

/** A bound with the thing it counts: "300 characters", "50,000 entries", "12". */
function bound(origin: string, n: number | bigint): string {
  const count = n.toLocaleString('en-GB');
  if (origin === 'string') return `${count} ${n === 1 ? 'character' : 'characters'}`;
  return origin === 'array' || origin === 'set' ? `${count} ${n === 1 ? 'entry' : 'entries'}` : count;
}

/** Half a sentence that follows the field's name, such as "must be a whole number". */
export function wordIssue(issue: z.core.$ZodRawIssue): string {
  switch (issue.code) {
    case 'invalid_type':
      return issue.input === undefined ? 'is missing' : `must be ${kindOf(issue.expected)}`;
    case 'too_big':
      return `may have at most ${bound(issue.origin, issue.maximum)}`;
    case 'too_small':
      return issue.origin === 'string' && issue.minimum === 1
        ? 'may not be empty'
        : `must have at least ${bound(issue.origin, issue.minimum)}`;
    case 'invalid_value':
      return `must be ${issue.values.map((v) => (v === '' ? 'empty' : `“${String(v)}”`)).join(' or ')}`;
    case 'unrecognized_keys':
      return `has ${issue.keys.map((k) => `“${k.slice(0, 60)}”`).join(', ')}, which is not known here`;
    case 'invalid_union':
      return 'has none of the forms that are taken here';
    case 'invalid_format':
    case 'invalid_key':
    case 'invalid_element':
    case 'not_multiple_of':
    case 'custom':
      return 'does not have the form that is asked for';
  }
}

z.config({ customError: (issue) => wordIssue(issue) });
