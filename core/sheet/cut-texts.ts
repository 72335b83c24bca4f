// Texts that a program has cut on their way, as where a stock list has room for thirty letters: the file has only the beginning
// of what we hold, and writing it would take the rest away.
import type { FieldChange } from '../change/change';
import type { FieldBook } from '../product';

export interface CutTexts {
  field: string;
  /** Rows that have only the beginning, of so many that would change the field at all. */
  rows: number;
  of: number;
  /** Characters of the longest beginning. */
  longest: number;
}

/** Shorter beginnings are words that others begin with, and fewer rows are chance. */
const shortest = 8,
  fewest = 3,
  leastShare = 0.5;

/** True where a text is the beginning of another, whatever stands for the rest of it. */
export function isCutFrom(text: string, whole: string): boolean {
  const begun = text.replace(/(?:…|\.{2,})$/u, '').trimEnd();
  return begun.length >= shortest && begun.length < whole.length && whole.startsWith(begun);
}

/** Told of the changes of each row, knows the fields most of whose texts would be cut. */
export function createCutJudge({ get }: Pick<FieldBook, 'get'>) {
  const seen = new Map<string, CutTexts>();
  return {
    note: (changes: readonly FieldChange[]): void => {
      for (const { field, before, after } of changes) {
        const kind = get(field)?.kind;
        if ((kind !== 'text' && kind !== 'long-text') || typeof before !== 'string' || typeof after !== 'string')
          continue;
        let found = seen.get(field);
        if (!found) seen.set(field, (found = { field, rows: 0, of: 0, longest: 0 }));
        found.of++;
        if (!isCutFrom(after, before)) continue;
        found.rows++;
        found.longest = Math.max(found.longest, after.length);
      }
    },
    list: (): CutTexts[] => [...seen.values()].filter((c) => c.rows >= fewest && c.rows >= c.of * leastShare),
  };
}
