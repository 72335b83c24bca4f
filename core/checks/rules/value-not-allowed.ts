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
  prepare(category, say) {
    const choices = category.attributes.flatMap((a) =>
      a.codes && a.codeSet && a.strongest !== 'unused'
        ? [
            {
              key: a.attribute.key,
              codes: a.codeSet,
              entries: a.codes.entries,
              isList: a.attribute.type === 'several-of',
            },
          ]
        : [],
    );
    // The same slip stands in many rows: what is nearest to it is worked out once.
    const nearestTo = new Map<string, ReturnType<typeof findNearest<(typeof choices)[number]['entries'][number]>>>();
    const judge = (
      out: Finding[],
      c: (typeof choices)[number],
      item: string,
      rest: (mended: string) => string | string[],
    ) => {
      const asked = `${c.key}\u0000${item}`;
      const nearest = nearestTo.get(asked) ?? findNearest(item, c.entries, (e) => [e.label, e.code, ...e.also]);
      if (nearestTo.size < 5000) nearestTo.set(asked, nearest);
      const same = c.entries.find((e) => [e.label, e.code, ...e.also].some((w) => fold(w) === fold(item)));
      const best = nearest[0]?.candidate;
      const remedies: Remedy[] = same
        ? [{ kind: 'set', field: c.key, value: rest(same.code), safe: true }]
        : nearest.map((n) => ({ kind: 'set', field: c.key, value: rest(n.candidate.code), safe: false }));
      if (!c.isList)
        remedies.push({
          kind: 'choose',
          field: c.key,
          options: c.entries.slice(0, 40).map((e) => ({ code: e.code, label: e.label })),
        });
      if (best) say(out, 'near', c.key, item, { nearest: `${best.label} (${best.code})` }, remedies);
      else say(out, 'unknown', c.key, item, { count: c.entries.length }, remedies);
    };
    return (listing, _, out) => {
      for (const c of choices) {
        const value = listing.values[c.key];
        if (value === undefined || value === '') continue;
        if (typeof value === 'string') {
          if (!c.codes.has(value)) judge(out, c, value, (m) => (c.isList ? [m] : m));
        } else
          for (const item of value)
            if (item !== '' && !c.codes.has(item)) judge(out, c, item, (m) => value.map((v) => (v === item ? m : v)));
      }
    };
  },
});
