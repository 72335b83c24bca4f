// Regular expressions of rulebooks, by RE2, which needs time by the length of the text and never more.
import { RE2JS } from 're2js';

const prepared = new Map<string, RE2JS>();
function prepare(pattern: string): RE2JS {
  const known = prepared.get(pattern) ?? RE2JS.compile(pattern);
  prepared.set(pattern, known);
  return known;
}

/** True where a pattern is found in a text. */
export const isMatched = (pattern: string, text: string): boolean => prepare(pattern).matcher(text).find();

/** What the group `found` of a pattern holds; undefined where the pattern is not found. */
export function findNamed(pattern: string, text: string, group = 'found'): string | undefined {
  const m = prepare(pattern).matcher(text);
  return m.find() ? (m.group(group) ?? undefined) : undefined;
}
