// A record as it might be, so that people see what a market’s file looks like before there is anything to send.
import { toEdgeOfDay } from '../quantity';
import type { Value } from '../listing/values';
import type { RowRole } from '../listing/values';
import { belongs, type CompiledAttribute, type CompiledCategory } from '../rulebook/compile';
import type { Operation } from '../rulebook/terms';
import type { FeedRow } from './record';

/** GTINs that begin with 952 are kept for examples (GS1 General Specifications). */
const sampleNumbers = ['9521234567899', '9520000001001'];
const sampleDay = '2026-11-27';

/** A value that an attribute might have; `n` tells one item from another. */
function makeValue(category: CompiledCategory, { attribute: a, codes }: CompiledAttribute, n: number): Value {
  if (a.example !== undefined) return a.type === 'repeated-text' || a.type === 'links' ? [a.example] : a.example;
  const number = String(Math.max(Number(a.min ?? '1'), 1) + n);
  const entry = codes?.entries[n % codes.entries.length]?.code ?? '';
  switch (a.type) {
    case 'one-of':
      return entry;
    case 'several-of':
      return [entry];
    case 'integer':
    case 'decimal':
    case 'money':
      return number;
    case 'measure':
      return `${number} ${a.units?.[0] ?? ''}`.trim();
    case 'yes-no':
      return 'yes';
    case 'date':
      return sampleDay;
    case 'moment':
      return toEdgeOfDay(sampleDay, category.rulebook.sites[0]!.timeZone, 'first');
    case 'identifier':
      return sampleNumbers[n % sampleNumbers.length]!;
    case 'links':
      return ['https://pictures.example/1.jpg'];
    case 'repeated-text':
      return [a.label];
    default:
      return category.axes.includes(a.key) ? `${a.label} ${n + 1}` : a.label;
  }
}

function makeRow(category: CompiledCategory, operation: Operation, role: RowRole, n: number): FeedRow {
  const isFamily = role !== 'single';
  const axes = isFamily ? category.axes.slice(0, 1) : [];
  const values = Object.fromEntries(
    category.attributes
      .filter((a) => a.strongest !== 'unused' && belongs(a.attribute, role))
      .filter((a) => role !== 'parent' || !axes.includes(a.attribute.key))
      .map((a) => [a.attribute.key, makeValue(category, a, role === 'variant' ? n : 0)]),
  );
  return {
    operation,
    sku: role === 'variant' ? `SAMPLE-${n + 1}` : 'SAMPLE',
    role,
    parentSku: role === 'variant' ? 'SAMPLE' : undefined,
    axes,
    category: category.key,
    values,
    cleared: [],
  };
}

/** Rows of one item by itself, or of a family of two where the category takes families and the market has rows for them. */
export function makeSample(category: CompiledCategory, operation: Operation): FeedRow[] {
  const { parents } = category.rulebook.families;
  if (category.axes.length === 0) return [makeRow(category, operation, 'single', 0)];
  const variants = [0, 1].map((n) => makeRow(category, operation, 'variant', n));
  return parents === 'none' ? variants : [makeRow(category, operation, 'parent', 0), ...variants];
}
