import { findContradictions } from '../../listing/entry';
import { toText } from '../../listing/values';
import { defineCheck } from '../define-check';

/**
 * An item that a market has already is joined by an offer: a second entry of it is refused, and what the entry says must
 * agree with the goods, since that is what buyers go by. Common practice.
 */
export const marketEntry = defineCheck({
  id: 'market-entry',
  level: 'blocker',
  docs: {
    title: 'One entry an item, and of that item',
    why: 'Markets refuse a second entry of an item, and buyers send back what is not what the entry says.',
    source: 'common practice',
  },
  messages: {
    there: {
      title: '{{market}} has the item already',
      says: '{{market}} has an entry for {{value}}: {{number}}, “{{title}}”. Join it with an offer, or say that it is another item.',
    },
    otherItem: {
      title: '{{field}} of the entry is not that of our item',
      says: '{{field}} is “{{value}}”, but entry {{number}} is of “{{theirs}}”: it is another item.',
    },
    differs: {
      level: 'caution',
      title: 'The entry says another {{field}} than our item',
      says: '{{field}} is “{{value}}”, but entry {{number}} says “{{theirs}}”, and that is what buyers see.',
    },
  },
  prepareRow({ rulebook, isOffer }, say) {
    if (rulebook.operations.offer === undefined) return undefined;
    const { identifier, brand } = rulebook.roles;
    return ({ entry, values, accepted }, _, out) => {
      if (!entry) return;
      const { number, title, facts } = entry.there;
      if (!isOffer) {
        if (!accepted) say(out, 'there', identifier, values[identifier], { number, title });
        return;
      }
      for (const field of findContradictions(rulebook, facts, entry.ours))
        say(out, field === identifier || field === brand ? 'otherItem' : 'differs', field, entry.ours[field], {
          number,
          theirs: toText(facts[field]),
        });
    };
  },
});
