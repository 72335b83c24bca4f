import { findForbiddenTag, stripForbiddenTags } from '../../text';
import { toItems } from '../../listing/values';
import { defineCheck } from '../define-check';

/** Markup that the market does not take shows as litter, or stops the row. */
export const forbiddenHtml = defineCheck({
  id: 'forbidden-html',
  level: 'blocker',
  docs: {
    title: 'Only allowed markup',
    why: 'Tags beyond the allowed ones are refused.',
    source: 'tags from the rulebook',
  },
  messages: { tag: '{{field}} holds {{tag}}; {{market}} takes {{allowed}} here.' },
  prepare(category, say) {
    const fields = category.attributes
      .filter(
        (a) => a.strongest !== 'unused' && ['text', 'long-text', 'html', 'repeated-text'].includes(a.attribute.type),
      )
      .map(({ attribute: a }) => ({ key: a.key, tags: a.type === 'html' ? (a.tags ?? []) : [], isText: true }));
    return (listing, _, out) => {
      for (const f of fields) {
        const value = listing.values[f.key];
        if (value === undefined) continue;
        for (const text of typeof value === 'string' ? [value] : toItems(value)) {
          const tag = findForbiddenTag(text, f.tags);
          if (tag)
            say(
              out,
              'tag',
              f.key,
              text,
              { tag, allowed: f.tags.length ? f.tags.map((t) => `<${t}>`).join(', ') : 'no markup' },
              typeof value === 'string'
                ? [{ kind: 'set', field: f.key, value: stripForbiddenTags(text, f.tags), safe: true }]
                : [{ kind: 'fill', field: f.key }],
            );
        }
      }
    };
  },
});
