import { isFilled } from '../../listing/values';
import { describeCondition } from '../../rulebook/condition';
import { defineCheck, type RunRow } from '../define-check';
import type { Remedy } from '../finding';

/** A row without what its category demands is refused whole. */
export const demandedMissing = defineCheck({
  id: 'demanded-missing',
  level: 'blocker',
  docs: {
    title: 'Demanded fields are filled',
    why: 'A market refuses a row that lacks a must field.',
    source: 'RFC 2119 for the levels; the demand itself from the rulebook',
  },
  messages: {
    must: { title: '“{{field}}” is missing', says: '“{{field}}” is empty; {{market}} demands it for {{category}}.' },
    mustBecause: {
      title: '“{{field}}” is missing where other fields ask for it',
      says: '“{{field}}” is empty; {{market}} demands it because {{because}}.',
    },
    should: {
      level: 'tip',
      title: '“{{field}}” is recommended and empty',
      says: '“{{field}}” is empty; {{market}} recommends it for {{category}}.',
    },
  },
  prepareRow(category, say) {
    const labels = new Map(category.attributes.map((a) => [a.attribute.key, a.attribute.label]));
    const labelOf = (k: string) => labels.get(k) ?? k;
    const codeLabel = (k: string, c: string) =>
      category.byKey.get(k)?.codes?.entries.find((e) => e.code === c)?.label ?? c;
    const asked = category.attributes
      .filter((a) => a.strongest === 'must' || a.strongest === 'should')
      .map((a) => {
        const key = a.attribute.key;
        const remedies: Remedy[] = [{ kind: a.codes ? 'choose' : 'fill', field: key }];
        const musts = a.conditions.filter((c) => c.level === 'must');
        const because = musts.map((c) => c.why ?? describeCondition(c.when, labelOf, codeLabel)).join(' or ');
        return { key, levelFor: a.levelFor, remedies, because, isConditional: a.conditions.length > 0 };
      });
    const judge =
      (fields: typeof asked): RunRow =>
      (listing, _, out) => {
        const { values, role } = listing;
        for (const a of fields) {
          const value = values[a.key];
          if (value !== undefined && isFilled(value)) continue;
          // What divides a family stands on its variants, not on the family row.
          if (role === 'parent' && listing.axes.includes(a.key)) continue;
          const level = a.levelFor(values, role);
          if (level === 'must') {
            if (a.because) say(out, 'mustBecause', a.key, undefined, { because: a.because }, a.remedies);
            else say(out, 'must', a.key, undefined, { category: category.label }, a.remedies);
          } else if (level === 'should') say(out, 'should', a.key, undefined, { category: category.label }, a.remedies);
        }
      };
    // What is asked for only on a condition is empty in most rows; only the rest can say that a row lacks nothing.
    const fixed = asked.filter((a) => !a.isConditional);
    return { fields: fixed.map((a) => a.key), run: judge(fixed), always: judge(asked.filter((a) => a.isConditional)) };
  },
});
