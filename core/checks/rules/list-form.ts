import { toItems, type Value } from '../../listing/values';
import { defineCheck } from '../define-check';
import type { Remedy } from '../finding';

const boxLine = /^\d+ x \S/;

/** Highlights are few and short; what is in the box is written "count x thing". */
export const listForm = defineCheck({
  id: 'list-form',
  level: 'blocker',
  docs: {
    title: 'Lists have the right number and form',
    why: 'What a market shows as a list has its own number and form of lines.',
    source: 'common practice; numbers from the rulebook',
  },
  messages: {
    tooFew: {
      why: 'The market shows a fixed number of lines, and leaves gaps where they are fewer.',
      level: 'caution',
      title: '{{field}}: too few entries',
      says: '{{field}}: only {{count}} given; {{market}} wants at least {{min}}.',
    },
    tooMany: {
      why: 'The market shows a fixed number of lines, and refuses more.',
      title: '{{field}}: too many entries',
      says: '{{field}}: {{count|entry|entries}}; {{market}} takes {{max}}.',
    },
    twice: {
      why: 'An entry counts once, and markets refuse lists that repeat one.',
      title: '{{field}} says the same twice',
      says: '{{field}} says “{{value}}” twice.',
    },
    boxForm: {
      why: 'Buyers and the market’s staff tick off what is in the box line by line.',
      title: '{{field}} is not “count x thing”',
      says: '{{field}} says “{{value}}”; write “count x thing”, such as “1 x lid”.',
    },
    pointEndsWithStop: {
      level: 'tip',
      title: '{{field}}: points end with a full stop',
      says: '{{field}}: the point “{{value}}” ends with a full stop; points are not sentences.',
    },
  },
  prepareValues(_, say) {
    return ({ attribute: a, strongest }) => {
      if (strongest === 'unused' || (a.type !== 'repeated-text' && a.type !== 'several-of')) return undefined;
      const { key, minItems: min = 0, maxItems: max = Infinity } = a;
      const isBox = a.textRules.includes('count-x-thing'),
        isPoint = a.textRules.includes('short-point');
      const set = (value: Value, safe: boolean): Remedy[] => [{ kind: 'set', field: key, value, safe }];
      return (value, out) => {
        const items = toItems(value);
        const put = (item: string, mended: string): Value => items.map((x) => (x === item ? mended : x));
        if (items.length === 0) return;
        if (items.length < min)
          say(out, 'tooFew', key, items, { count: items.length, min }, [{ kind: 'fill', field: key }]);
        if (items.length > max)
          say(out, 'tooMany', key, items, { count: items.length, max }, set(items.slice(0, max), false));
        const twin = items.length > 1 ? items.find((x, i) => items.indexOf(x) !== i) : undefined;
        if (twin !== undefined) say(out, 'twice', key, twin, {}, set([...new Set(items)], true));
        for (const item of items) {
          if (isBox && !boxLine.test(item)) {
            const { line, isSure } = toBoxLine(item);
            say(out, 'boxForm', key, item, {}, set(put(item, line), isSure));
          }
          if (isPoint && item.endsWith('.') && !item.endsWith('..'))
            say(out, 'pointEndsWithStop', key, item, {}, set(put(item, item.slice(0, -1)), true));
        }
      };
    };
  },
});

/** "2× lid" or "2 lid" as "2 x lid"; without a count it is taken to be one, which a person should look at. */
function toBoxLine(item: string): { line: string; isSure: boolean } {
  const read = /^(\d+)\s*[x×*]?\s*([^]+)$/iu.exec(item);
  if (!read) return { line: `1 x ${item}`, isSure: false };
  return { line: `${read[1]} x ${read[2]!.replace(/^[x×*]\s*/iu, '')}`, isSure: true };
}
