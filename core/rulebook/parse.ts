import type { z } from 'zod';
import { expandRulebook } from './expand';
import { findTwins, type RulebookFault } from './fault';
import { formatOneSchema } from './format-1';
import { findForm } from './form-choice';
import { findFileFaults } from './parse-files';
import { type Condition, type Limit, type Rulebook, type RulebookDocument, rulebookSchema } from './schema';
import { upgradeRulebook } from './upgrade';

export type RulebookReading = { ok: true; rulebook: Rulebook } | { ok: false; faults: RulebookFault[] };

const writePath = (path: readonly PropertyKey[]): string =>
  path.reduce<string>(
    (text, part) =>
      typeof part === 'number' ? `${text}[${part}]` : text === '' ? String(part) : `${text}.${String(part)}`,
    '',
  ) || '(document)';

const toFaults = (error: z.ZodError): RulebookReading => ({
  ok: false,
  faults: error.issues.map((i) => ({ path: writePath(i.path), reason: i.message })),
});

/**
 * Validates a document's form, then that everything it names exists. All faults at once, each with its path. A document of
 * the first format is upgraded; what is wrong with what it names is said in the words of the second.
 */
export function parseRulebook(document: unknown): RulebookReading {
  let current = document;
  if (
    typeof document === 'object' &&
    document !== null &&
    'format' in document &&
    document.format === 'basileus-rulebook/1'
  ) {
    const old = formatOneSchema.safeParse(document);
    if (!old.success) return toFaults(old.error);
    current = upgradeRulebook(old.data);
  }
  const form = rulebookSchema.safeParse(current);
  if (!form.success) return toFaults(form.error);
  const faults = [...findBrokenReferences(form.data)];
  return faults.length ? { ok: false, faults } : { ok: true, rulebook: expandRulebook(form.data) };
}

function* findBrokenReferences(book: RulebookDocument): Generator<RulebookFault> {
  yield* findTwins(book.attributes, 'attributes');
  yield* findTwins(book.tree, 'tree');
  yield* findTwins(book.sites, 'sites');
  yield* findTwins(book.forms, 'forms');
  yield* checkSites(book);
  yield* checkAttributes(book);
  yield* checkDemands(book);
  yield* checkTree(book);
  for (const [role, named] of Object.entries(book.roles)) if (named) yield* mustBe(book, named, `roles.${role}`);
  yield* checkUnitPrice(book);
  yield* checkFees(book);
  yield* findFileFaults(book);
}

function* mustBe(book: RulebookDocument, key: string, path: string): Generator<RulebookFault> {
  if (!book.attributes.some((a) => a.key === key)) yield { path, reason: `There is no attribute "${key}".` };
}

function* checkSites(book: RulebookDocument): Generator<RulebookFault> {
  if (book.sites.length === 1 && book.sites[0]!.optional)
    yield { path: 'sites[0].optional', reason: 'The only site of a market is not one that can be left out.' };
  const optional = book.sites.findIndex((s) => s.optional);
  for (const name of ['create', 'revise'] as const) {
    const form = findForm(book, name);
    if (optional >= 0 && form?.record === 'listing-at-site')
      yield {
        path: `sites[${optional}].optional`,
        reason: `A site is left out by what a whole record leaves empty, and the form "${form.key}" has a record for each site.`,
      };
  }
  for (const [i, s] of book.sites.entries()) {
    for (const l of s.languages)
      if (!book.market.languages.includes(l))
        yield { path: `sites[${i}].languages`, reason: `"${l}" is not among the languages of the market.` };
    for (const [k, tax] of s.taxes.entries())
      if (tax.when) {
        const path = `sites[${i}].taxes[${k}].when`;
        for (const named of listConditionAttributes(tax.when)) yield* mustBe(book, named, path);
        yield* checkCircumstances(book, tax.when, path);
        if (asksOfRow(tax.when))
          yield { path, reason: 'A tax goes by what is sold and where, not by families or entries.' };
      }
  }
}

function* checkAttributes(book: RulebookDocument): Generator<RulebookFault> {
  const groups = new Set(book.groups.map((g) => g.key));
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
}

function* checkDemands(book: RulebookDocument): Generator<RulebookFault> {
  yield* checkDemandList(book, book.demands, 'demands');
  for (const [name, demands] of Object.entries(book.demandSets))
    yield* checkDemandList(book, demands, `demandSets.${name}`);
}

function* checkDemandList(
  book: RulebookDocument,
  demands: RulebookDocument['demands'],
  path: string,
): Generator<RulebookFault> {
  for (const [i, d] of demands.entries()) {
    yield* mustBe(book, d.attribute, `${path}[${i}].attribute`);
    if (!d.when) continue;
    for (const named of listConditionAttributes(d.when)) yield* mustBe(book, named, `${path}[${i}].when`);
    yield* checkCircumstances(book, d.when, `${path}[${i}].when`);
  }
}

