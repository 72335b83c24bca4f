// Where each value of a listing comes from: typed here, else carried over from the product through the
// correspondences. One pure function, so that the interface can show the origin of every cell.
import { fitUnit, parseMeasure } from '../quantity';
import type { CompiledAttribute, CompiledCategory } from '../rulebook/compile';
import { fold } from '../text';
import { isFilled, type RowRole, toItems, type Value, type Values } from './values';

/** The correspondences of one market: made once, used for every item. */
export interface Correspondences {
  /** Market attribute to the field of ours that feeds it; an empty text means "nothing", `=text` the same text for every item. */
  fields: ReadonlyMap<string, string>;
  /** Market attribute to (our value, folded, to their code). */
  values: ReadonlyMap<string, ReadonlyMap<string, string>>;
}

export type Origin =
  | { from: 'typed' }
  | { from: 'fixed' }
  /** `fitted` is what the product says, where it was put into another unit for this market. */
  | { from: 'product'; field: string; fitted?: string }
  | { from: 'mapping'; field: string; ours: string };
export interface ResolvedListing {
  values: Values;
  origins: Readonly<Record<string, Origin>>;
}

/** The field of ours that feeds an attribute: the person's choice, else what the rulebook suggests. */
export const getSourceField = (
  attribute: { key: string; from?: string | undefined },
  c: Correspondences,
): string | undefined => {
  const chosen = c.fields.get(attribute.key);
  return chosen === undefined ? attribute.from : chosen || undefined;
};

interface Translated {
  value: string;
  how: 'same' | 'mapped' | 'fitted';
}

function translate(a: CompiledAttribute, raw: string, c: Correspondences): Translated {
  const mapped = c.values.get(a.attribute.key)?.get(fold(raw));
  if (mapped !== undefined) return { value: mapped, how: 'mapped' };
  if (a.codes && a.codeSet && !a.codeSet.has(raw)) {
    const folded = fold(raw);
    const entry = a.codes.entries.find((e) => fold(e.label) === folded || e.also.some((w) => fold(w) === folded));
    return { value: entry?.code ?? raw, how: 'same' };
  }
  if (a.attribute.units) {
    const read = parseMeasure(raw);
    if (read?.unit !== undefined) {
      const measure = { amount: read.amount, unit: read.unit };
      // A measure in another unit is the same measure; what the market's unit cannot hold of it, a check speaks of.
      const fit = fitUnit(measure, a.attribute.units, a.attribute.decimals) ?? measure;
      return { value: `${fit.amount} ${fit.unit}`, how: fit.unit === measure.unit ? 'same' : 'fitted' };
    }
  }
  return { value: raw, how: 'same' };
}

/**
 * Values of a listing in a category. Attributes that the category leaves unused in this row take nothing from the
 * product, so that one product can stand in any category without filling what is not wanted; what was typed stays.
 */
export function resolveListing(
  category: CompiledCategory,
  fields: Readonly<Record<string, Value>>,
  role: RowRole,
  overrides: Readonly<Record<string, Value>>,
  c: Correspondences,
): ResolvedListing {
  const values: Record<string, Value> = {};
  const origins: Record<string, Origin> = {};
  for (const a of category.attributes) {
    const key = a.attribute.key;
    const typed = overrides[key];
    if (typed !== undefined) {
      if (isFilled(typed)) values[key] = typed;
      origins[key] = { from: 'typed' };
      continue;
    }
    if (a.strongest === 'unused') continue;
    const source = getSourceField(a.attribute, c);
    const raw = source === undefined ? undefined : fields[source];
    if (source?.startsWith('=')) {
      if (a.levelFor(values, role) !== 'unused' || a.conditions.length > 0) {
        values[key] = a.attribute.type === 'several-of' ? source.slice(1).split('|') : source.slice(1);
        origins[key] = { from: 'fixed' };
      }
      continue;
    }
    if (source === undefined || !isFilled(raw)) continue;
    const isList =
      a.attribute.type === 'several-of' || a.attribute.type === 'repeated-text' || a.attribute.type === 'links';
    const items = toItems(raw).map((r) => ({ r, ...translate(a, r, c) }));
    values[key] = isList ? items.map((i) => i.value) : (items[0]?.value ?? '');
    const mapped = items.find((i) => i.how === 'mapped'),
      fitted = items.find((i) => i.how === 'fitted');
    origins[key] = mapped
      ? { from: 'mapping', field: source, ours: mapped.r }
      : { from: 'product', field: source, ...(fitted ? { fitted: fitted.r } : {}) };
  }
  for (const a of category.attributes) {
    const key = a.attribute.key;
    if (values[key] !== undefined && origins[key]?.from !== 'typed' && a.levelFor(values, role) === 'unused') {
      delete values[key];
      delete origins[key];
    }
  }
  return { values, origins };
}
