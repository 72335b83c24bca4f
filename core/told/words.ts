// Words of a list that stand in texts: "cast iron" in "Hearth Pan, cast iron" is the material Cast iron.
import { foldLoosely, stem } from '../text';

/** A value, and what it may be called in a text. */
export interface Named {
  value: string;
  names: readonly string[];
}

const tags = /<[^>]*>/g;
/** Where one statement ends and another begins. A point or a comma within a number is none. */
const breaks = /[;|•()\n\r]|[,.](?!\d)|(?<!\d)[,.]/gu;

/** The statements of a text, markup left out. */
export const listStatements = (text: string): string[] =>
  text
    .replace(tags, '\n')
    .split(breaks)
    .map((s) => s.trim())
    .filter((s) => s !== '');

/** The words of a statement as they are compared. */
export const toWords = (text: string): string[] => {
  const folded = foldLoosely(text);
  return folded === '' ? [] : folded.split(' ').map(stem);
};

/** Words that take back what stands behind them, or before them: common practice of a few languages of Europe. */
const takenBefore = new Set([
    'no',
    'non',
    'not',
    'without',
    'ohne',
    'nicht',
    'kein',
    'keine',
    'utan',
    'ej',
    'inte',
    'sans',
    'senza',
    'sin',
  ]),
  takenAfter = new Set(['free', 'frei', 'fri']);

export interface Spoken {
  value: string;
  /** False where the text says that it is not so: "without lid", "nickel free". */
  isSo: boolean;
}

/**
 * Finds which values of a list a text speaks of, each as often as it stands there. Where names overlap the longest counts:
 * "navy blue" is no blue.
 */
export function createWordFinder(list: readonly Named[]): (text: string) => Spoken[] {
  const byFirst = new Map<string, { words: string[]; value: string }[]>();
  for (const { value, names } of list)
    for (const name of names) {
      const words = toWords(name);
      const [first] = words;
      if (first === undefined) continue;
      byFirst.set(first, [...(byFirst.get(first) ?? []), { words, value }]);
    }
  for (const names of byFirst.values()) names.sort((a, b) => b.words.length - a.words.length);
  return (text) =>
    listStatements(text).flatMap((statement) => {
      const words = toWords(statement),
        found: Spoken[] = [];
      for (let at = 0; at < words.length; at++) {
        const name = byFirst.get(words[at]!)?.find((n) => n.words.every((w, i) => words[at + i] === w));
        if (!name) continue;
        const before = words[at - 1] ?? '';
        at += name.words.length - 1;
        found.push({ value: name.value, isSo: !takenBefore.has(before) && !takenAfter.has(words[at + 1] ?? '') });
      }
      return found;
    });
}
