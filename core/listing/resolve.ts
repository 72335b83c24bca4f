// Where each value of a listing comes from: typed here, else carried over from the product through the
// correspondences. One pure function, so that the interface can show the origin of every cell.
import { type RowFault, toFieldValue } from '../formula';
import { fitIdentifier, type IdentifierKind } from '../identifiers';
import { fitUnit, isCalendarDay, parseMeasure, toEdgeOfDay } from '../quantity';
import { findMomentTerms } from '../rulebook/moment-terms';
import type { Rulebook } from '../rulebook/schema';
import { type CompiledAttribute, type CompiledCategory, getCategoryPath } from '../rulebook/compile';
import { toAttributeField } from '../rulebook/market-fields';
import { fitWidths, toPlainText, type Widths } from '../text';
import { createMatcher } from './codes';
import { type Correspondences, findCodes, findSource } from './source';
import { isFilled, type RowRole, toItems, type Value, type Values } from './values';

export type Origin =
  | { from: 'typed' }
  | { from: 'fixed' }
  /** `fault` is why the formula gives nothing for this item. */
  | { from: 'formula'; fields: readonly string[]; fault?: RowFault }
  /** `fitted` is what the product says, where it was put into another unit for this market, a day into a moment, markup into lines. */
  | { from: 'product'; field: string; fitted?: string }
  | { from: 'mapping'; field: string; ours: string };
export interface ResolvedListing {
  values: Values;
  origins: Readonly<Record<string, Origin>>;
}

interface Translated {
  value: string;
  how: 'same' | 'mapped' | 'fitted';
}
type Translate = (raw: string) => Translated;

/** Words of ours that are remembered with what became of them, an attribute: most values are shared by many items. */
const mostRemembered = 2000;

function remember(translate: Translate): Translate {
  const known = new Map<string, Translated>();
  return (raw) => {
    const found = known.get(raw);
    if (found) return found;
    const made = translate(raw);
    if (known.size >= mostRemembered) known.clear();
    known.set(raw, made);
    return made;
  };
}

function prepareTranslation(
  book: Rulebook,
  a: CompiledAttribute,
  mapped: ReadonlyMap<string, string> | undefined,
): Translate {
  const { units, decimals, widths } = a.attribute;
  const { codes, codeSet } = a;
  if (a.attribute.type === 'moment') return prepareMoment(book, a);
  if (a.attribute.type === 'identifier' && a.attribute.kinds) return prepareIdentifier(a.attribute.kinds);
  if (a.attribute.type === 'long-text') return toReadable(widths);
  if (widths && !mapped && !codeSet && !units) return (raw) => toWidth(raw, widths);
  if (!mapped && !codeSet && !units) return (value) => ({ value, how: 'same' });
  const match = createMatcher(codes?.entries ?? [], mapped);
  return remember((raw) => {
    const { theirs, by } = match(raw);
    if (by === 'chosen') return { value: theirs!, how: 'mapped' };
    if (codeSet) return { value: theirs ?? raw, how: 'same' };
    const read = units && parseMeasure(raw);
    if (read?.unit === undefined) return { value: raw, how: 'same' };
    const measure = { amount: read.amount, unit: read.unit };
    // A measure in another unit is the same measure; what the market's unit cannot hold of it, a check speaks of.
    const fit = fitUnit(measure, units!, decimals) ?? measure;
    return { value: `${fit.amount} ${fit.unit}`, how: fit.unit === measure.unit ? 'same' : 'fitted' };
  });
}

/** A text that we shape by markup, where a market takes none: as people read it, in the widths it takes. */
const toReadable =
  (widths: Widths | undefined): Translate =>
  (raw) => {
    const plain = toPlainText(raw);
    const { value, how } = toWidth(plain ?? raw, widths ?? {});
    return { value, how: plain === undefined ? how : 'fitted' };
  };

/** A number as a kind that the market takes. Each item has its own, so none is remembered. */
const prepareIdentifier =
  (kinds: readonly IdentifierKind[]): Translate =>
  (raw) => {
    const fit = fitIdentifier(raw, kinds);
    return fit === undefined ? { value: raw, how: 'same' } : { value: fit, how: 'fitted' };
  };

/** A text in the widths of characters that a market takes. */
function toWidth(raw: string, widths: Widths): Translated {
  const value = fitWidths(raw, widths);
  return { value, how: value === raw ? 'same' : 'fitted' };
}

/** A day of ours is a moment there: when it begins where the market sells, or its last second where it ends something. */
function prepareMoment(book: Rulebook, a: CompiledAttribute): Translate {
  const { timeZone, edge } = findMomentTerms(book, a.attribute);
  return remember((raw) =>
    isCalendarDay(raw) ? { value: toEdgeOfDay(raw, timeZone, edge), how: 'fitted' } : { value: raw, how: 'same' },
  );
}

export type Resolver = (
  fields: Readonly<Record<string, Value>>,
  role: RowRole,
  overrides: Readonly<Record<string, Value>>,
) => ResolvedListing;

