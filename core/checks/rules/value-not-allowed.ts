import type { Value } from '../../listing/values';
import type { CodeList } from '../../rulebook/schema';
import { fold, findNearest } from '../../text';
import { defineCheck } from '../define-check';
import type { Finding, Remedy } from '../finding';

type Entry = CodeList['entries'][number];
/** Entries for a value that is not on the list: the one meant, where only its writing differs, and the nearest ones. */
interface Proposal {
  same: Entry | undefined;
  near: Entry[];
}
/** So many slips of one list are remembered with what is nearest to them. */
const mostRemembered = 500;
const wordsOf = (e: Entry): string[] => [e.label, e.code, ...e.also];

/** A value that is not on the market's list is refused, however sensible it looks. */
export const valueNotAllowed = defineCheck({
  id: 'value-not-allowed',
  level: 'blocker',
  docs: {
    title: 'Choices are on the list',
    why: 'The market compares character for character with its own list.',
    source: 'code lists from the rulebook',
  },
  messages: {
    near: {
      title: '{{field}} is nearly on the list',
      says: '{{field}} holds “{{value}}”, which is not on the list; the nearest is {{nearest}}.',
    },
    unknown: {
      title: '{{field}} is not on the list',
      says: '{{field}} holds “{{value}}”, which is not on the list of {{count}} values; choose one.',
    },
  },
  prepareValues(_, say) {
    return ({ attribute, codes, codeSet, strongest }) => {
      if (!codes || !codeSet || strongest === 'unused') return undefined;
      const { key } = attribute,
        { entries } = codes;
      const isList = attribute.type === 'several-of';
      // The same slip stands in many rows: what is nearest to it is worked out once.
      const proposals = new Map<string, Proposal>();
      const propose = (item: string): Proposal => {
        const known = proposals.get(item);
        if (known) return known;
        const folded = fold(item);
        const proposal = {
          same: entries.find((e) => wordsOf(e).some((w) => fold(w) === folded)),
          near: findNearest(item, entries, wordsOf).map((n) => n.candidate),
        };
        if (proposals.size < mostRemembered) proposals.set(item, proposal);
        return proposal;
      };
      const judge = (out: Finding[], item: string, put: (mended: string) => Value): void => {
        const { same, near } = propose(item);
        const remedies: Remedy[] = same
          ? [{ kind: 'set', field: key, value: put(same.code), safe: true }]
          : near.map((e) => ({ kind: 'set', field: key, value: put(e.code), safe: false }));
        if (!isList) remedies.push({ kind: 'choose', field: key });
        const best = near[0];
        if (best) say(out, 'near', key, item, { nearest: `${best.label} (${best.code})` }, remedies);
        else say(out, 'unknown', key, item, { count: entries.length }, remedies);
      };
      return (value, out) => {
        if (typeof value === 'string') {
          if (!codeSet.has(value)) judge(out, value, (m) => (isList ? [m] : m));
        } else
          for (const item of value)
            if (item !== '' && !codeSet.has(item)) judge(out, item, (m) => value.map((v) => (v === item ? m : v)));
      };
    };
  },
});