function* checkTree(book: RulebookDocument): Generator<RulebookFault> {
  const nodes = new Map(book.tree.map((n) => [n.key, n]));
  for (const [i, n] of book.tree.entries()) {
    const parent = n.parent === undefined ? undefined : nodes.get(n.parent);
    if (n.parent !== undefined && !parent)
      yield { path: `tree[${i}].parent`, reason: `There is no category "${n.parent}".` };
    if (parent?.takesItems)
      yield { path: `tree[${i}].parent`, reason: `"${parent.key}" takes items itself and can have nothing under it.` };
    if (hasLoop(n.key, nodes)) yield { path: `tree[${i}].parent`, reason: `"${n.key}" stands under itself.` };
    yield* checkDemandList(book, n.demands, `tree[${i}].demands`);
    for (const [k, set] of n.uses.entries())
      if (!book.demandSets[set])
        yield { path: `tree[${i}].uses[${k}]`, reason: `There is no set of demands "${set}".` };
    for (const [k, axis] of n.axes.entries()) yield* mustBe(book, axis, `tree[${i}].axes[${k}]`);
    for (const [k, limit] of n.limits.entries()) yield* checkLimit(book, limit, `tree[${i}].limits[${k}]`);
  }
}

/** A limit only takes away: its codes are among those of the attribute, its characters no more. */
function* checkLimit(book: RulebookDocument, limit: Limit, path: string): Generator<RulebookFault> {
  const a = book.attributes.find((x) => x.key === limit.attribute);
  if (!a) {
    yield* mustBe(book, limit.attribute, `${path}.attribute`);
    return;
  }
  if (limit.maxCharacters !== undefined && limit.maxCharacters > (a.maxCharacters ?? Infinity))
    yield { path: `${path}.maxCharacters`, reason: `"${a.key}" takes ${a.maxCharacters} characters anywhere.` };
  if (limit.maxItems !== undefined && limit.maxItems > (a.maxItems ?? Infinity))
    yield { path: `${path}.maxItems`, reason: `"${a.key}" takes ${a.maxItems} entries anywhere.` };
  if (limit.codes === undefined) return;
  const known = new Set(book.codeLists[a.codes ?? '']?.entries.map((e) => e.code));
  const list = book.codeLists[limit.codes];
  const strange = list?.entries.find((e) => !known.has(e.code));
  if (!list) yield { path: `${path}.codes`, reason: `There is no code list "${limit.codes}".` };
  else if (strange) yield { path: `${path}.codes`, reason: `"${strange.code}" is not a code of "${a.key}".` };
}

function* checkUnitPrice(book: RulebookDocument): Generator<RulebookFault> {
  if (!book.unitPrice) return;
  const { attribute, units } = book.unitPrice;
  yield* mustBe(book, attribute, 'unitPrice.attribute');
  const list = book.codeLists[book.attributes.find((a) => a.key === attribute)?.codes ?? ''];
  for (const [code, { of }] of Object.entries(units)) {
    if (!list?.entries.some((e) => e.code === code))
      yield { path: `unitPrice.units.${code}`, reason: `"${code}" is not a code of "${attribute}".` };
    yield* mustBe(book, of, `unitPrice.units.${code}.of`);
  }
}

function* checkFees(book: RulebookDocument): Generator<RulebookFault> {
  const sites = new Set(book.sites.map((s) => s.key));
  for (const [i, f] of book.fees.entries()) {
    for (const s of f.sites ?? [])
      if (!sites.has(s)) yield { path: `fees[${i}].sites`, reason: `There is no site "${s}".` };
    if (f.category !== undefined && !book.tree.some((n) => n.key === f.category))
      yield { path: `fees[${i}].category`, reason: `There is no category "${f.category}".` };
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
  return 'attribute' in c ? [c.attribute] : [];
}

/** Circumstances of a condition that this rulebook cannot have: a site that it has not. */
function* checkCircumstances(book: RulebookDocument, c: Condition, path: string): Generator<RulebookFault> {
  if ('all' in c) for (const x of c.all) yield* checkCircumstances(book, x, path);
  else if ('any' in c) for (const x of c.any) yield* checkCircumstances(book, x, path);
  else if ('not' in c) yield* checkCircumstances(book, c.not, path);
  else if ('site' in c)
    for (const site of c.site)
      if (!book.sites.some((s) => s.key === site)) yield { path, reason: `There is no site "${site}".` };
}

/** True where a condition asks how a row stands in its family, or whether it is an offer. */
function asksOfRow(c: Condition): boolean {
  if ('all' in c) return c.all.some(asksOfRow);
  if ('any' in c) return c.any.some(asksOfRow);
  if ('not' in c) return asksOfRow(c.not);
  return 'role' in c || 'mode' in c;
}
