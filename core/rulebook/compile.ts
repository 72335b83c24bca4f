// Compiling turns a rulebook's category into flat lists: attributes in order, their demand per row as a function.
import type { RowRole, Values } from '../listing/values';
import { compileCondition, settleDemands } from './condition';
import { createFormChoice } from './form-choice';
import type { CodeList, Condition, Demand, Limit, Rulebook, RulebookAttribute, RulebookCategory } from './schema';
import type { DemandLevel } from './terms';

export interface CompiledAttribute {
  attribute: RulebookAttribute;
  codes: CodeList | undefined;
  /** Codes for quick membership. */
  codeSet: ReadonlySet<string> | undefined;
  /** Level without looking at a row: the strongest that can be met; for ordering and marking columns. */
  strongest: DemandLevel;
  /** Level where no condition holds. */
  fixed: DemandLevel;
  levelFor: (values: Values, role: RowRole) => DemandLevel;
  /** False where no row of this category leaves the attribute unused: nothing needs to be asked per row then. */
  canBeUnused: boolean;
  conditions: { level: DemandLevel; when: Condition; why: string | undefined }[];
}

export interface CompiledCategory {
  key: string;
  label: string;
  path: string[];
  axes: readonly string[];
  /** True where an entry of the market is joined: only the terms of an offer are asked for. */
  isOffer: boolean;
  rulebook: Rulebook;
  attributes: readonly CompiledAttribute[];
  byKey: ReadonlyMap<string, CompiledAttribute>;
}

const strength: Record<DemandLevel, number> = { unused: 0, may: 1, should: 2, must: 3 };

/** Does this attribute belong in a row of this role? */
export function belongs(attribute: RulebookAttribute, role: RowRole): boolean {
  switch (attribute.rows) {
    case 'all':
      return true;
    case 'head':
      return role !== 'variant';
    case 'parent':
      return role === 'parent';
    case 'sellable':
      return role !== 'parent';
    case 'variant':
      return role === 'variant';
  }
}

/** Later demands override earlier ones where their condition holds; an attribute nobody demands is unused. */
function compileLevel(attribute: RulebookAttribute, demands: readonly Demand[]): CompiledAttribute['levelFor'] {
  let fixed: DemandLevel = 'unused';
  const conditional: { level: DemandLevel; holds: (v: Values, role: RowRole) => boolean }[] = [];
  for (const d of demands) {
    if (d.when) conditional.push({ level: d.level, holds: compileCondition(d.when) });
    else {
      fixed = d.level;
      conditional.length = 0;
    }
  }
  if (attribute.rows === 'all' && conditional.length === 0) return () => fixed;
  return (values, role) => {
    if (!belongs(attribute, role)) return 'unused';
    let level = fixed;
    for (const c of conditional) if (c.holds(values, role)) level = c.level;
    return level;
  };
}

const nodesOf = new WeakMap<Rulebook['tree'], ReadonlyMap<string, RulebookCategory>>();
/** The nodes of a tree by their keys; made once for each tree, which may have tens of thousands. */
function getNodes({ tree }: Rulebook): ReadonlyMap<string, RulebookCategory> {
  const known = nodesOf.get(tree) ?? new Map(tree.map((n) => [n.key, n]));
  nodesOf.set(tree, known);
  return known;
}

/** Nodes from the root to a category; none where the tree has no such node. */
export function getCategoryPath(book: Rulebook, key: string): RulebookCategory[] {
  const nodes = getNodes(book);
  const path: RulebookCategory[] = [];
  for (let at = nodes.get(key); at; at = at.parent === undefined ? undefined : nodes.get(at.parent)) path.unshift(at);
  return path;
}

/** Attributes that an offer in a category carries: those that its form has a place for. */
const listOffered = (book: Rulebook, category: string): ReadonlySet<string> | undefined => {
  const form = createFormChoice(book, 'offer')(category);
  return form && new Set(form.slots.flatMap((s) => ('attribute' in s.holds ? [s.holds.attribute] : [])));
};

/** The same leaf for an item that joins an entry of the market; undefined where the market takes no such offers. */
export function compileOffer(book: Rulebook, key: string): CompiledCategory | undefined {
  const offered = listOffered(book, key);
  return offered && compile(book, key, offered);
}

/** The prepared form of a leaf; undefined where the key is not a leaf of this rulebook. */
export const compileCategory = (book: Rulebook, key: string): CompiledCategory | undefined => compile(book, key);

const limit = (attribute: RulebookAttribute, here: Limit | undefined): RulebookAttribute =>
  here
    ? {
        ...attribute,
        ...(here.codes === undefined ? {} : { codes: here.codes }),
        ...(here.maxCharacters === undefined ? {} : { maxCharacters: here.maxCharacters }),
        ...(here.maxItems === undefined ? {} : { maxItems: here.maxItems }),
      }
    : attribute;

function compile(book: Rulebook, key: string, offered?: ReadonlySet<string>): CompiledCategory | undefined {
  const path = getCategoryPath(book, key);
  if (!path.at(-1)?.takesItems) return undefined;
  // What stands lower in the tree comes later, and so overrides.
  const demands = settleDemands(
    [...book.demands, ...path.flatMap((n) => [...n.uses.flatMap((set) => book.demandSets[set] ?? []), ...n.demands])],
    (c) => ('mode' in c ? (c.mode === 'offer') === (offered !== undefined) : undefined),
  );
  // The last of them, which stands lowest in the tree.
  const limits = new Map(path.flatMap((n) => n.limits).map((l) => [l.attribute, l]));
  const attributes = book.attributes.map((everywhere): CompiledAttribute => {
    const attribute = limit(everywhere, limits.get(everywhere.key));
    const own = offered && !offered.has(attribute.key) ? [] : demands.filter((d) => d.attribute === attribute.key);
    const lastFixed = own.findLastIndex((d) => !d.when);
    const inForce = own.slice(Math.max(0, lastFixed));
    const fixed = inForce.find((d) => !d.when)?.level ?? 'unused';
    const codes = attribute.codes === undefined ? undefined : book.codeLists[attribute.codes];
    return {
      attribute,
      codes,
      codeSet: codes && new Set(codes.entries.map((e) => e.code)),
      strongest: inForce.reduce<DemandLevel>((s, d) => (strength[d.level] > strength[s] ? d.level : s), 'unused'),
      fixed,
      levelFor: compileLevel(attribute, own),
      canBeUnused: attribute.rows !== 'all' || fixed === 'unused' || inForce.some((d) => d.level === 'unused'),
      conditions: inForce.flatMap((d) => (d.when ? [{ level: d.level, when: d.when, why: d.why }] : [])),
    };
  });
  return {
    key,
    label: path.at(-1)!.label,
    path: path.map((n) => n.label),
    axes: offered ? [] : (path.findLast((n) => n.axes.length > 0)?.axes ?? []),
    isOffer: offered !== undefined,
    rulebook: book,
    attributes,
    byKey: new Map(attributes.map((a) => [a.attribute.key, a])),
  };
}

/** Leaves of a rulebook with their paths, in tree order. */
export const listLeaves = (
  book: Rulebook,
): { key: string; label: string; path: string[]; words: readonly string[] }[] =>
  book.tree.flatMap((n) =>
    n.takesItems
      ? [{ key: n.key, label: n.label, path: getCategoryPath(book, n.key).map((p) => p.label), words: n.words }]
      : [],
  );
