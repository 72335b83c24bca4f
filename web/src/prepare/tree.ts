import type { Rulebook } from '@basileus/core/rulebook';
import { foldLoosely, stem } from '@basileus/core/text';
import MiniSearch from 'minisearch';

export interface Leaf {
  key: string;
  label: string;
  path: string;
  /** Other words for it, from the rulebook. */
  words: string;
}

/** A node with those that it stands under, as text; its key where the tree has none of that key any more. */
export function createPathText({ tree }: Pick<Rulebook, 'tree'>): (key: string) => string {
  const nodes = new Map(tree.map((n) => [n.key, n]));
  const pathOf = (key: string): string => {
    const n = nodes.get(key);
    return n === undefined ? key : n.parent ? `${pathOf(n.parent)} › ${n.label}` : n.label;
  };
  return pathOf;
}

/** Leaves with their paths as text. */
export function listLeafPaths(rulebook: Pick<Rulebook, 'tree'>): Leaf[] {
  const pathOf = createPathText(rulebook);
  return rulebook.tree.flatMap((n) =>
    n.takesItems ? [{ key: n.key, label: n.label, path: pathOf(n.key), words: n.words.join(' ') }] : [],
  );
}

/** Letters that may be wrong in a word: none in short ones, a fifth of the others. */
const slips = (word: string): number | false => (word.length < 4 ? false : 0.25);

/** A search over leaves: words in any order, their beginnings, and a slip of a letter; the likest names first. */
export function createLeafSearch(leaves: readonly Leaf[]): (text: string) => Leaf[] {
  const byKey = new Map(leaves.map((l) => [l.key, l]));
  const index = new MiniSearch<Leaf>({
    idField: 'key',
    fields: ['label', 'path', 'words'],
    processTerm: (term) => stem(foldLoosely(term)) || null,
    searchOptions: { combineWith: 'AND', prefix: true, fuzzy: slips, boost: { label: 3 } },
  });
  index.addAll([...leaves]);
  return (text) =>
    index.search(text).flatMap((hit) => {
      const leaf = byKey.get(hit.id as string);
      return leaf ? [leaf] : [];
    });
}
