import { isFilled, type Value } from '../../listing/values';
import type { CompiledAttribute, CompiledCategory } from '../../rulebook/compile';
import { describeCondition } from '../../rulebook/condition';
import { defineCheck, type Message, type RunRow, type Say } from '../define-check';
import type { CheckContext, Remedy } from '../finding';

const messages = {
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
} as const satisfies Record<string, Message>;

/** A row without what its category demands is refused whole. */
export const demandedMissing = defineCheck({
  id: 'demanded-missing',
  level: 'blocker',
  docs: {
    title: 'Demanded fields are filled',
    why: 'A market refuses a row that lacks a must field.',
    source: 'RFC 2119 for the levels; the demand itself from the rulebook',
  },
  messages,
  prepareRow(category, say) {
    const asked = listAsked(category);
    // What is asked for only on a condition is empty in most rows; only the rest can say that a row lacks nothing.
    const fixed = asked.filter((a) => !a.isConditional);
    const others = asked.filter((a) => a.isConditional && a.trigger === undefined);
    return {
      fields: fixed.map((a) => a.key),
      run: judgeFields(category, fixed, say),
      always: judgeFields(category, others, say),
    };
  },
  prepareCells(category, say) {
    const asked = listAsked(category);
    return ({ attribute }) => {
      const asking = asked.flatMap((a) =>
        a.trigger?.key === attribute.key ? [{ mayAsk: a.trigger.mayAsk, judge: judgeFields(category, [a], say) }] : [],
      );
      if (asking.length === 0) return undefined;
      return (value, listing, out) => {
        for (const { mayAsk, judge } of asking) if (mayAsk(value)) judge(listing, nothing, out);
      };
    };
  },
});

const nothing: CheckContext = {};

interface Asked {
  key: string;
  levelFor: CompiledAttribute['levelFor'];
  remedies: Remedy[];
  because: string;
  isConditional: boolean;
  trigger: Trigger | undefined;
}

/** The one attribute whose value can make that a field is asked for, and which of its values may. */
interface Trigger {
  key: string;
  mayAsk: (value: Value) => boolean;
}

/** A field on one plain condition is judged where that value stands, so that rows without it are not asked. */
function findTrigger({ fixed, conditions }: CompiledAttribute): Trigger | undefined {
  const [only, ...more] = conditions;
  if (!only || more.length > 0 || fixed === 'must' || fixed === 'should') return undefined;
  const { when } = only;
  if ('is' in when) {
    const wanted = new Set(when.is);
    return {
      key: when.attribute,
      mayAsk: (v) => (typeof v === 'string' ? wanted.has(v) : v.some((x) => wanted.has(x))),
    };
  }
  if ('over' in when || ('filled' in when && when.filled)) return { key: when.attribute, mayAsk: () => true };
  return undefined;
}

function listAsked(category: CompiledCategory): Asked[] {
  const labels = new Map(category.attributes.map((a) => [a.attribute.key, a.attribute.label]));
  const labelOf = (k: string) => labels.get(k) ?? k;
  const codeLabel = (k: string, c: string) =>
    category.byKey.get(k)?.codes?.entries.find((e) => e.code === c)?.label ?? c;
  return category.attributes
    .filter((a) => a.strongest === 'must' || a.strongest === 'should')
    .map((a): Asked => {
      const key = a.attribute.key;
      const musts = a.conditions.filter((c) => c.level === 'must');
      return {
        key,
        levelFor: a.levelFor,
        remedies: [{ kind: a.codes ? 'choose' : 'fill', field: key }],
        because: musts.map((c) => c.why ?? describeCondition(c.when, labelOf, codeLabel)).join(' or '),
        isConditional: a.conditions.length > 0,
        trigger: findTrigger(a),
      };
    });
}

type SayMissing = Say<typeof messages>;
const judgeFields =
  (category: CompiledCategory, fields: readonly Asked[], say: SayMissing): RunRow =>
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
