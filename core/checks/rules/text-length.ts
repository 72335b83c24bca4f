import { countBytes, encodingNames } from '../../forms/encoding';
import { countCharacters, countColumns, cutAtWord } from '../../text';
import { defineCheck } from '../define-check';
import type { Finding, Remedy } from '../finding';

/** A text cut off in the market's results is a text nobody reads; most markets refuse it. */
export const textLength = defineCheck({
  id: 'text-length',
  level: 'blocker',
  docs: {
    title: 'Texts fit',
    why: 'Markets refuse a text that is too long, or cut it off.',
    source: 'limits from the rulebook; bytes as in RFC 3629',
  },
  messages: {
    tooLong: {
      title: '{{field}} is too long',
      says: '{{field}} has {{length|character|characters}}; {{market}} takes {{max}}.',
    },
    tooManyBytes: {
      title: '{{field}} is too long in bytes',
      says: '{{field}} takes {{length|byte|bytes}} in {{encoding}}; {{market}} takes {{max}}.',
    },
    tooWide: {
      title: '{{field}} is too wide',
      says: '{{field}} takes {{length|column|columns}}, full-width characters counting two; {{market}} takes {{max}}.',
    },
    tooShort: {
      why: 'A text that is too short says nothing, and markets refuse it.',
      title: '{{field}} is too short',
      says: '{{field}} has {{length|character|characters}}; {{market}} wants at least {{min}}.',
    },
  },
  prepareValues(_, say) {
    return ({ attribute, strongest }) => {
      const { key, maxCharacters, maxBytes, bytesIn, maxColumns, minCharacters } = attribute;
      if (strongest === 'unused' || (maxCharacters ?? maxBytes ?? maxColumns ?? minCharacters) === undefined)
        return undefined;
      const max = maxCharacters ?? Infinity,
        min = minCharacters ?? 0,
        bytes = maxBytes ?? Infinity,
        columns = maxColumns ?? Infinity;
      const shorten = (text: string, isOneOfList: boolean, isShort: (text: string) => boolean): Remedy[] =>
        isOneOfList
          ? [{ kind: 'fill', field: key }]
          : [{ kind: 'set', field: key, value: cutUntil(text, isShort), safe: false }];
      const judge = (text: string, isList: boolean, out: Finding[]): void => {
        // A text of n units has n/2 to n characters and at most 3n bytes: most rows need no counting.
        if (text.length <= max && text.length * 3 <= bytes && text.length * 2 <= columns && text.length >= min * 2)
          return;
        const characters = countCharacters(text);
        if (characters > max)
          say(
            out,
            'tooLong',
            key,
            text,
            { length: characters, max },
            isList
              ? [{ kind: 'fill', field: key }]
              : [{ kind: 'set', field: key, value: cutAtWord(text, max), safe: false }],
          );
        const length = text.length * 3 > bytes ? countBytes(text, bytesIn) : 0;
        if (length > bytes)
          say(
            out,
            'tooManyBytes',
            key,
            text,
            { length, max: bytes, encoding: encodingNames[bytesIn] },
            shorten(text, isList, (t) => countBytes(t, bytesIn) <= bytes),
          );
        const wide = text.length * 2 > columns ? countColumns(text) : 0;
        if (wide > columns)
          say(
            out,
            'tooWide',
            key,
            text,
            { length: wide, max: columns },
            shorten(text, isList, (t) => countColumns(t) <= columns),
          );
        if (characters < min)
          say(out, 'tooShort', key, text, { length: characters, min }, [{ kind: 'fill', field: key }]);
      };
      return (value, out) => {
        if (typeof value === 'string') judge(value, false, out);
        else for (const item of value) judge(item, true, out);
      };
    };
  },
});

/** The longest beginning of a text that is short enough, cut at a word where there is one near its end. */
function cutUntil(text: string, isShort: (text: string) => boolean): string {
  const characters = [...text];
  let low = 0,
    high = characters.length;
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (isShort(characters.slice(0, middle).join(''))) low = middle;
    else high = middle - 1;
  }
  return cutAtWord(text, low);
}
