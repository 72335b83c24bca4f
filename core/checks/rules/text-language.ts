import { isFilled, toItems } from '../../listing/values';
import type { RulebookAttribute } from '../../rulebook/schema';
import { houseLanguage } from '../../product/house';
import { fold } from '../../text';
import { defineCheck } from '../define-check';
import type { Finding } from '../finding';

/** Shorter texts may well be the same in two languages: a name, a size. */
const shortestCompared = 12;

/** A text that is not in the language of its readers sells nothing. */
export const textLanguage = defineCheck({
  id: 'text-language',
  level: 'blocker',
  docs: {
    title: 'Texts are in their language',
    why: 'A text in another script is not read by those it is meant for.',
    source: 'scripts from the rulebook; Unicode Standard Annex #24 for the script of a letter',
  },
  messages: {
    noLetter: {
      title: '{{field}} is not in the letters of its readers',
      says: '{{field}} says “{{value}}”, without one {{script}} letter; {{market}} shows it to people who read {{script}}.',
    },
    strangeLetter: {
      title: '{{field}} holds letters that its readers do not read',
      says: '{{field}} holds “{{found}}”; {{market}} takes {{scripts:and}} letters here.',
    },
    sameText: {
      title: '{{field}} is the same as in another language',
      says: '{{field}} is the same text as {{other}}; each language needs its own.',
      level: 'caution',
      why: 'A text that was never translated is read by nobody in the other language.',
    },
  },
  prepareValues(category, say) {
    return ({ attribute, strongest }) => {
      const language = attribute.facet?.language ?? category.rulebook.market.languages[0]!;
      const scripts = attribute.scripts?.[language];
      if (strongest === 'unused' || !scripts) return undefined;
      const { key } = attribute;
      const [own] = scripts;
      const hasLetter = /\p{L}/u,
        hasOwn = new RegExp(`[${toClass(own!)}]`, 'u'),
        strange = new RegExp(
          `(?=\\p{L})[^${scripts.map(toClass).join('')}\\p{Script=Common}\\p{Script=Inherited}]`,
          'u',
        );
      const judge = (text: string, out: Finding[]): void => {
        const found = strange.exec(text)?.[0];
        if (hasLetter.test(text) && !hasOwn.test(text))
          say(out, 'noLetter', key, text, { script: own! }, [{ kind: 'fill', field: key }]);
        else if (found !== undefined)
          say(out, 'strangeLetter', key, text, { found, scripts }, [{ kind: 'fill', field: key }]);
      };
      return (value, out) => {
        for (const text of toItems(value)) judge(text, out);
      };
    };
  },
  prepareRow(category, say) {
    const pairs = listPairs(category.attributes.map((a) => a.attribute));
    if (pairs.length === 0) return undefined;
    const label = (a: RulebookAttribute): string => a.label;
    return ({ values }, _, out) => {
      for (const [first, second] of pairs) {
        const a = values[first.key],
          b = values[second.key];
        if (!isFilled(a) || !isFilled(b)) continue;
        const text = toItems(b!).join(' ');
        if (text.length >= shortestCompared && fold(text) === fold(toItems(a!).join(' ')))
          say(out, 'sameText', second.key, b, { other: label(first) }, [{ kind: 'fill', field: second.key }]);
      }
    };
  },
});

/** The characters of a script, for a class of a regular expression. */
const toClass = (script: string): string =>
  (script === 'Japanese' ? ['Han', 'Hiragana', 'Katakana'] : [script]).map((s) => `\\p{Script=${s}}`).join('');

/**
 * Texts of one attribute in two languages: that of the house, else the first, and each other. The other is the one that
 * somebody forgot to write.
 */
function listPairs(attributes: readonly RulebookAttribute[]): [RulebookAttribute, RulebookAttribute][] {
  const texts = attributes.filter(
    (a) => a.facet?.language !== undefined && ['text', 'long-text', 'html', 'repeated-text'].includes(a.type),
  );
  return texts.flatMap((second): [RulebookAttribute, RulebookAttribute][] => {
    const same = texts.filter((a) => a.facet!.of === second.facet!.of);
    const first = same.find((a) => a.facet!.language === houseLanguage) ?? same[0];
    return first === undefined || first === second ? [] : [[first, second]];
  });
}
