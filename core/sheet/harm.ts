// What a spreadsheet did to a cell of ours, proven by what the cell was when it went out. Nothing is guessed: a text that
// could also have been typed so is a change.
import { canonicalNumber, normaliseNumber, readDate } from '../quantity';
import { findScientificOriginal } from './damage';
import { strToU8 } from 'fflate';
import { createTextDecoder } from './encoding';
import { sayWord, term } from '../text';

export const harmKinds = ['date', 'scientific', 'zeros', 'fifteen', 'number', 'truth', 'letters', 'signs'] as const;
/**
 * A code that became a `date`, a long number that became `scientific`, lost its `zeros` or all but `fifteen` digits, a code
 * that became a `number`, TRUE in another language (`truth`), `letters` in the wrong encoding, and `signs` that look alike:
 * spaces, quotation marks, dashes, line ends.
 */
export type Harm = (typeof harmKinds)[number];

const shortCode = /^(\d{1,4})[-/. ](\d{1,2})(?:[-/. ](\d{1,4}))?$/;
const months = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];
const monthCode = new RegExp(`^(\\d{1,2})?[-/. ]?(${months.join('|')})[a-z]*[-/. ]?(\\d{1,4})?$`, 'i');

/** Numbers that a code is made of, a month by its place in the year. */
function readCode(text: string): number[] | undefined {
  const short = shortCode.exec(text);
  if (short) return short.slice(1).flatMap((p) => (p ? [Number(p)] : []));
  const named = monthCode.exec(text);
  if (!named || (named[1] === undefined && named[3] === undefined)) return undefined;
  return [named[1], String(months.indexOf(named[2]!.toLowerCase()) + 1), named[3]].flatMap((p) =>
    p ? [Number(p)] : [],
  );
}

/** Days as programs write them that a code became: 1-2 is the first of February, or the second of January. */
function becameDate(was: string, text: string): boolean {
  const code = readCode(was);
  if (!code || text === was) return false;
  const short = /^(\d{1,2})[-. ](\p{L}{3})[a-z]*\.?(?:[-. ](\d{2,4}))?$/iu.exec(text),
    turned = /^(\p{L}{3})[a-z]*[-. ](\d{2,4})$/iu.exec(text);
  const days = ['day-first', 'month-first'].flatMap((o) => readDate(text, o as 'day-first') ?? []);
  const parts = days.map((d) => d.split('-').map(Number));
  if (short) parts.push([Number(short[3] ?? 0), months.indexOf(short[2]!.toLowerCase()) + 1, Number(short[1])]);
  if (turned) parts.push([Number(turned[2]), months.indexOf(turned[1]!.toLowerCase()) + 1, 1]);
  // Each number of the code stands in the day that it became; a year of two figures is one of four.
  return parts.some((p) => code.every((n) => p.includes(n) || p.includes(2000 + n) || p.includes(1900 + n)));
}

const truths: readonly (readonly [RegExp, RegExp])[] = [
  [/^true$/i, /^(true|wahr|vrai|verdadero|vero|sant|waar|prawda|1)$/i],
  [/^false$/i, /^(false|falsch|faux|falso|falskt|onwaar|fałsz|0)$/i],
];

/** Signs that look the same in one writing: what programs put in each other's place while a text is opened and saved. */
const levelSigns = (text: string): string =>
  text
    .replace(/\r\n?/g, '\n')
    .replace(/[\u00a0\u2000-\u200a\u202f\u3000]/g, ' ')
    .replace(/[\u200b\ufeff]/g, '')
    .replace(/[\u201c\u201d\u201e\u201f]/g, '"')
    .replace(/[\u2018\u2019\u201a\u201b]/g, "'")
    .replace(/[\u2013\u2014]/g, '-')
    .replace(/\u2026/g, '...')
    .replace(/[ \t]+/g, ' ')
    .trim();

const asNumber = (text: string): string | undefined => {
  const plain = /^-?\d+(,\d+)?$/.test(text) ? text.replace(',', '.') : text;
  return canonicalNumber.test(plain) ? normaliseNumber(plain) : undefined;
};

/** Signs that stand for bytes that are no letters in Windows-1252; programs drop them, or put something in their place. */
const noLetters = /[\u0080-\u009f\ue000-\uf8ff\ufffd?]/g;
/** Whether a text is what comes of another whose UTF-8 is read as Windows-1252. */
function isMisread(was: string, text: string): boolean {
  if (!/[^\x20-\x7e\s]/.test(was)) return false;
  const decoder = createTextDecoder('windows-1252');
  const misread = decoder.push(strToU8(was)) + decoder.end();
  return misread.replace(noLetters, '') === text.replace(noLetters, '');
}

/** Fifteen digits are kept, the last of them cut or rounded, and zeros fill it up. */
function lostDigits(was: string, text: string): boolean {
  if (!/^\d{16,}$/.test(was) || text.length !== was.length || !/^\d{15}0+$/.test(text)) return false;
  const more = Number(text.slice(0, 15)) - Number(was.slice(0, 15));
  return more === 0 || more === 1;
}

/** What was done to a cell that was `was` and is `text`; undefined where somebody may have written it so. */
export function findHarm(was: string, text: string): Harm | undefined {
  if (was === text || was === '' || text === '') return undefined;
  if (/^\d{6,}$/.test(was)) {
    const s = /^(\d)(?:[.,](\d+))?E\+?(\d{1,2})$/i.exec(text);
    if (s && findScientificOriginal({ known: s[1]! + (s[2] ?? '').replace(/0+$/, ''), text }, [was]))
      return 'scientific';
  }
  if (/^0+\d/.test(was) && text === was.replace(/^0+(?=\d)/, '')) return 'zeros';
  if (lostDigits(was, text)) return 'fifteen';
  if (becameDate(was, text)) return 'date';
  const number = asNumber(was);
  // Zeros are taken off by programs, and put on by people.
  if (number !== undefined && !/^0\d/.test(text) && asNumber(text) === number) return 'number';
  if (truths.some(([ours, theirs]) => ours.test(was) && theirs.test(text))) return 'truth';
  if (isMisread(was, text)) return 'letters';
  return levelSigns(was) === levelSigns(text) ? 'signs' : undefined;
}

const harms: Readonly<Record<Harm, string>> = {
  date: term`became a date in a spreadsheet`,
  scientific: term`was rounded by a spreadsheet`,
  zeros: term`lost its zeros in a spreadsheet`,
  fifteen: term`lost its last digits in a spreadsheet`,
  number: term`was written anew as a number by a spreadsheet`,
  truth: term`was put into another language by a spreadsheet`,
  letters: term`was saved in another encoding`,
  signs: term`has other spaces, quotation marks or dashes`,
};

/** What was done, in words that go behind the name of a field. */
export const wordHarm = (harm: Harm): string => sayWord(harms[harm]);
