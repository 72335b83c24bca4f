import { calmDown, createPhraseFinder, findContact, findDecoration, findShouting, stripDecoration } from '../../text';
import type { Value } from '../../listing/values';
import { defineCheck } from '../define-check';
import type { Finding, Remedy } from '../finding';

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
    link: {
      title: '{{field}} holds a link',
      says: '{{field}} holds the link {{found}}; texts may not lead away from {{market}}.',
    },
    mail: { title: '{{field}} holds a mail address', says: '{{field}} holds the mail address {{found}}; take it out.' },
    phone: {
      title: '{{field}} holds a telephone number',
      says: '{{field}} holds the telephone number {{found}}; take it out.',
    },
    promotion: {
      title: '{{field}} holds promotional words',
      says: '{{field}} says “{{found}}”; {{market}} refuses promotional words.',
    },
    decoration: {
      title: '{{field}} is decorated with symbols',
      says: '{{field}} holds {{found}} as decoration; take it out.',
    },
    shouting: {
      level: 'caution',
      title: '{{field}} shouts',
      says: '{{field}} shouts: {{found}}. Write it in small letters.',
    },
  },
  prepareValues(category, say) {
    const finderFor = prepareFinders(category.rulebook.text.promotionalWords);
    return ({ attribute, strongest }) => {
      const { key, textRules } = attribute;
      if (strongest === 'unused') return undefined;
      const judges: ((text: string, put: Put, out: Finding[]) => void)[] = [];
      const set = (value: Value, safe: boolean): Remedy[] => [{ kind: 'set', field: key, value, safe }];
      if (textRules.includes('no-contact'))
        judges.push((text, put, out) => {
          const contact = findContact(text);
          if (contact)
            say(
              out,
              contact.kind,
              key,
              text,
              { found: contact.found },
              set(put(withoutContact(text, contact.found)), false),
            );
        });
      const findPromotion = finderFor(attribute.facet?.language);
      if (textRules.includes('no-promotion'))
        judges.push((text, put, out) => {
          const found = findPromotion(text);
          if (found) say(out, 'promotion', key, text, { found }, set(put(withoutPhrase(text, found)), false));
        });
      if (textRules.includes('no-decoration'))
        judges.push((text, put, out) => {
          const found = findDecoration(text);
          if (found) say(out, 'decoration', key, text, { found }, set(put(stripDecoration(text)), true));
        });
      if (textRules.includes('no-shouting'))
        judges.push((text, put, out) => {
          const found = findShouting(text);
          if (found.length)
            say(out, 'shouting', key, text, { found: found.slice(0, 3).join(', ') }, set(put(calmDown(text)), true));
        });
      if (judges.length === 0) return undefined;
      // Points and contents are much alike from row to row: those of which there is nothing to say are remembered.
      const good = new Set<string>();
      const judgeItem = (text: string, put: Put, out: Finding[]): void => {
        if (good.has(text)) return;
        const before = out.length;
        for (const judge of judges) judge(text, put, out);
        if (out.length === before && text.length <= longestRemembered && good.size < mostRemembered) good.add(text);
      };
      return (value, out) => {
        if (typeof value === 'string') for (const judge of judges) judge(value, (mended) => mended, out);
        else for (const text of value) judgeItem(text, (mended) => value.map((t) => (t === text ? mended : t)), out);
      };
    };
  },
});

/** Finders of promotional words: those of a text's own language, or of all where nobody knows which it is in. */
function prepareFinders(
  words: readonly string[] | Readonly<Record<string, readonly string[]>>,
): (language: string | undefined) => (text: string) => string | undefined {
  const all = createPhraseFinder(isPlain(words) ? words : Object.values(words).flat());
  if (isPlain(words)) return () => all;
  const byLanguage = new Map(Object.entries(words).map(([l, w]) => [l, createPhraseFinder(w)]));
  return (language) => (language === undefined ? all : (byLanguage.get(language) ?? all));
}
const isPlain = (words: readonly string[] | Readonly<Record<string, readonly string[]>>): words is readonly string[] =>
  Array.isArray(words);

const longestRemembered = 200,
  mostRemembered = 2000;

/** The whole value with one of its texts mended. */
type Put = (mended: string) => Value;

const withoutContact = (text: string, contact: string): string =>
  text
    .replace(contact, '')
    .replace(/\s{2,}/g, ' ')
    .trim();

/** The text without a phrase, with the punctuation that is left over mended. */
const withoutPhrase = (text: string, phrase: string): string =>
  text
    .replace(phrase, '')
    .replace(/(?<!\s)\s+([,.;:!])/g, '$1')
    .replace(/^[\s,.;:!–-]+|(?<![\s,;:–-])[\s,;:–-]+$/gu, '')
    .replace(/\s{2,}/g, ' ');
