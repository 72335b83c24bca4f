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
  prepareCells(_, say) {
    return ({ attribute, strongest }) => {
      if (!attribute.pattern || strongest === 'unused') return undefined;
      const { key } = attribute,
        { says } = attribute.pattern,
        regex = new RegExp(attribute.pattern.regex, 'u');
      return (value, __, out) => {
        for (const item of toItems(value))
          if (!regex.test(item)) say(out, 'mismatch', key, item, { says }, [{ kind: 'fill', field: key }]);
      };
    };
  },
});
