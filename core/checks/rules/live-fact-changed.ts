import { isFilled, isSameValue, toText } from '../../listing/values';
import { defineCheck } from '../define-check';

/** The identity of a live item is not edited: buyers and reviews hang on it. */
export const liveFactChanged = defineCheck({
  id: 'live-fact-changed',
  level: 'blocker',
  docs: {
    title: 'The identity of a live item stays',
    why: 'Buyers and reviews hang on the entry; a different item is withdrawn and created anew.',
    source: 'common practice; protected fields from the rulebook',
  },
  messages: {
    changed: {
      title: '{{field}} changed on a live entry',
      says: '{{field}} is “{{value}}”, but the live entry has “{{live}}”; withdraw the entry and create it anew, or put the old value back.',
    },
  },
  prepareRow(category, say) {
    const kept = category.attributes.filter((a) => a.attribute.protectedWhenLive).map((a) => a.attribute.key);
    if (kept.length === 0) return undefined;
    return (listing, _, out) => {
      if (!listing.accepted) return;
      for (const key of kept) {
        const live = listing.accepted[key];
        if (isFilled(live) && !isSameValue(live, listing.values[key]))
          say(out, 'changed', key, listing.values[key], { live: toText(live) }, [
            { kind: 'set', field: key, value: live!, safe: false },
          ]);
      }
    };
  },
});
