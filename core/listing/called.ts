// What markets call things helps to read other people's files: who sells where white is “weiß” need not be told what “weiß” is.
import { houseLanguage } from '../product/house';
import { foldLoosely } from '../text';
import type { CodeEntry } from './codes';

/** The same word for somebody who reads it: marks, capitals and the two spellings of a German ß make no other. */
const toWord = (text: string): string => foldLoosely(text).replaceAll('ß', 'ss');

/**
 * Our word for what somebody else calls by one of the words of a market's list, in any of its languages: the name of ours that is
 * one of these words too, else what the entry is called in the language of the house. A name of ours that became the entry by choice
 * is no word for it: who sends cherry as red does not call red cherry. Undefined where the list has no such word, or several entries
 * have it.
 */
export function createReader(
  entries: readonly CodeEntry[],
  /** Our names, those in most use first. */
  names: readonly string[],
  /** The first language of the market. */
  language: string | undefined,
): (word: string) => string | undefined {
  const byWord = new Map<string, CodeEntry | null>();
  for (const e of entries)
    for (const word of new Set([e.label, ...Object.values(e.labels ?? {}), ...e.also].map(toWord))) {
      const before = byWord.get(word);
      byWord.set(word, before === undefined || before === e ? e : null);
    }
  const ours = new Map<CodeEntry, string>();
  for (const name of names) {
    const entry = byWord.get(toWord(name));
    if (entry && !ours.has(entry)) ours.set(entry, name);
  }
  return (word) => {
    const entry = byWord.get(toWord(word));
    if (!entry) return undefined;
    return ours.get(entry) ?? (language === houseLanguage ? entry.label : entry.labels?.[houseLanguage]);
  };
}
