// Own categories as a tree: a name and the one that it stands under.

export interface OwnCategory {
  name: string;
  parent: string | null;
}
export interface CategoryNode extends OwnCategory {
  /** Names from the top of the tree down to it. */
  path: readonly string[];
}

/** The tree from the top down, each category followed by those under it, by name; what stands under itself or nothing known is at the top. */
export function listCategoryTree(all: readonly OwnCategory[]): CategoryNode[] {
  const known = new Set(all.map((c) => c.name));
  const under = new Map<string | null, OwnCategory[]>();
  for (const c of all) {
    const parent = c.parent !== null && known.has(c.parent) ? c.parent : null;
    (under.get(parent) ?? under.set(parent, []).get(parent)!).push(c);
  }
  const nodes: CategoryNode[] = [];
  const walk = (parent: string | null, path: readonly string[]): void => {
    for (const c of (under.get(parent) ?? []).sort((a, b) => a.name.localeCompare(b.name, 'en'))) {
      const node = { name: c.name, parent, path: [...path, c.name] };
      nodes.push(node);
      walk(c.name, node.path);
    }
  };
  walk(null, []);
  return nodes;
}

/** The tree with how many items stand in each category, and how many with those under it. */
export function addUpTree(
  all: readonly (OwnCategory & { items: number })[],
): (CategoryNode & { items: number; withThoseUnder: number })[] {
  const own = new Map(all.map((c) => [c.name, c.items]));
  const sums = new Map<string, number>();
  const tree = listCategoryTree(all);
  for (const { name, path } of tree)
    for (const over of path) sums.set(over, (sums.get(over) ?? 0) + (own.get(name) ?? 0));
  return tree.map((n) => ({ ...n, items: own.get(n.name) ?? 0, withThoseUnder: sums.get(n.name) ?? 0 }));
}

/** True where a category is another one or stands under it. */
export function isWithin(all: readonly OwnCategory[], name: string, top: string): boolean {
  const parentOf = new Map(all.map((c) => [c.name, c.parent]));
  const seen = new Set<string>();
  for (let at: string | null | undefined = name; at && !seen.has(at); at = parentOf.get(at)) {
    if (at === top) return true;
    seen.add(at);
  }
  return false;
}
