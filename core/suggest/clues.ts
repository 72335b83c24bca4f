// What an item tells of its category: the words it is called by, our own category, and where it stands on other markets.
import { isKnownUnit } from '../quantity';
import { foldLoosely, stem } from '../text';

/** An item, or a family with all its variants, as far as its category can be told from it. */
export interface ItemTold {
  titles: readonly string[];
  /** What it is sold as says nothing of what it is: its words are left out of the titles. */
  brand: string;
  /** Our own category; empty where there is none. */
  own: string;
  /** Where it stands on other markets, each as one text of market and leaf. */
  elsewhere: readonly string[];
}

/** Scripts that put no spaces between words. */
const unspaced = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}ー]+/gu;
const endings = /(?<=\p{L}{5})(?:en|e|n)$/u;

/** The form in which a word is compared: without plural endings of English and German. */
export const toRoot = (word: string): string => stem(word).replace(endings, '');

/**
 * The words of a text in the form in which they are compared, each with how it was written, numbers and units left out; of scripts without spaces every two letters that stand side by side.
 */
export function listWords(text: string): ReadonlyMap<string, string> {
  const words = new Map<string, string>();
  const folded = foldLoosely(text);
  for (const word of folded.replace(unspaced, ' ').split(' '))
    if (word.length > 1 && !/^\p{N}+$/u.test(word) && !isKnownUnit(word)) words.set(toRoot(word), word);
  for (const [run] of folded.matchAll(unspaced)) {
    const letters = [...run];
    if (letters.length === 1) words.set(run, run);
    for (let i = 1; i < letters.length; i++) words.set(letters[i - 1]! + letters[i]!, letters[i - 1]! + letters[i]!);
  }
  return words;
}

/** A thing that an item tells. */
export interface Clue {
  /** In the form in which it is compared. */
  thing: string;
  written: string;
  /** From 0 to 1: what only some of a family's titles say is said the less. */
  weight: number;
}
/** What is compared of an item. */
export interface Clues {
  words: readonly Clue[];
  /** Words in most of the titles: what an item, or all of a family, is called. */
  called: ReadonlySet<string>;
  own: readonly Clue[];
  /** Places on several markets say much the same: together they weigh as much as one. */
  elsewhere: readonly Clue[];
}

const mostTitles = 0.5;

export function readClues({ titles, brand, own, elsewhere }: ItemTold): Clues {
  const words = new Map<string, Clue>();
  for (const title of titles)
    for (const [thing, written] of listWords(brand === '' ? title : title.replace(brand, ' ')))
      words.set(thing, { thing, written, weight: (words.get(thing)?.weight ?? 0) + 1 / titles.length });
  const called = new Set([...words.values()].flatMap((c) => (c.weight > mostTitles ? [c.thing] : [])));
  for (const [thing, written] of listWords(own)) words.set(thing, { thing, written, weight: 1 });
  const places = [...new Set(elsewhere)];
  return {
    words: [...words.values()],
    called,
    own: own === '' ? [] : [{ thing: own, written: own, weight: 1 }],
    elsewhere: places.map((place) => ({ thing: place, written: place, weight: 1 / places.length })),
  };
}
