import { Exact, exact } from '../../quantity';
import { failRow } from '../fault';
import { toWords } from '../types';
import { argument, type FormulaFunction } from './define';
import { bound } from './text';

const list = argument('list', 'list');

export const listFunctions: readonly FormulaFunction[] = [
  {
    name: 'count',
    group: 'Lists',
    takes: [list],
    takesEmpty: true,
    gives: 'number',
    about: 'How many entries; none where there is nothing.',
    example: 'count(split("a|b|c", "|"))',
    result: '3',
    work: ([l]) => exact((l as readonly string[] | null)?.length ?? 0),
  },
  {
    name: 'item',
    group: 'Lists',
    takes: [list, argument('place', 'number')],
    gives: 'text',
    about: 'One entry; the first is 1. Nothing where there is none.',
    example: 'item(split("a|b|c", "|"), 2)',
    result: 'b',
    work: ([l, n]) => {
      const place = n as Exact;
      if (!place.isInteger() || place.lt(1))
        return failRow({ kind: 'out-of-range', function: 'item', value: place.toFixed() });
      return (l as readonly string[])[place.toNumber() - 1] ?? null;
    },
  },
  {
    name: 'has',
    group: 'Lists',
    takes: [list, argument('entry', 'text')],
    takesEmpty: true,
    gives: 'yes-no',
    about: 'Whether a list has an entry, in whatever case.',
    example: 'has(split("a|b", "|"), "B")',
    result: 'yes',
    work: ([l, entry]) => {
      const wanted = toWords(entry!).toLowerCase();
      return ((l as readonly string[] | null) ?? []).some((v) => v.toLowerCase() === wanted);
    },
  },
  {
    name: 'split',
    group: 'Lists',
    takes: [argument('text', 'text'), argument('by', 'text')],
    gives: 'list',
    about: 'The parts of a text, without spaces around them; empty ones are left out.',
    example: 'textjoin(" + ", split("lid, pan", ","))',
    result: 'lid + pan',
    work: ([t, by]) => {
      const mark = toWords(by!);
      const parts = mark === '' ? [toWords(t!)] : toWords(t!).split(mark);
      return parts.map((p) => p.trim()).filter((p) => p !== '');
    },
  },
  {
    name: 'textjoin',
    group: 'Lists',
    takes: [argument('between', 'text'), argument('value', 'any')],
    further: argument('value', 'any'),
    takesEmpty: true,
    gives: 'text',
    about: 'Texts and the entries of lists as one; what is empty is left out.',
    example: 'textjoin(", ", "red", "", "24 cm")',
    result: 'red, 24 cm',
    work: ([between, ...given]) =>
      bound(
        given
          .flatMap((v) => (Array.isArray(v) ? (v as string[]) : [toWords(v)]))
          .filter((v) => v !== '')
          .join(toWords(between!)),
      ),
  },
];
