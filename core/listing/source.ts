// What feeds the attributes of a market, and which of its codes our values become: said once for all of its categories or for
// a node of its tree, where the nearest node counts, and used for every item.
import { z } from 'zod';
import {
  compileFormula,
  type Formula,
  type FormulaFault,
  findResultFault,
  formulaLimits,
  spellFields,
} from '../formula';
import type { FieldBook, ProductField } from '../product';
import { fold } from '../text';

/** What an attribute is filled from. A formula is kept with the fields that it reads under their keys. */
export const sourceSchema = z.discriminatedUnion('is', [
  z.strictObject({ is: z.literal('field'), field: z.string().min(1).max(200) }),
  /** The same text for every item. */
  z.strictObject({ is: z.literal('text'), text: z.string().trim().min(1).max(2000) }),
  z.strictObject({ is: z.literal('formula'), formula: z.string().trim().min(1).max(formulaLimits.characters) }),
  /** Nothing, whatever the rulebook suggests. */
  z.strictObject({ is: z.literal('nothing') }),
]);
export type Source = z.output<typeof sourceSchema>;

/** A source made ready; `made` is undefined where its formula cannot be worked out any more, as when a field of it is gone. */
export type MadeSource =
  Exclude<Source, { is: 'formula' }> | { is: 'formula'; formula: string; made: Formula | undefined };

/** The node that stands for the whole tree of a market. */
export const everywhere = '';

/** What is said of an attribute by node of the market's tree. */
type ByNode<T> = ReadonlyMap<string, T>;

/** The correspondences of one market. */
export interface Correspondences {
  /** By attribute. */
  sources: ReadonlyMap<string, ByNode<MadeSource>>;
  /** By attribute: our value, folded, to their code. */
  codes: ReadonlyMap<string, ByNode<ReadonlyMap<string, string>>>;
}
export const noCorrespondences: Correspondences = { sources: new Map(), codes: new Map() };

export interface SaidSource {
  attribute: string;
  node: string;
  source: Source;
}
export interface SaidCode {
  attribute: string;
  node: string;
  ours: string;
  theirs: string;
}

const put = <K, V>(map: Map<K, V>, key: K, make: () => V): V => {
  const known = map.get(key) ?? make();
  map.set(key, known);
  return known;
};

/** What was said of a market, made ready for its listings; formulas read the fields of the house. */
export function createCorrespondences(
  sources: readonly SaidSource[],
  codes: readonly SaidCode[],
  fields: FieldBook,
): Correspondences {
  const bySource = new Map<string, Map<string, MadeSource>>(),
    byCode = new Map<string, Map<string, Map<string, string>>>();
  for (const { attribute, node, source } of sources)
    put(bySource, attribute, () => new Map<string, MadeSource>()).set(node, makeSource(source, fields));
  for (const { attribute, node, ours, theirs } of codes)
    put(
      put(byCode, attribute, () => new Map<string, Map<string, string>>()),
      node,
      () => new Map<string, string>(),
    ).set(fold(ours), theirs);
  return { sources: bySource, codes: byCode };
}

function makeSource(source: Source, fields: FieldBook): MadeSource {
  if (source.is !== 'formula') return source;
  const compiled = compileFormula(source.formula, fields);
  return { ...source, made: compiled.ok ? compiled.formula : undefined };
}

/** The last of a path for which something is said, then the whole market. */
function findNearest<T>(said: ByNode<T> | undefined, path: readonly string[]): { node: string; said: T } | undefined {
  if (!said) return undefined;
  for (let i = path.length; i >= 0; i--) {
    const node = i === 0 ? everywhere : path[i - 1]!,
      found = said.get(node);
    if (found !== undefined) return { node, said: found };
  }
  return undefined;
}

interface Fed {
  key: string;
  /** The field of ours that the rulebook suggests. */
  from?: string | undefined;
}

/** What was said of an attribute for a category, whose nodes from the top of the tree down are `path`, and at which of them. */
export const findSaid = (
  key: string,
  path: readonly string[],
  c: Correspondences,
): { node: string; said: MadeSource } | undefined => findNearest(c.sources.get(key), path);

/** What feeds an attribute in a category: what a person chose, else what the rulebook suggests. */
export const findSource = (attribute: Fed, path: readonly string[], c: Correspondences): MadeSource | undefined =>
  findSaid(attribute.key, path, c)?.said ??
  (attribute.from === undefined ? undefined : { is: 'field', field: attribute.from });

/** The field of ours that an attribute takes as it is in a category; undefined where it takes none, or more than one field. */
export function findSourceField(attribute: Fed, path: readonly string[], c: Correspondences): string | undefined {
  const source = findSource(attribute, path, c);
  return source?.is === 'field' ? source.field : undefined;
}

/** Fields that a source reads. */
export const listRead = (source: MadeSource | undefined): readonly string[] =>
  source?.is === 'field' ? [source.field] : source?.is === 'formula' ? (source.made?.fields ?? []) : [];

/** The same of a source as it is kept. */
export const listReadBy = (source: Source, fields: FieldBook): readonly string[] =>
  listRead(makeSource(source, fields));

/** Every field of ours that some of these attributes reads in one category or another. */
export function listReadAnywhere(attributes: readonly Fed[], c: Correspondences): Set<string> {
  const read = new Set(attributes.flatMap((a) => a.from ?? []));
  for (const said of c.sources.values())
    for (const source of said.values()) for (const field of listRead(source)) read.add(field);
  return read;
}

/** Fields of ours that an attribute takes as they are in one category or another, that of the whole market first. */
export function listSourceFields(attribute: Fed, c: Correspondences): string[] {
  const said = [...(c.sources.get(attribute.key) ?? [])].sort(([a], [b]) => Number(a !== '') - Number(b !== ''));
  const isSaid = said.some(([node]) => node === everywhere);
  return [
    ...new Set([
      ...(isSaid || attribute.from === undefined ? [] : [attribute.from]),
      ...said.flatMap(([, s]) => (s.is === 'field' ? [s.field] : [])),
    ]),
  ];
}

/** The codes that our values become in a category, by the folded value: what is said nearer counts. */
export function findCodes(
  attribute: string,
  path: readonly string[],
  c: Correspondences,
): ReadonlyMap<string, string> | undefined {
  const said = c.codes.get(attribute);
  const tables = said && [everywhere, ...path].flatMap((node) => said.get(node) ?? []);
  return tables === undefined || tables.length < 2 ? tables?.[0] : new Map(tables.flatMap((t) => [...t]));
}

/**
 * A formula as it is kept for an attribute, or what is wrong with it: it must give what the attribute takes, and may not
 * ask which day it is, since what was checked would be another tomorrow.
 */
export function readFormula(
  text: string,
  attribute: ProductField,
  fields: FieldBook,
): { ok: true; formula: string } | { ok: false; fault: FormulaFault } {
  const compiled = compileFormula(text, fields);
  if (!compiled.ok) return compiled;
  const { formula } = compiled;
  const fault =
    findResultFault(formula.type, attribute, text.length) ??
    (formula.readsDay ? { at: { from: 0, to: text.length }, problem: { is: 'of-the-day' as const } } : undefined);
  return fault ? { ok: false, fault } : { ok: true, formula: spellFields(text, formula, (key) => key) };
}
