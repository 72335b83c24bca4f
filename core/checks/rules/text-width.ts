import { fitWidths } from '../../text';
import type { Value } from '../../listing/values';
import { defineCheck } from '../define-check';
import type { Finding } from '../finding';

/** Japanese markets compare and sort by the very characters: ｶﾞﾗｽ is not ガラス to them. */
export const textWidth = defineCheck({
  id: 'text-width',
  level: 'blocker',
  docs: {
    title: 'Characters have the width asked for',
    why: 'The market takes each kind of character in one width only, and finds nothing that is written in the other.',
    source: 'widths from the rulebook; Unicode Standard Annex #11',
  },
  messages: {
    otherWidth: {
      title: '{{field}} holds characters in the other width',
      says: '{{field}} holds “{{found}}”, which {{market}} takes as “{{right}}”.',
    },
  },
  prepareValues(_, say) {
    return ({ attribute, strongest }) => {
      const { key, widths } = attribute;
      if (strongest === 'unused' || !widths) return undefined;
      const judge = (text: string, put: (fitted: string) => Value, out: Finding[]): void => {
        const fitted = fitWidths(text, widths);
        if (fitted === text) return;
        say(out, 'otherWidth', key, text, findFirst(text, fitted), [
          { kind: 'set', field: key, value: put(fitted), safe: true },
        ]);
      };
      return (value, out) => {
        if (typeof value === 'string') judge(value, (fitted) => fitted, out);
        else
          for (const item of value)
            judge(item, (fitted) => value.map((other) => (other === item ? fitted : other)), out);
      };
    };
  },
});

/** The first character that differs, and what takes its place; a letter and its voicing mark go together. */
function findFirst(text: string, fitted: string): { found: string; right: string } {
  let at = 0;
  while (text[at] === fitted[at]) at++;
  const marks = /^(?:\uff9e|\uff9f|\u3099|\u309a)/.test(text.slice(at + 1)) ? 2 : 1;
  return { found: text.slice(at, at + marks), right: fitted.slice(at, at + 1) };
}
