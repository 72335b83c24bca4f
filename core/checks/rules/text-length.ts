import { countCharacters, countUtf8Bytes, cutAtWord } from '../../text';
import { defineCheck } from '../define-check';
import type { Finding } from '../finding';

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
      says: '{{field}} takes {{length|byte|bytes}}; {{market}} takes {{max}}.',
    },
    tooShort: {
      why: 'A text that is too short says nothing, and markets refuse it.',
      title: '{{field}} is too short',
      says: '{{field}} has {{length|character|characters}}; {{market}} wants at least {{min}}.',
    },
  },
  prepareValues(_, say) {
    return ({ attribute, strongest }) => {
      const { key, maxCharacters, maxBytes, minCharacters } = attribute;
      if (strongest === 'unused' || (maxCharacters ?? maxBytes ?? minCharacters) === undefined) return undefined;
      const max = maxCharacters ?? Infinity,
        min = minCharacters ?? 0,
        bytes = maxBytes ?? Infinity;
      const judge = (text: string, isList: boolean, out: Finding[]): void => {
        // A text of n units has n/2 to n characters and at most 3n bytes: most rows need no counting.
        if (text.length <= max && text.length * 3 <= bytes && text.length >= min * 2) return;
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
        const length = text.length * 3 > bytes ? countUtf8Bytes(text) : 0;
        if (length > bytes) say(out, 'tooManyBytes', key, text, { length, max: bytes }, [{ kind: 'fill', field: key }]);
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
