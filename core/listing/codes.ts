// What the words of ours become on a market's list: by what a person chose, as the list itself calls it, or not at all yet.
import type { Rulebook } from '../rulebook/schema';
import { findNearest, fold } from '../text';

export type CodeEntry = Rulebook['codeLists'][string]['entries'][number];

/** `label`: the same word; `also`: another word that the list names for it. */
export const matchedBy = ['nothing', 'also', 'label', 'chosen'] as const;
export type MatchedBy = (typeof matchedBy)[number];
export interface MatchedWord {
  theirs: string | null;
  by: MatchedBy;
}

/** How words of ours stand to a list, which is looked through once. */
export function createMatcher(
  entries: readonly CodeEntry[],
  chosen: ReadonlyMap<string, string> | undefined,
): (ours: string) => MatchedWord {
  const codes = new Set(entries.map((e) => e.code)),
    named = new Map<string, string>(),
    also = new Map<string, string>();
  // The first entry of a word has it.
  for (const e of [...entries].reverse()) {
    named.set(fold(e.label), e.code);
    for (const word of e.also) also.set(fold(word), e.code);
  }
  return (ours) => {
    const word = fold(ours),
      said = chosen?.get(word);
    if (said !== undefined) return { theirs: said, by: 'chosen' };
    if (codes.has(ours)) return { theirs: ours, by: 'label' };
    // As `resolve.ts` translates: a label goes before another entry's further words.
    const same = named.get(word);
    if (same !== undefined) return { theirs: same, by: 'label' };
    const other = also.get(word);
    return other === undefined ? { theirs: null, by: 'nothing' } : { theirs: other, by: 'also' };
  };
}

/** Entries that a word of ours may mean, the likeliest first. */
export const proposeEntries = (ours: string, entries: readonly CodeEntry[]): { code: string; label: string }[] =>
  findNearest(ours, entries, (e) => [e.label, ...e.also]).map(({ candidate }) => ({
    code: candidate.code,
    label: candidate.label,
  }));

/** The entry that somebody means who writes a code, or what the list calls it. */
export const findEntry = (said: string, entries: readonly CodeEntry[]): CodeEntry | undefined => {
  const word = fold(said);
  return (
    entries.find((e) => e.code === said.trim()) ??
    entries.find((e) => fold(e.label) === word || fold(e.code) === word) ??
    entries.find((e) => e.also.some((w) => fold(w) === word))
  );
};

/** A row of a table of values as somebody has written it: the attribute by its key or label, their value by code or label. */
export interface WrittenCode {
  attribute: string;
  ours: string;
  theirs: string;
}
export type WrittenCodeFault = 'attribute' | 'ours' | 'theirs' | 'twice';
export interface ReadCodes {
  codes: { attribute: string; ours: string; theirs: string | null }[];
  /** Rows that say nothing usable, by their place from 0; `near` is what may be meant. */
  faults: { row: number; is: WrittenCodeFault; near: string | null }[];
}

interface Listed {
  key: string;
  label: string;
  entries: readonly CodeEntry[];
}

/** Reads a table of values that was brought in; an empty value of theirs forgets what was chosen. */
export function readCodes(rows: readonly WrittenCode[], attributes: readonly Listed[]): ReadCodes {
  const byName = new Map([...attributes].reverse().flatMap((a) => [[fold(a.label), a] as const, [fold(a.key), a]]));
  const read: ReadCodes = { codes: [], faults: [] },
    seen = new Map<string, string | null>();
  for (const [row, { attribute, ours, theirs }] of rows.entries()) {
    const fail = (is: WrittenCodeFault, near: string | undefined) => {
      read.faults.push({ row, is, near: near ?? null });
    };
    const listed = byName.get(fold(attribute));
    if (!listed) {
      fail('attribute', findNearest(attribute, attributes, (a) => [a.label], 1)[0]?.candidate.label);
      continue;
    }
    if (ours.trim() === '') {
      fail('ours', undefined);
      continue;
    }
    const entry = theirs.trim() === '' ? null : findEntry(theirs, listed.entries);
    if (entry === undefined) {
      fail('theirs', proposeEntries(theirs, listed.entries)[0]?.label);
      continue;
    }
    const code = entry?.code ?? null,
      key = `${listed.key}\t${fold(ours)}`,
      before = seen.get(key);
    if (before === undefined) {
      seen.set(key, code);
      read.codes.push({ attribute: listed.key, ours: ours.trim(), theirs: code });
    } else if (before !== code) fail('twice', undefined);
  }
  return read;
}
