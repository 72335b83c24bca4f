// Names in a file that no item has yet: a new brand is news, a mistyped one makes a second brand of the first.
import type { Value } from '../listing/values';
import type { FieldBook } from '../product';
import { findNearest } from '../text';

export interface Novelty {
  field: string;
  value: string;
  /** Rows of the file that hold it, and the first of them. */
  rows: number;
  first: number;
  /** The known name that it is most like, where it is like one. */
  near: string | null;
}

/** Different values of one field that are kept in mind; a column with more of them holds no shared names. */
const mostValues = 2000;
/** Novelties that are told, and known names with which each is compared. */
const mostTold = 200,
  mostCompared = 2000;
const leastLikeness = 0.7;
/** In a short word one letter makes another word: “blau” is no slip of “Blak”. */
const shortWord = 6,
  leastOfShort = 0.8;

export interface NoveltyJudge {
  note: (row: number, changes: readonly { field: string; after: Value | null }[]) => void;
  /** Fields of which something was noted. */
  fields: () => string[];
  /** What is new, against the names that items have now; nothing in a field that no item has filled. */
  list: (known: ReadonlyMap<string, readonly string[]>) => Novelty[];
}

export function createNoveltyJudge({ shared }: Pick<FieldBook, 'shared'>): NoveltyJudge {
  const seen = new Map<string, Map<string, { rows: number; first: number }>>();
  return {
    note: (row, changes) => {
      for (const { field, after } of changes) {
        if (!shared.has(field) || typeof after !== 'string') continue;
        const values = seen.get(field) ?? new Map<string, { rows: number; first: number }>();
        seen.set(field, values);
        const before = values.get(after);
        if (before) before.rows++;
        else if (values.size < mostValues) values.set(after, { rows: 1, first: row });
      }
    },
    fields: () => [...seen.keys()],
    list: (known) =>
      [...seen].flatMap(([field, values]) => {
        const names = known.get(field) ?? [];
        if (names.length === 0 || values.size >= mostValues) return [];
        const held = new Set(names),
          compared = names.slice(0, mostCompared);
        return [...values]
          .filter(([value]) => !held.has(value))
          .slice(0, mostTold)
          .map(([value, { rows, first }]) => ({
            field,
            value,
            rows,
            first,
            near:
              findNearest(value, compared, (n) => [n], 1, value.length < shortWord ? leastOfShort : leastLikeness)[0]
                ?.candidate ?? null,
          }));
      }),
  };
}
