import { calmDown, createPhraseFinder, findContact, findDecoration, findShouting, stripDecoration } from '../../text';
import { toItems, type Value } from '../../listing/values';
import { defineCheck } from '../define-check';

/** Texts speak only of the item: no contacts, no promotion, no decoration, no shouting. */
export const textRules = defineCheck({
  id: 'text-rules',
  level: 'blocker',
  docs: {
    title: 'Texts speak only of the item',
    why: 'Markets refuse or hide rows whose texts advertise, decorate or shout.',
    source: 'common practice; the words from the rulebook',
  },
  messages: {
    link: '{{field}} holds the link {{found}}; texts may not lead away from {{market}}.',
    mail: '{{field}} holds the mail address {{found}}; take it out.',
    phone: '{{field}} holds the telephone number {{found}}; take it out.',
    promotion: '{{field}} says “{{found}}”; {{market}} refuses promotional words.',
    decoration: '{{field}} holds {{found}} as decoration; take it out.',
    shouting: { level: 'caution', text: '{{field}} shouts: {{found}}. Write it in small letters.' },
  },
  prepare(category, say) {
    const findPromotion = createPhraseFinder(category.rulebook.text.promotionalWords);
    const fields = category.attributes
      .filter((a) => a.attribute.textRules.length > 0 && a.strongest !== 'unused')
      .map(({ attribute: a }) => ({
        key: a.key,
        contact: a.textRules.includes('no-contact'),
        promotion: a.textRules.includes('no-promotion'),
        decoration: a.textRules.includes('no-decoration'),
        shouting: a.textRules.includes('no-shouting'),
      }));
    if (fields.length === 0) return undefined;
    return (listing, _, out) => {
      for (const f of fields) {
        const value = listing.values[f.key];
        for (const text of toItems(value)) {
          const put = (mended: string): Value =>
            typeof value === 'string' ? mended : toItems(value).map((t) => (t === text ? mended : t));
          if (f.contact) {
            const contact = findContact(text);
            if (contact)
              say(out, contact.kind, f.key, text, { found: contact.found }, [
                {
                  kind: 'set',
                  field: f.key,
                  value: put(
                    text
                      .replace(contact.found, '')
                      .replace(/\s{2,}/g, ' ')
                      .trim(),
                  ),
                  safe: false,
                },
              ]);
          }
          if (f.promotion) {
            const found = findPromotion(text);
            if (found)
              say(out, 'promotion', f.key, text, { found }, [
                { kind: 'set', field: f.key, value: put(takeOut(text, found)), safe: false },
              ]);
          }
          if (f.decoration) {
            const found = findDecoration(text);
            if (found)
              say(out, 'decoration', f.key, text, { found }, [
                { kind: 'set', field: f.key, value: put(stripDecoration(text)), safe: true },
              ]);
          }
          if (f.shouting) {
            const found = findShouting(text);
            if (found.length)
              say(out, 'shouting', f.key, text, { found: found.slice(0, 3).join(', ') }, [
                { kind: 'set', field: f.key, value: put(calmDown(text)), safe: true },
              ]);
          }
        }
      }
    };
  },
});

/** The text without a phrase, with the punctuation that is left over mended. */
const takeOut = (text: string, phrase: string): string =>
  text
    .replace(phrase, '')
    .replace(/\s+([,.;:!])/g, '$1')
    .replace(/^[\s,.;:!–-]+|[\s,;:–-]+$/gu, '')
    .replace(/\s{2,}/g, ' ');
