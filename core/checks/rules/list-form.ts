import { toItems } from '../../listing/values';
import { defineCheck } from '../define-check';

const boxLine = /^\d+ x \S/;

/** Highlights are few and short; what is in the box is written "count x thing". */
export const listForm = defineCheck({
  id: 'list-form',
  level: 'blocker',
  docs: {
    title: 'Lists have the right number and form',
    why: 'Markets show a fixed number of points.',
    source: 'common practice; numbers from the rulebook',
  },
  messages: {
    tooFew: { level: 'caution', text: '{{field}}: only {{count}} given; {{market}} wants at least {{min}}.' },
    tooMany: '{{field}} has {{count}} entries; {{market}} takes {{max}}.',
    twice: { level: 'caution', text: '{{field}} says “{{value}}” twice.' },
    boxForm: '{{field}} says “{{value}}”; write “count x thing”, such as “1 x lid”.',
    pointEndsWithStop: {
      level: 'tip',
      text: '{{field}}: the point “{{value}}” ends with a full stop; points are not sentences.',
    },
  },
  prepare(category, say) {
    const lists = category.attributes
      .filter(
        (a) => a.strongest !== 'unused' && (a.attribute.type === 'repeated-text' || a.attribute.type === 'several-of'),
      )
      .map(({ attribute: a }) => ({
        key: a.key,
        min: a.minItems ?? 0,
        max: a.maxItems ?? Infinity,
        box: a.textRules.includes('count-x-thing'),
        point: a.textRules.includes('short-point'),
      }));
    return (listing, _, out) => {
      for (const l of lists) {
        const items = toItems(listing.values[l.key]);
        if (items.length === 0) continue;
        if (items.length < l.min)
          say(out, 'tooFew', l.key, items, { count: items.length, min: l.min }, [{ kind: 'fill', field: l.key }]);
        if (items.length > l.max)
          say(out, 'tooMany', l.key, items, { count: items.length, max: l.max }, [
            { kind: 'set', field: l.key, value: items.slice(0, l.max), safe: false },
          ]);
        const twin = items.length > 1 ? items.find((x, i) => items.indexOf(x) !== i) : undefined;
        if (twin !== undefined)
          say(out, 'twice', l.key, twin, {}, [{ kind: 'set', field: l.key, value: [...new Set(items)], safe: true }]);
        if (l.box)
          for (const item of items)
            if (!boxLine.test(item)) {
              const read = /^(\d+)\s*[x×*]?\s*(.+)$/iu.exec(item);
              const mended = read ? `${read[1]} x ${read[2]!.replace(/^[x×*]\s*/iu, '')}` : `1 x ${item}`;
              say(out, 'boxForm', l.key, item, {}, [
                { kind: 'set', field: l.key, value: items.map((x) => (x === item ? mended : x)), safe: read !== null },
              ]);
            }
        if (l.point)
          for (const item of items)
            if (item.endsWith('.') && !item.endsWith('..'))
              say(out, 'pointEndsWithStop', l.key, item, {}, [
                { kind: 'set', field: l.key, value: items.map((x) => (x === item ? x.slice(0, -1) : x)), safe: true },
              ]);
      }
    };
  },
});