/** What one attribute takes from a product, made ready; undefined where it takes nothing. */
function prepareSource(category: CompiledCategory, path: readonly string[], a: CompiledAttribute, c: Correspondences) {
  const { attribute } = a;
  const source = findSource(attribute, path, c);
  if (source === undefined || source.is === 'nothing' || a.strongest === 'unused') return undefined;
  const isList = attribute.type === 'several-of' || attribute.type === 'repeated-text' || attribute.type === 'links';
  return {
    a,
    key: attribute.key,
    source,
    isList,
    /** Where its value comes from where nothing was done to it: the same for every listing, and never written to. */
    plain: { from: 'product', field: source.is === 'field' ? source.field : '' } as const,
    fixed: source.is === 'text' ? (attribute.type === 'several-of' ? source.text.split('|') : source.text) : undefined,
    /** The attribute as a field, which says how what a formula gives is written. */
    as: source.is === 'formula' ? toAttributeField({ key: '', name: '' }, category.rulebook, attribute) : undefined,
    translate: prepareTranslation(category.rulebook, a, findCodes(attribute.key, path, c)),
  };
}
type Prepared = NonNullable<ReturnType<typeof prepareSource>>;

function takeOver({ isList, translate, plain }: Prepared, field: string, raw: Value): { value: Value; origin: Origin } {
  // Most values are one text that goes as it is.
  if (typeof raw === 'string' && !isList) {
    const { value, how } = translate(raw);
    if (how === 'same') return { value, origin: plain };
  }
  const items = toItems(raw).map((r) => ({ r, ...translate(r) }));
  const mapped = items.find((i) => i.how === 'mapped'),
    fitted = items.find((i) => i.how === 'fitted');
  return {
    value: isList ? items.map((i) => i.value) : (items[0]?.value ?? ''),
    origin: mapped
      ? { from: 'mapping', field, ours: mapped.r }
      : fitted
        ? { from: 'product', field, fitted: fitted.r }
        : plain,
  };
}

const fixedOrigin: Origin = { from: 'fixed' },
  typedOrigin: Origin = { from: 'typed' };

/** What an attribute takes from the fields of a product; undefined where they give nothing. */
function take(p: Prepared, fields: Readonly<Record<string, Value>>): { value?: Value; origin: Origin } | undefined {
  const { source } = p;
  if (source.is === 'field') {
    const raw = fields[source.field];
    return isFilled(raw) ? takeOver(p, source.field, raw!) : undefined;
  }
  if (source.is !== 'formula') return undefined;
  const { made } = source;
  if (!made) return undefined;
  const worked = made.run({ values: fields, today: '' });
  if (!worked.ok) return { origin: { from: 'formula', fields: made.fields, fault: worked.fault } };
  const raw = toFieldValue(worked.value, p.as!) ?? undefined;
  return isFilled(raw)
    ? { value: takeOver(p, '', raw!).value, origin: { from: 'formula', fields: made.fields } }
    : undefined;
}

function makeResolver(category: CompiledCategory, c: Correspondences): Resolver {
  const path = getCategoryPath(category.rulebook, category.key).map((n) => n.key);
  const sources = category.attributes.flatMap((a) => prepareSource(category, path, a, c) ?? []);
  const unsure = new Map(category.attributes.filter((a) => a.canBeUnused).map((a) => [a.attribute.key, a]));
  return (fields, role, overrides) => {
    const values: Record<string, Value> = {};
    const origins: Record<string, Origin> = {};
    for (const key in overrides) {
      if (!category.byKey.has(key)) continue;
      const typed = overrides[key]!;
      if (isFilled(typed)) values[key] = typed;
      origins[key] = typedOrigin;
    }
    for (const s of sources) {
      const { key, fixed } = s;
      if (origins[key] !== undefined) continue;
      if (fixed !== undefined) {
        if (s.a.levelFor(values, role) === 'unused' && s.a.conditions.length === 0) continue;
        values[key] = fixed;
        origins[key] = fixedOrigin;
        continue;
      }
      const taken = take(s, fields);
      if (!taken) continue;
      if (taken.value !== undefined) values[key] = taken.value;
      origins[key] = taken.origin;
    }
    for (const key in values) {
      const a = unsure.get(key);
      if (a && origins[key]!.from !== 'typed' && a.levelFor(values, role) === 'unused') {
        delete values[key];
        delete origins[key];
      }
    }
    return { values, origins };
  };
}

const resolvers = new WeakMap<Correspondences, WeakMap<CompiledCategory, Resolver>>();

/** `resolveListing` made ready for many rows of a category: sources, words and units are looked up once. */
export function prepareResolver(category: CompiledCategory, c: Correspondences): Resolver {
  const byCategory = resolvers.get(c) ?? new WeakMap<CompiledCategory, Resolver>();
  resolvers.set(c, byCategory);
  const resolver = byCategory.get(category) ?? makeResolver(category, c);
  byCategory.set(category, resolver);
  return resolver;
}

/**
 * Values of a listing in a category. Attributes that the category leaves unused in this row take nothing from the
 * product, so that one product can stand in any category without filling what is not wanted; what was typed stays.
 */
export const resolveListing = (
  category: CompiledCategory,
  fields: Readonly<Record<string, Value>>,
  role: RowRole,
  overrides: Readonly<Record<string, Value>>,
  c: Correspondences,
): ResolvedListing => prepareResolver(category, c)(fields, role, overrides);
