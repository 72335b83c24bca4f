import type { Rulebook } from '@basileus/core/rulebook';
import { computeLikeness } from '@basileus/core/text';

export interface Leaf {
  key: string;
  label: string;
  path: string;
}

/** Leaves with their paths as text. */
export function listLeafPaths(rulebook: Pick<Rulebook, 'tree'>): Leaf[] {
  const nodes = new Map(rulebook.tree.map((n) => [n.key, n]));
  const pathOf = (key: string): string => {
    const n = nodes.get(key);
    return n === undefined ? '' : n.parent ? `${pathOf(n.parent)} › ${n.label}` : n.label;
  };
  return rulebook.tree.filter((n) => n.leaf).map((n) => ({ key: n.key, label: n.label, path: pathOf(n.key) }));
}

/** Leaves whose path holds every word, the likest names first. */
export function searchLeaves(leaves: readonly Leaf[], text: string): Leaf[] {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean);
  return leaves
    .filter((l) => words.every((w) => l.path.toLowerCase().includes(w)))
    .sort((a, b) => computeLikeness(text, b.label) - computeLikeness(text, a.label));
}
