// Proposals for a list of one market by what the same word of ours is on others: our "Midnight" is Navy there, so it may be
// Dark blue here, where Navy is another word for it.
import { fold } from '../text';
import { type CodeEntry, proposeEntries } from './codes';

/** What a word of ours is on another market: the entry of its list, and whether a person chose it. */
export interface MeantThere {
  market: string;
  entry: CodeEntry;
  isChosen: boolean;
}

export interface EntryProposal {
  code: string;
  label: string;
  /** The market on which the word is that, and what the entry is called there; null where the word itself is alike. */
  there: { market: string; label: string } | null;
}

const wordsOf = (e: CodeEntry): Set<string> => new Set([e.label, ...e.also].map(fold));

/**
 * Entries of a list that a word may mean, at most so many: what it is on other markets, what people chose there first, then by
 * how many words the two entries share; then what is spelled alike. A label there that is only spelled alike counts last.
 */
export function carryProposals(
  ours: string,
  there: readonly MeantThere[],
  entries: readonly CodeEntry[],
  most = 3,
): EntryProposal[] {
  const listed = entries.map((entry) => ({ entry, words: wordsOf(entry) }));
  const same = there
    .flatMap((meant) => {
      const words = wordsOf(meant.entry);
      return listed.flatMap(({ entry, words: here }) => {
        const shared = [...here].filter((w) => words.has(w)).length;
        return shared > 0 ? [{ meant, entry, shared }] : [];
      });
    })
    .sort((a, b) => Number(b.meant.isChosen) - Number(a.meant.isChosen) || b.shared - a.shared);
  const put = (entry: { code: string; label: string }, meant: MeantThere | undefined): EntryProposal => ({
    code: entry.code,
    label: entry.label,
    there: meant ? { market: meant.market, label: meant.entry.label } : null,
  });
  const all = [
    ...same.map((s) => put(s.entry, s.meant)),
    ...proposeEntries(ours, entries).map((e) => put(e, undefined)),
    ...there.flatMap((meant) => proposeEntries(meant.entry.label, entries).map((e) => put(e, meant))),
  ];
  // An entry is proposed once, for the first reason.
  return all.filter((p, i) => all.findIndex((q) => q.code === p.code) === i).slice(0, most);
}
