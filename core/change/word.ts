// Bulk changes in words: what a step does, and what is wrong with one.
import { wordFormulaProblem } from '../formula';
import { toText, type Value } from '../listing/values';
import { type FieldBook, toShown, wordCellFault } from '../product';
import { wordRowFault } from '../formula';
import type { ChangeStep, RowProblem } from './bulk';
import type { StepProblem } from './operations';
import { say, sayWord, term } from '../text';

const longest = 60;
const quote = (value: Value): string => {
  const text = toText(value);
  return `“${text.length > longest ? `${text.slice(0, longest - 1)}…` : text}”`;
};
const ways = { up: term`up`, nearest: term`to the nearest`, down: term`down` } as const;

/** What a step does: “Price raised by 10 %”. */
export function wordStep({ field, operation: o }: ChangeStep, { get, labelOf }: FieldBook): string {
  const label = labelOf(field);
  switch (o.do) {
    case 'set':
      return say`${label} becomes ${quote(toShown(get(field), o.value))}`;
    case 'clear':
      return say`${label} emptied`;
    case 'raise': {
      const isLower = o.of.startsWith('-');
      return say`${label} ${isLower ? say`lowered` : say`raised`} by ${o.of.replace(/^-/, '')}${o.by === 'percent' ? ' %' : ''}`;
    }
    case 'round':
      return say`${label} rounded ${sayWord(ways[o.way])} to ${o.ending}`;
    case 'formula':
      return `${label} = ${o.formula.trim().replace(/^=\s*/, '')}`;
    case 'copy':
      return say`${label} from ${labelOf(o.from)}`;
    case 'read':
      return say`${label} read from the texts`;
    case 'rewrite':
      return o.by === ''
        ? say`${quote(o.find)} taken out of ${label}`
        : say`${quote(o.find)} becomes ${quote(o.by)} in ${label}`;
    case 'add':
      return say`${quote(o.items.join(', '))} added to ${label}`;
    case 'remove':
      return say`${quote(o.items.join(', '))} taken out of ${label}`;
    case 'swap':
      return say`${quote(o.from)} becomes ${quote(o.to)} in ${label}`;
    case 'number':
      return say`${label} numbered ${o.pattern}`;
    case 'leave':
      return o.ending === ''
        ? say`${label} that leaves ${o.margin} %`
        : say`${label} that leaves ${o.margin} %, up to ${o.ending}`;
    case 'follow':
      return say`${label} as the catalog has it`;
  }
}

const parts: Readonly<Record<string, string>> = {
  value: term`the value`,
  items: term`the entries`,
  from: term`what it is taken from`,
  to: term`what takes its place`,
  find: term`what is looked for`,
  of: term`by how much`,
  margin: term`the margin`,
  ending: term`the ending`,
  pattern: term`the pattern`,
  words: term`which words are looked for`,
};

/** What is wrong with a step, and the remedy. */
export function wordStepProblem(p: StepProblem): string {
  switch (p.is) {
    case 'unknown-field':
      return say`There is no field “${p.name}” any more; choose another.`;
    case 'not-changed-here':
      return say`${p.field} is not changed in bulk.`;
    case 'not-for-field':
      return say`This cannot be done to ${p.field}; choose another change.`;
    case 'elsewhere':
      return say`${p.field} stands elsewhere than the first field; change items and the listings of each market one after the other.`;
    case 'nothing-given':
      return say`Say ${sayWord(parts[p.part] ?? p.part)}.`;
    case 'not-a-number':
      return say`“${p.value}” is not a number; write digits with a point, such as 12.5.`;
    case 'no-margin':
      return say`“${p.value}” is no margin; write percent under 100, such as 18.`;
    case 'no-digits':
      return say`“${p.pattern}” has no place for the number; write # for each figure, such as ART-####.`;
    case 'cannot-hold':
      return say`${p.field} cannot hold what stands in ${p.from}.`;
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
      return say`The item is not wanted on this market; say in the catalog under Markets … that it is.`;
    case 'worked-out':
      return say`${label} is worked out of price, cost and fees; change one of these.`;
    case 'cost-unknown':
      return say`Its cost is not known, so that nobody can say what a price leaves; give it one in the catalog.`;
    case 'rate-unknown':
      return say`There is no rate for ${fault.currency}, so its cost is not known there; say one under Connection.`;
    case 'no-price-leaves':
      return say`No price leaves so much: the fees take the rest. Ask for a lower margin.`;
    case 'no-category':
      return say`It has no category on this market yet, so its fields are not known; choose one first.`;
    case 'not-in-category':
      return say`${label} is not asked of “${fault.category}”; what stands there would be refused.`;
    case 'not-in-rows':
      return fault.of === 'variants'
        ? say`${label} belongs to what is sold; give it to the variants of this family.`
        : say`${label} stands in the row of the family, for all of its variants.`;
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
