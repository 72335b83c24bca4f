// What bounds the values of an attribute, in words.
import { encodingNames } from '@basileus/core/forms';
import type { RulebookAttribute } from '@basileus/core/rulebook';
import { say } from '../ui/text';

const rowsWords: Readonly<Record<RulebookAttribute['rows'], string>> = {
  all: '',
  head: say`once for a family`,
  parent: say`of families only`,
  sellable: say`of what is bought`,
  variant: 'of variants only',
};
const kindWords = { katakana: 'kana', latin: 'letters', digits: 'digits', signs: 'signs', spaces: 'spaces' } as const;

/** In whose letters a text is; undefined where any do. */
function wordScripts({ scripts, facet }: RulebookAttribute, language: string): string | undefined {
  const [own, ...also] = scripts?.[facet?.language ?? language] ?? [];
  return own && say`in ${own} letters${also.length > 0 ? say` (${also.join(', ')} among them)` : ''}`;
}

/** “kana and spaces in full width, letters in half”; undefined where any width does. */
function wordWidths({ widths }: RulebookAttribute): string | undefined {
  const of = (width: 'full' | 'half'): string =>
    Object.entries(kindWords)
      .filter(([kind]) => widths?.[kind as keyof typeof kindWords] === width)
      .map(([, word]) => word)
      .join(say` and `)
      .replace(/ and (?=.* and )/g, ', ');
  const [full, half] = [of('full'), of('half')];
  return (
    [full && say`${full} in full width`, half && say`${half} in half width`].filter((w) => w !== '').join(', ') ||
    undefined
  );
}

/** The limits of an attribute, each as a phrase; `language` is the market’s first. */
export function listLimits(a: RulebookAttribute, language: string): string[] {
  return [
    a.minCharacters && say`at least ${a.minCharacters} characters`,
    a.maxCharacters && say`at most ${a.maxCharacters} characters`,
    a.maxBytes && say`at most ${a.maxBytes} bytes in ${encodingNames[a.bytesIn]}`,
    a.maxColumns && say`at most ${a.maxColumns} columns`,
    a.pattern?.says,
    a.min && say`from ${a.min}`,
    a.max && say`to ${a.max}`,
    a.step && say`in steps of ${a.step}`,
    wordScripts(a, language),
    wordWidths(a),
    a.minItems && say`at least ${a.minItems} entries`,
    a.maxItems && say`at most ${a.maxItems} entries`,
    rowsWords[a.rows],
    a.protectedWhenLive && say`kept once live`,
    a.shared && say`the same in a family`,
  ].filter((w): w is string => typeof w === 'string' && w !== '');
}
