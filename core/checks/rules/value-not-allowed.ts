import { fold, findNearest } from '../../text';
import { defineCheck } from '../define-check';
import type { Finding, Remedy } from '../finding';

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
    near: '{{field}} holds “{{value}}”, which is not on the list; the nearest is {{nearest}}.',
    unknown: '{{field}} holds “{{value}}”, which is not on the list of {{count}} values; choose one.',
  },
  prepareCells(_, say) {
    return ({ attribute, codes, codeSet, strongest }) => {
      if (!codes || !codeSet || strongest === 'unused') return undefined;
      const { key } = attribute,
        { entries } = codes;
      const isList = attribute.type === 'several-of';
      const wordsOf = (e: (typeof entries)[number]): string[] => [e.label, e.code, ...e.also];
      // The same slip stands in many rows: what is nearest to it is worked out once.
      const nearestTo = new Map<string, ReturnType<typeof findNearest<(typeof entries)[number]>>>();
      const judge = (out: Finding[], item: string, put: (mended: string) => string | string[]): void => {
        const nearest = nearestTo.get(item) ?? findNearest(item, entries, wordsOf);
        if (nearestTo.size < 500) nearestTo.set(item, nearest);
        const same = entries.find((e) => wordsOf(e).some((w) => fold(w) === fold(item)));
        const remedies: Remedy[] = same
          ? [{ kind: 'set', field: key, value: put(same.code), safe: true }]
          : nearest.map((n) => ({ kind: 'set', field: key, value: put(n.candidate.code), safe: false }));
        if (!isList)
          remedies.push({
            kind: 'choose',
            field: key,
            options: entries.slice(0, 40).map((e) => ({ code: e.code, label: e.label })),
          });
        const best = nearest[0]?.candidate;
        if (best) say(out, 'near', key, item, { nearest: `${best.label} (${best.code})` }, remedies);
        else say(out, 'unknown', key, item, { count: entries.length }, remedies);
      };
      return (value, _listing, out) => {
        if (typeof value === 'string') {
          if (!codeSet.has(value)) judge(out, value, (m) => (isList ? [m] : m));
        } else
          for (const item of value)
            if (item !== '' && !codeSet.has(item)) judge(out, item, (m) => value.map((v) => (v === item ? m : v)));
      };
    };
  },
});
