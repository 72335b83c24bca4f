import { isSame } from '../compare';
import { argument, type FormulaFunction, shareType } from './define';

const isTrue = (v: unknown): boolean => v === true;
const isEmpty = (v: unknown): boolean => v === null || v === '' || (Array.isArray(v) && v.length === 0);

export const choiceFunctions: readonly FormulaFunction[] = [
  {
    name: 'if',
    group: 'Choice',
    takes: [argument('condition', 'yes-no'), argument('then', 'any'), argument('else', 'any')],
    least: 2,
    takesEmpty: true,
    gives: (given) => shareType(given.slice(1)),
    about: 'The second where the condition holds, else the third; nothing where there is none.',
    example: 'if(2 > 1, "more", "less")',
    result: 'more',
    work: ([condition, then, otherwise]) => (isTrue(condition) ? then! : (otherwise ?? null)),
    choose: ([condition, then, otherwise], row) =>
      isTrue(condition!(row)) ? then!(row) : otherwise ? otherwise(row) : null,
  },
  {
    name: 'and',
    group: 'Choice',
    takes: [argument('condition', 'yes-no')],
    further: argument('condition', 'yes-no'),
    takesEmpty: true,
    gives: 'yes-no',
    about: 'Whether all conditions hold.',
    example: 'and(2 > 1, 1 > 2)',
    result: 'no',
    work: (given) => given.every(isTrue),
    choose: (given, row) => given.every((run) => isTrue(run(row))),
  },
  {
    name: 'or',
    group: 'Choice',
    takes: [argument('condition', 'yes-no')],
    further: argument('condition', 'yes-no'),
    takesEmpty: true,
    gives: 'yes-no',
    about: 'Whether one of the conditions holds.',
    example: 'or(2 > 1, 1 > 2)',
    result: 'yes',
    work: (given) => given.some(isTrue),
    choose: (given, row) => given.some((run) => isTrue(run(row))),
  },
  {
    name: 'not',
    group: 'Choice',
    takes: [argument('condition', 'yes-no')],
    takesEmpty: true,
    gives: 'yes-no',
    about: 'Whether the condition does not hold.',
    example: 'not(1 > 2)',
    result: 'yes',
    work: ([condition]) => !isTrue(condition),
  },
  {
    name: 'isempty',
    group: 'Choice',
    takes: [argument('value', 'any')],
    takesEmpty: true,
    gives: 'yes-no',
    about: 'Whether there is nothing. Zero is something.',
    example: 'isempty("")',
    result: 'yes',
    work: ([value]) => isEmpty(value),
  },
  {
    name: 'ifempty',
    group: 'Choice',
    takes: [argument('value', 'any'), argument('else', 'any')],
    further: argument('else', 'any'),
    takesEmpty: true,
    gives: (given) => shareType(given),
    about: 'The first that is not empty.',
    example: 'ifempty("", "plain")',
    result: 'plain',
    work: (given) => given.find((v) => !isEmpty(v)) ?? null,
    choose: (given, row) => {
      for (const run of given) {
        const value = run(row);
        if (!isEmpty(value)) return value;
      }
      return null;
    },
  },
  {
    name: 'oneof',
    group: 'Choice',
    takes: [argument('value', 'any'), argument('among', 'any')],
    further: argument('among', 'any'),
    takesEmpty: true,
    gives: 'yes-no',
    about: 'Whether the first is one of the others.',
    example: 'oneof("red", "blue", "red")',
    result: 'yes',
    work: ([value, ...among]) => !isEmpty(value) && among.some((a) => isSame(value!, a)),
  },
];
