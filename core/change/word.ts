// Bulk changes in words: what a step does, and what is wrong with one.
import { wordFormulaProblem } from '../formula';
import { toText, type Value } from '../listing/values';
import { type FieldBook, toShown, wordCellFault } from '../product';
import { wordRowFault } from '../formula';
import type { ChangeStep, RowProblem } from './bulk';
import type { StepProblem } from './operations';

const longest = 60;
const quote = (value: Value): string => {
  const text = toText(value);
  return `“${text.length > longest ? `${text.slice(0, longest - 1)}…` : text}”`;
};
const ways = { up: 'up', nearest: 'to the nearest', down: 'down' } as const;

/** What a step does: “Price raised by 10 %”. */
export function wordStep({ field, operation: o }: ChangeStep, { get, labelOf }: FieldBook): string {
  const label = labelOf(field);
  switch (o.do) {
    case 'set':
      return `${label} becomes ${quote(toShown(get(field), o.value))}`;
    case 'clear':
      return `${label} emptied`;
    case 'raise': {
      const isLower = o.of.startsWith('-');
      return `${label} ${isLower ? 'lowered' : 'raised'} by ${o.of.replace(/^-/, '')}${o.by === 'percent' ? ' %' : ''}`;
    }
    case 'round':
      return `${label} rounded ${ways[o.way]} to ${o.ending}`;
    case 'formula':
      return `${label} = ${o.formula.trim().replace(/^=\s*/, '')}`;
    case 'copy':
      return `${label} from ${labelOf(o.from)}`;
    case 'rewrite':
      return o.by === ''
        ? `${quote(o.find)} taken out of ${label}`
        : `${quote(o.find)} becomes ${quote(o.by)} in ${label}`;
    case 'add':
      return `${quote(o.items.join(', '))} added to ${label}`;
    case 'remove':
      return `${quote(o.items.join(', '))} taken out of ${label}`;
    case 'swap':
      return `${quote(o.from)} becomes ${quote(o.to)} in ${label}`;
    case 'number':
      return `${label} numbered ${o.pattern}`;
    case 'follow':
      return `${label} as the catalog has it`;
  }
}

const parts: Readonly<Record<string, string>> = {
  value: 'the value',
  items: 'the entries',
  from: 'what it is taken from',
  to: 'what takes its place',
  find: 'what is looked for',
  of: 'by how much',
  ending: 'the ending',
  pattern: 'the pattern',
};

/** What is wrong with a step, and the remedy. */
export function wordStepProblem(p: StepProblem): string {
  switch (p.is) {
    case 'unknown-field':
      return `There is no field “${p.name}” any more; choose another.`;
    case 'not-changed-here':
      return `${p.field} is not changed in bulk.`;
    case 'not-for-field':
      return `This cannot be done to ${p.field}; choose another change.`;
    case 'elsewhere':
      return `${p.field} stands elsewhere than the first field; change items and the listings of each market one after the other.`;
    case 'nothing-given':
      return `Say ${parts[p.part] ?? p.part}.`;
    case 'not-a-number':
      return `“${p.value}” is not a number; write digits with a point, such as 12.5.`;
    case 'no-digits':
      return `“${p.pattern}” has no place for the number; write # for each figure, such as ART-####.`;
    case 'cannot-hold':
      return `${p.field} cannot hold what stands in ${p.from}.`;
    case 'value':
      return wordCellFault(p.fault, p.field, p.value);
    case 'formula':
      return wordFormulaProblem(p.problem);
  }
}

/** Why a row is left alone, and the remedy. */
export function wordRowProblem({ field, value, fault }: RowProblem, { get, labelOf }: FieldBook): string {
  const label = labelOf(field);
  switch (fault.kind) {
    case 'not-on-market':
      return `The item is not wanted on this market; say in the catalog under Markets … that it is.`;
    case 'no-category':
      return 'It has no category on this market yet, so its fields are not known; choose one first.';
    case 'not-in-category':
      return `${label} is not asked of “${fault.category}”; what stands there would be refused.`;
    case 'not-in-rows':
      return fault.of === 'variants'
        ? `${label} belongs to what is sold; give it to the variants of this family.`
        : `${label} stands in the row of the family, for all of its variants.`;
    case 'divided-by-zero':
    case 'no-number':
    case 'no-day':
    case 'no-measure':
    case 'out-of-range':
    case 'result-too-long':
      return wordRowFault(fault);
    default:
      return wordCellFault(fault, label, value === null ? null : toShown(get(field), value));
  }
}
