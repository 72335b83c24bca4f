import { countCharacters, countUtf8Bytes, cutAtWord } from '../../text';
import { defineCheck } from '../define-check';

/** A text cut off in the market's results is a text nobody reads; most markets refuse it. */
export const textLength = defineCheck({
  id: 'text-length',
  level: 'blocker',
  docs: {
    title: 'Texts fit',
    why: 'Over-long texts are refused or cut off; over-short ones say nothing.',
    source: 'limits from the rulebook; bytes as in RFC 3629',
  },
  messages: {
    tooLong: '{{field}} has {{length}} characters; {{market}} takes {{max}}.',
    tooManyBytes: '{{field}} takes {{length}} bytes; {{market}} takes {{max}}.',
    tooShort: '{{field}} has {{length}} characters; {{market}} wants at least {{min}}.',
  },
  prepare(category, say) {
    const limited = category.attributes
      .filter(
        (a) =>
          a.strongest !== 'unused' &&
          (a.attribute.maxCharacters ?? a.attribute.maxBytes ?? a.attribute.minCharacters) !== undefined,
      )
      .map((a) => ({
        key: a.attribute.key,
        max: a.attribute.maxCharacters ?? Infinity,
        min: a.attribute.minCharacters ?? 0,
        bytes: a.attribute.maxBytes ?? Infinity,
      }));
    const judgeText = (
      key: string,
      text: string,
      a: (typeof limited)[number],
      isList: boolean,
      out: Parameters<typeof say>[0],
    ) => {
      // A text of n units has at most n characters and 3n bytes: most rows need no counting.
      if (text.length > a.max) {
        const length = countCharacters(text);
        if (length > a.max)
          say(
            out,
            'tooLong',
            key,
            text,
            { length, max: a.max },
            isList
              ? [{ kind: 'fill', field: key }]
              : [{ kind: 'set', field: key, value: cutAtWord(text, a.max), safe: false }],
          );
      }
      if (text.length * 3 > a.bytes) {
        const length = countUtf8Bytes(text);
        if (length > a.bytes)
          say(out, 'tooManyBytes', key, text, { length, max: a.bytes }, [{ kind: 'fill', field: key }]);
      }
      if (a.min > 0 && text.length < a.min * 2) {
        const length = countCharacters(text);
        if (length < a.min) say(out, 'tooShort', key, text, { length, min: a.min }, [{ kind: 'fill', field: key }]);
      }
    };
    return (listing, _, out) => {
      for (const a of limited) {
        const value = listing.values[a.key];
        if (value === undefined || value === '') continue;
        if (typeof value === 'string') judgeText(a.key, value, a, false, out);
        else for (const item of value) judgeText(a.key, item, a, true, out);
      }
    };
  },
});
