import { RE2JS } from 're2js';
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
  messages: {
    mismatch: { title: '{{field}} has the wrong form', says: '{{field}} holds “{{value}}”; it should be {{says}}.' },
  },
  prepareValues(_, say) {
    return ({ attribute, strongest }) => {
      if (!attribute.pattern || strongest === 'unused') return undefined;
      const { key } = attribute,
        { says } = attribute.pattern,
        isOfForm = createMatcher(attribute.pattern.regex);
      return (value, out) => {
        for (const item of toItems(value))
          if (!isOfForm(item)) say(out, 'mismatch', key, item, { says }, [{ kind: 'fill', field: key }]);
      };
    };
  },
});

const mostRemembered = 2000;

/**
 * A pattern made ready by an engine that is linear in the text (RE2), whoever wrote it. Values repeat from row to row, so
 * that their answers are kept.
 */
function createMatcher(regex: string): (text: string) => boolean {
  const pattern = RE2JS.compile(regex);
  const known = new Map<string, boolean>();
  return (text) => {
    let answer = known.get(text);
    if (answer === undefined) {
      answer = pattern.matcher(text).find();
      if (text.length < 200 && known.size < mostRemembered) known.set(text, answer);
    }
    return answer;
  };
}
