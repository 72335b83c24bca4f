import { findForbiddenTag, stripForbiddenTags } from '../../text';
import { defineCheck } from '../define-check';
import type { Finding, Remedy } from '../finding';

/** Markup that the market does not take shows as litter, or stops the row. */
export const forbiddenHtml = defineCheck({
  id: 'forbidden-html',
  level: 'blocker',
  docs: {
    title: 'Only allowed markup',
    why: 'Tags beyond the allowed ones are refused.',
    source: 'tags from the rulebook',
  },
  messages: {
    tag: {
      title: '{{field}} holds markup that is not taken',
      says: '{{field}} holds {{tag}}; {{market}} takes {{allowed:list}} here.',
    },
    noMarkup: {
      title: '{{field}} holds markup that is not taken',
      says: '{{field}} holds {{tag}}; {{market}} takes no markup here.',
    },
  },
  prepareValues(_, say) {
    return ({ attribute: a, strongest }) => {
      if (strongest === 'unused' || !['text', 'long-text', 'html', 'repeated-text'].includes(a.type)) return undefined;
      const { key } = a;
      const tags = a.type === 'html' ? (a.tags ?? []) : [];
      const allowed = tags.map((t) => `<${t}>`);
      const judge = (text: string, remedy: () => Remedy, out: Finding[]): void => {
        const tag = findForbiddenTag(text, tags);
        if (!tag) return;
        if (allowed.length) say(out, 'tag', key, text, { tag, allowed }, [remedy()]);
        else say(out, 'noMarkup', key, text, { tag }, [remedy()]);
      };
      return (value, out) => {
        if (typeof value === 'string')
          judge(value, () => ({ kind: 'set', field: key, value: stripForbiddenTags(value, tags), safe: true }), out);
        else for (const item of value) judge(item, () => ({ kind: 'fill', field: key }), out);
      };
    };
  },
});
