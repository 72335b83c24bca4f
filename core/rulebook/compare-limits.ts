// What an attribute may hold, category by category: two versions of a rulebook may say it at different places and mean the same.
import { type CompiledCategory, compileCategory, listLeaves } from './compile';
import type { Rulebook } from './schema';

/** A leaf of the later version, and as it was in the earlier one, where it was. */
export interface LeafPair {
  label: string;
  was: CompiledCategory | undefined;
  now: CompiledCategory;
}
export const pairLeaves = (before: Rulebook, after: Rulebook): LeafPair[] =>
  listLeaves(after).map(({ key, label }) => ({
    label,
    was: compileCategory(before, key),
    now: compileCategory(after, key)!,
  }));

/** Parts of an attribute that a category may narrow. */
export const narrowedParts = ['maxCharacters', 'maxItems'] as const;
export interface NarrowedChange {
  attribute: string;
  label: string;
  part: (typeof narrowedParts)[number] | 'values';
  was: number | undefined;
  now: number | undefined;
  /** The categories in which it is so, by their labels; undefined where in all that ask it. */
  leaves: string[] | undefined;
}

/**
 * Limits of attributes that differ where both versions ask them, and in how many leaves both ask each. Values are counted, and only where a category has fewer than
 * the attribute: what a whole list takes is compared as that.
 */
export function compareNarrowed(
  before: Rulebook,
  after: Rulebook,
  leaves: readonly LeafPair[],
): { changes: NarrowedChange[]; asked: ReadonlyMap<string, number> } {
  const found = new Map<string, NarrowedChange & { leaves: string[] }>();
  const asked = new Map<string, number>();
  const note = (c: Omit<NarrowedChange, 'leaves'>, leaf: string): void => {
    const id = JSON.stringify([c.attribute, c.part, c.was, c.now]);
    const known = found.get(id) ?? { ...c, leaves: [] };
    known.leaves.push(leaf);
    found.set(id, known);
  };
  const lists = (book: Rulebook) => new Map(book.attributes.map((a) => [a.key, a.codes]));
  const wasList = lists(before),
    nowList = lists(after);
  for (const { label, was, now } of leaves) {
    if (!was) continue;
    for (const a of now.attributes) {
      const old = was.byKey.get(a.attribute.key);
      if (!old || old.strongest === 'unused' || a.strongest === 'unused') continue;
      const named = { attribute: a.attribute.key, label: old.attribute.label };
      asked.set(named.attribute, (asked.get(named.attribute) ?? 0) + 1);
      for (const part of narrowedParts)
        if (old.attribute[part] !== a.attribute[part])
          note({ ...named, part, was: old.attribute[part], now: a.attribute[part] }, label);
      const isNarrowed =
        old.attribute.codes !== wasList.get(named.attribute) || a.attribute.codes !== nowList.get(named.attribute);
      if (isNarrowed && [...(old.codeSet ?? [])].join('\n') !== [...(a.codeSet ?? [])].join('\n'))
        note({ ...named, part: 'values', was: old.codeSet?.size, now: a.codeSet?.size }, label);
    }
  }
  const changes = [...found.values()].map((c) => ({
    ...c,
    leaves: c.leaves.length === asked.get(c.attribute) ? undefined : c.leaves,
  }));
  return { changes, asked };
}
