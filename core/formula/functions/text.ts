import { canonicalNumber, Exact, exact } from '../../quantity';
import { countCharacters } from '../../text';
import { failRow } from '../fault';
import { toWords, type Worked } from '../types';
import { argument, type FormulaFunction } from './define';

/** As much as a spreadsheet's cell holds, and as a field of ours keeps. */
export const longestText = 32_767;
const text = argument('text', 'text');
const words = (v: Worked | undefined): string => toWords(v ?? null);
/** A count of characters; what is under zero or broken is none that a text has. */
function toCount(value: Worked | undefined, name: string, least = 0): number {
  if (!(value instanceof Exact) || !value.isInteger() || value.lt(least) || value.gt(longestText))
    return failRow({ kind: 'out-of-range', function: name, value: words(value) });
  return value.toNumber();
}
const signs = (t: string): string[] => Array.from(t);

/** A text that may have grown past what a field keeps. */
export function bound(t: string): string {
  return t.length > longestText ? failRow({ kind: 'result-too-long', most: longestText }) : t;
}

const isLetter = /\p{L}/u;
/** Each word with a capital and the rest small, as OpenFormula's PROPER: a word begins after what is no letter. */
const toProper = (t: string): string => {
  let after = false;
  return signs(t)
    .map((c) => {
      const letter = isLetter.test(c);
      const made = after ? c.toLowerCase() : c.toUpperCase();
      after = letter;
      return made;
    })
    .join('');
};

const one = (name: string, about: string, example: string, result: string, work: (t: string) => Worked) =>
  ({
    name,
    group: 'Text',
    takes: [text],
    gives: 'text',
    about,
    example,
    result,
    work: ([t]) => work(words(t)),
  }) satisfies FormulaFunction;
const asks = (
  name: string,
  about: string,
  example: string,
  result: string,
  work: (t: string, part: string) => boolean,
) =>
  ({
    name,
    group: 'Text',
    takes: [text, argument('part', 'text')],
    takesEmpty: true,
    gives: 'yes-no',
    about,
    example,
    result,
    work: ([t, part]) => work(words(t).toLowerCase(), words(part).toLowerCase()),
  }) satisfies FormulaFunction;

export const textFunctions: readonly FormulaFunction[] = [
  one('upper', 'In capitals.', 'upper("mug")', 'MUG', (t) => t.toUpperCase()),
  one('lower', 'In small letters.', 'lower("MUG")', 'mug', (t) => t.toLowerCase()),
  one('proper', 'Each word with a capital.', 'proper("tea towel")', 'Tea Towel', toProper),
  one('trim', 'Without spaces at the ends, and with one between words.', 'trim("  tea   towel ")', 'tea towel', (t) =>
    t.replace(/ +/g, ' ').replace(/^ | $/g, ''),
  ),
  {
    name: 'len',
    group: 'Text',
    takes: [text],
    takesEmpty: true,
    gives: 'number',
    about: 'How many characters; none where there is nothing.',
    example: 'len("mug")',
    result: '3',
    work: ([t]) => exact(countCharacters(words(t))),
  },
  {
    name: 'left',
    group: 'Text',
    takes: [text, argument('count', 'number')],
    least: 1,
    gives: 'text',
    about: 'The first characters; one where no count is given.',
    example: 'left("MP-MUG-06", 2)',
    result: 'MP',
    work: ([t, n]) =>
      signs(words(t))
        .slice(0, n === undefined ? 1 : toCount(n, 'left'))
        .join(''),
  },
  {
    name: 'right',
    group: 'Text',
    takes: [text, argument('count', 'number')],
    least: 1,
    gives: 'text',
    about: 'The last characters; one where no count is given.',
    example: 'right("MP-MUG-06", 2)',
    result: '06',
    work: ([t, n]) => {
      const count = n === undefined ? 1 : toCount(n, 'right');
      return count === 0 ? '' : signs(words(t)).slice(-count).join('');
    },
  },
  {
    name: 'mid',
    group: 'Text',
    takes: [text, argument('from', 'number'), argument('count', 'number')],
    gives: 'text',
    about: 'So many characters from a place on; the first is 1.',
    example: 'mid("MP-MUG-06", 4, 3)',
    result: 'MUG',
    work: ([t, from, n]) => {
      const start = toCount(from, 'mid', 1) - 1;
      return signs(words(t))
        .slice(start, start + toCount(n, 'mid'))
        .join('');
    },
  },
  {
    name: 'find',
    group: 'Text',
    takes: [argument('part', 'text'), text],
    gives: 'number',
    about: 'At which character a part begins, case counted; nothing where it is not there.',
    example: 'find("MUG", "MP-MUG-06")',
    result: '4',
    work: ([part, t]) => {
      const at = words(t).indexOf(words(part));
      return at < 0 ? null : exact(countCharacters(words(t).slice(0, at)) + 1);
    },
  },
  {
    name: 'substitute',
    group: 'Text',
    takes: [text, argument('old', 'text'), argument('new', 'text')],
    takesEmpty: true,
    gives: 'text',
    about: 'With each old part replaced by the new one, case counted.',
    example: 'substitute("red mug, red lid", "red", "blue")',
    result: 'blue mug, blue lid',
    work: ([t, old, by]) =>
      words(t) === '' ? null : words(old) === '' ? words(t) : bound(words(t).split(words(old)).join(words(by))),
  },
  asks(
    'contains',
    'Whether a part stands in the text, in whatever case.',
    'contains("Tea towel", "TOWEL")',
    'yes',
    (t, p) => t.includes(p),
  ),
  asks(
    'startswith',
    'Whether the text begins with a part, in whatever case.',
    'startswith("Tea towel", "tea")',
    'yes',
    (t, p) => t.startsWith(p),
  ),
  asks('endswith', 'Whether the text ends with a part, in whatever case.', 'endswith("12.99", ".99")', 'yes', (t, p) =>
    t.endsWith(p),
  ),
  {
    name: 'rept',
    group: 'Text',
    takes: [text, argument('count', 'number')],
    gives: 'text',
    about: 'The text so many times.',
    example: 'rept("ab", 3)',
    result: 'ababab',
    work: ([t, n]) => {
      const count = toCount(n, 'rept');
      if (words(t).length * count > longestText) failRow({ kind: 'result-too-long', most: longestText });
      return words(t).repeat(count);
    },
  },
  {
    name: 'text',
    group: 'Text',
    takes: [argument('number', 'number'), argument('places', 'number')],
    gives: 'text',
    about: 'A number as text with so many places after the point.',
    example: 'text(12.5, 2)',
    result: '12.50',
    work: ([n, places]) => (n as Exact).toFixed(Math.min(toCount(places, 'text'), 20)),
  },
  {
    name: 'value',
    group: 'Text',
    takes: [text],
    gives: 'number',
    about: 'The number that a text is.',
    example: 'value("12.50") * 2',
    result: '25',
    work: ([t]) => {
      const written = words(t).trim();
      if (written === '') return null;
      return canonicalNumber.test(written) ? exact(written) : failRow({ kind: 'no-number', text: written });
    },
  },
];
