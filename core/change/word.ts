// Bulk changes in words: what a step does, and what is wrong with one.
import { wordFormulaProblem } from '../formula';
import { toText, type Value } from '../listing/values';
import { type FieldBook, wordCellFault } from '../product';
import type { ChangeStep } from './bulk';
import type { StepProblem } from './operations';

const longest = 60;
const quote = (value: Value): string => {
  const text = toText(value);
  return `“${text.length > longest ? `${text.slice(0, longest - 1)}…` : text}”`;
};
const ways = { up: 'up', nearest: 'to the nearest', down: 'down' } as const;

/** What a step does: “Price raised by 10 %”. */
export function wordStep({ field, operation: o }: ChangeStep, { labelOf }: FieldBook): string {
  const label = labelOf(field);
  switch (o.do) {
    case 'set':
      return `${label} becomes ${quote(o.value)}`;
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
