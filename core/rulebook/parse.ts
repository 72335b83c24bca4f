import { type Condition, type Rulebook, rulebookSchema } from './schema';

/** One fault of a rulebook document: where (a path such as `attributes[3].codes`) and why. */
export interface RulebookFault {
  path: string;
  reason: string;
}
export type RulebookReading = { ok: true; rulebook: Rulebook } | { ok: false; faults: RulebookFault[] };

const writePath = (path: readonly PropertyKey[]): string =>
  path.reduce<string>(
    (text, part) =>
      typeof part === 'number' ? `${text}[${part}]` : text === '' ? String(part) : `${text}.${String(part)}`,
    '',
  ) || '(document)';

/** Validates a document's form, then that everything it names exists. All faults at once, each with its path. */
export function parseRulebook(document: unknown): RulebookReading {
  const form = rulebookSchema.safeParse(document);
  if (!form.success)
    return { ok: false, faults: form.error.issues.map((i) => ({ path: writePath(i.path), reason: i.message })) };
  const faults = [...findBrokenReferences(form.data)];
  return faults.length ? { ok: false, faults } : { ok: true, rulebook: form.data };
}

function* findBrokenReferences(book: Rulebook): Generator<RulebookFault> {
  const attributes = new Map(book.attributes.map((a) => [a.key, a]));
  const groups = new Set(book.groups.map((g) => g.key));
  const nodes = new Map(book.tree.map((n) => [n.key, n]));
  const attributeIn = function* (key: string, path: string): Generator<RulebookFault> {
    if (!attributes.has(key)) yield { path, reason: `There is no attribute "${key}".` };
  };
  yield* findTwins(
    book.attributes.map((a) => a.key),
    'attributes',
  );
  yield* findTwins(
    book.tree.map((n) => n.key),
    'tree',
  );
  for (const [i, a] of book.attributes.entries()) {
    const at = `attributes[${i}]`;
    if (!groups.has(a.group)) yield { path: `${at}.group`, reason: `There is no group "${a.group}".` };
    if ((a.type === 'one-of' || a.type === 'several-of') && !a.codes)
      yield { path: `${at}.codes`, reason: `"${a.key}" is a choice and names no code list.` };
    if (a.codes && !book.codeLists[a.codes])
      yield { path: `${at}.codes`, reason: `There is no code list "${a.codes}".` };
    if (a.type === 'measure' && !a.units)
      yield { path: `${at}.units`, reason: `"${a.key}" is a measure and names no unit.` };
    if (a.type === 'identifier' && !a.kinds)
      yield { path: `${at}.kinds`, reason: `"${a.key}" is an identifier and names no kinds.` };
  }
  const demandsIn = function* (demands: Rulebook['demands'], path: string): Generator<RulebookFault> {
    for (const [i, d] of demands.entries()) {
      yield* attributeIn(d.attribute, `${path}[${i}].attribute`);
      if (d.when) for (const named of listConditionAttributes(d.when)) yield* attributeIn(named, `${path}[${i}].when`);
    }
  };
  yield* demandsIn(book.demands, 'demands');
  for (const [i, n] of book.tree.entries()) {
    const parent = n.parent === undefined ? undefined : nodes.get(n.parent);
    if (n.parent !== undefined && !parent)
      yield { path: `tree[${i}].parent`, reason: `There is no category "${n.parent}".` };
    if (parent?.leaf)
      yield { path: `tree[${i}].parent`, reason: `"${parent.key}" is a leaf and can have nothing under it.` };
    if (hasLoop(n.key, nodes)) yield { path: `tree[${i}].parent`, reason: `"${n.key}" stands under itself.` };
    if (n.leaf) {
      yield* demandsIn(n.leaf.demands, `tree[${i}].leaf.demands`);
      for (const [k, axis] of n.leaf.axes.entries()) yield* attributeIn(axis, `tree[${i}].leaf.axes[${k}]`);
    }
  }
  for (const [role, named] of Object.entries(book.roles)) if (named) yield* attributeIn(named, `roles.${role}`);
  for (const [i, layout] of book.layouts.entries()) {
    if (layout.blank === 'keeps' && !layout.clearToken)
      yield {
        path: `layouts[${i}].clearToken`,
        reason: 'A blank keeps the old value here, so the layout must say how to clear.',
      };
    for (const [k, c] of layout.columns.entries())
      if ('attribute' in c.holds) yield* attributeIn(c.holds.attribute, `layouts[${i}].columns[${k}].holds.attribute`);
    for (const [k, c] of layout.columns.entries()) {
      if (c.holds.what !== 'value') continue;
      const list = attributes.get(c.holds.attribute);
      const torn =
        list?.type === 'several-of' && list.codes !== undefined
          ? book.codeLists[list.codes]?.entries.find((e) => e.code.includes(layout.listSeparator))
          : undefined;
      if (torn)
        yield {
          path: `layouts[${i}].columns[${k}]`,
          reason: `The code "${torn.code}" holds "${layout.listSeparator}", which divides the entries of a list here.`,
        };
    }
    if (!layout.columns.some((c) => c.holds.what === 'sku'))
      yield { path: `layouts[${i}].columns`, reason: 'No column holds the SKU.' };
  }
}

function* findTwins(keys: readonly string[], path: string): Generator<RulebookFault> {
  const seen = new Set<string>();
  for (const [i, key] of keys.entries()) {
    if (seen.has(key)) yield { path: `${path}[${i}].key`, reason: `"${key}" stands twice.` };
    seen.add(key);
  }
}

function hasLoop(key: string, nodes: ReadonlyMap<string, { parent?: string | undefined }>): boolean {
  const seen = new Set<string>();
  for (let at: string | undefined = key; at !== undefined; at = nodes.get(at)?.parent) {
    if (seen.has(at)) return true;
    seen.add(at);
  }
  return false;
}

/** Every attribute that a condition asks about. */
export function listConditionAttributes(c: Condition): string[] {
  if ('all' in c) return c.all.flatMap(listConditionAttributes);
  if ('any' in c) return c.any.flatMap(listConditionAttributes);
  if ('not' in c) return listConditionAttributes(c.not);
  return [c.attribute];
}
