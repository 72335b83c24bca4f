// What a new version of a rulebook calls otherwise than the one before: nodes of the tree, attributes, and codes of lists. What
// people have said, typed and had accepted under the old name goes along.
import { isObject } from './compare-parts';
import type { Rulebook } from './schema';

type Names = ReadonlyMap<string, string>;
export interface Renames {
  /** Old key to new key. */
  nodes: Names;
  attributes: Names;
  /** By the new key of the attribute: old code to new code. */
  codes: ReadonlyMap<string, Names>;
}

interface Named {
  key: string;
  was?: readonly string[] | undefined;
}
/** A name that only the version before has, and that a thing of the later one says it had. */
function findOld(before: readonly Named[], after: readonly Named[]): Map<string, string> {
  const old = new Set(before.map((b) => b.key));
  for (const { key } of after) old.delete(key);
  return new Map(after.flatMap((a) => (a.was ?? []).flatMap((w) => (old.has(w) ? [[w, a.key] as const] : []))));
}

const toNamed = (book: Rulebook, codes: string | undefined): Named[] =>
  (codes === undefined ? [] : (book.codeLists[codes]?.entries ?? [])).map((e) => ({ key: e.code, was: e.was }));

/** What is called otherwise after than before. */
export function findRenames(before: Rulebook, after: Rulebook): Renames {
  const attributes = findOld(before.attributes, after.attributes);
  const oldKeys = new Map([...attributes].map(([was, now]) => [now, was]));
  const codes = new Map<string, Names>();
  for (const a of after.attributes) {
    const old = before.attributes.find((b) => b.key === (oldKeys.get(a.key) ?? a.key));
    const renamed = findOld(toNamed(before, old?.codes), toNamed(after, a.codes));
    if (renamed.size > 0) codes.set(a.key, renamed);
  }
  return { nodes: findOld(before.tree, after.tree), attributes, codes };
}

/** A rulebook with its nodes and attributes under their later names. */
export function followRenames(book: Rulebook, { nodes, attributes }: Renames): Rulebook {
  if (nodes.size + attributes.size === 0) return book;
  const attribute = (k: string): string => attributes.get(k) ?? k,
    node = (k: string): string => nodes.get(k) ?? k;
  const follow = (v: unknown): unknown =>
    Array.isArray(v)
      ? v.map(follow)
      : isObject(v)
        ? Object.fromEntries(
            Object.entries(v).map(([k, x]) => [
              k,
              k === 'attribute' && typeof x === 'string' ? attribute(x) : follow(x),
            ]),
          )
        : v;
  const deep = <T>(v: T): T => follow(v) as T;
  return {
    ...book,
    attributes: book.attributes.map((a) => ({ ...a, key: attribute(a.key) })),
    demands: deep(book.demands),
    demandSets: deep(book.demandSets),
    forms: deep(book.forms),
    tree: book.tree.map((n) => ({
      ...deep(n),
      key: node(n.key),
      ...(n.parent === undefined ? {} : { parent: node(n.parent) }),
      axes: n.axes.map(attribute),
    })),
  };
}
