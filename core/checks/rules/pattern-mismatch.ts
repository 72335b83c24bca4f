import { toItems } from '../../listing/values';
import { defineCheck } from '../define-check';

/** Codes and numbers of a fixed form are matched by machines; one sign off and they match nothing. */
export const patternMismatch = defineCheck({
  id: 'pattern-mismatch',
  level: 'blocker',
  docs: {
    title: 'Values have the form asked for',
    why: 'The market reads this field by machine.',
    source: 'patterns from the rulebook',
  },
  messages: { mismatch: '{{field}} holds “{{value}}”; it should be {{says}}.' },
  prepare(category, say) {
    const asked = category.attributes.flatMap((a) =>
      a.attribute.pattern && a.strongest !== 'unused'
        ? [{ key: a.attribute.key, says: a.attribute.pattern.says, regex: new RegExp(a.attribute.pattern.regex, 'u') }]
        : [],
    );
    if (asked.length === 0) return undefined;
    return (listing, _, out) => {
      for (const { key, says, regex } of asked)
        for (const item of toItems(listing.values[key]))
          if (!regex.test(item)) say(out, 'mismatch', key, item, { says }, [{ kind: 'fill', field: key }]);
    };
  },
});
