// What bounds the values of an attribute, in words.
import { encodingNames } from '@basileus/core/forms';
import type { RulebookAttribute } from '@basileus/core/rulebook';

const rowsWords: Readonly<Record<RulebookAttribute['rows'], string>> = {
  all: '',
  head: 'once for a family',
  parent: 'of families only',
  sellable: 'of what is bought',
  variant: 'of variants only',
};
const kindWords = { katakana: 'kana', latin: 'letters', digits: 'digits', signs: 'signs', spaces: 'spaces' } as const;

/** In whose letters a text is; undefined where any do. */
function wordScripts({ scripts, facet }: RulebookAttribute, language: string): string | undefined {
  const [own, ...also] = scripts?.[facet?.language ?? language] ?? [];
  return own && `in ${own} letters${also.length > 0 ? ` (${also.join(', ')} among them)` : ''}`;
}

/** “kana and spaces in full width, letters in half”; undefined where any width does. */
function wordWidths({ widths }: RulebookAttribute): string | undefined {
  const of = (width: 'full' | 'half'): string =>
    Object.entries(kindWords)
      .filter(([kind]) => widths?.[kind as keyof typeof kindWords] === width)
      .map(([, word]) => word)
      .join(' and ')
      .replace(/ and (?=.* and )/g, ', ');
  const [full, half] = [of('full'), of('half')];
  return (
    [full && `${full} in full width`, half && `${half} in half width`].filter((w) => w !== '').join(', ') || undefined
  );
}

/** The limits of an attribute, each as a phrase; `language` is the market’s first. */
export function listLimits(a: RulebookAttribute, language: string): string[] {
  return [
    a.minCharacters && `at least ${a.minCharacters} characters`,
    a.maxCharacters && `at most ${a.maxCharacters} characters`,
    a.maxBytes && `at most ${a.maxBytes} bytes in ${encodingNames[a.bytesIn]}`,
    a.maxColumns && `at most ${a.maxColumns} columns`,
    a.pattern?.says,
    a.min && `from ${a.min}`,
    a.max && `to ${a.max}`,
    a.step && `in steps of ${a.step}`,
    wordScripts(a, language),
    wordWidths(a),
    a.minItems && `at least ${a.minItems} entries`,
    a.maxItems && `at most ${a.maxItems} entries`,
    rowsWords[a.rows],
    a.protectedWhenLive && 'kept once live',
    a.shared && 'the same in a family',
  ].filter((w): w is string => typeof w === 'string' && w !== '');
}
