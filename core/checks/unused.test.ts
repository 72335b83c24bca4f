// Where a category leaves a field empty, a value in it is wrong for that alone: no check says what is wrong with the value.
import { expect, it } from 'vitest';
import { type Condition, compileCategory, type RulebookAttribute } from '../rulebook';
import type { Value } from '../listing';
import { listing, smallRulebook } from '../tests/builders';
import { prepareChecks } from '.';

interface Demand {
  attribute: string;
  level: string;
  when?: Condition;
}
type Document = { attributes: RulebookAttribute[]; demands: Demand[]; tree: { key: string; demands?: Demand[] }[] };

/** The small rulebook with one attribute that pans may hold, or do not use. */
function judgeOne(attribute: Record<string, unknown>, level: 'may' | 'unused') {
  const book = smallRulebook((d) => {
    const document = d as unknown as Document;
    const mine = { label: 'Mine', group: 'all', ...attribute, key: 'mine' } as unknown as RulebookAttribute;
    document.attributes.push(mine);
    if (level === 'may') document.tree.find((n) => n.key === 'pans')!.demands!.push({ attribute: 'mine', level });
    const { slots } = (d as unknown as { forms: { slots: unknown[] }[] }).forms[0]!;
    slots.push({ key: 'mine', label: 'Mine', holds: { what: 'value', attribute: 'mine' } });
  });
  const judge = prepareChecks(compileCategory(book, 'pans')!);
  return (value: Value): string[] =>
    judge(listing({ mine: value }))
      .filter((f) => f.field === 'mine')
      .map((f) => `${f.check}/${f.message}`);
}

it.each<[string, Record<string, unknown>, Value]>([
  ['number-limits/under', { type: 'integer', min: '3' }, '2'],
  ['number-limits/over', { type: 'decimal', max: '3' }, '3.5'],
  ['number-limits/step', { type: 'integer', step: '6' }, '7'],
  ['number-limits/decimals', { type: 'decimal', decimals: 1 }, '7.25'],
  ['wrong-type/number', { type: 'decimal' }, 'much'],
  ['wrong-type/date', { type: 'date' }, 'soon'],
  ['wrong-type/single', { type: 'text' }, ['a', 'b']],
  ['value-not-allowed/unknown', { type: 'one-of', codes: 'material' }, 'xqz'],
  ['unit-not-accepted/foreign', { type: 'measure', units: ['cm'] }, '3 kg'],
  ['text-length/tooLong', { type: 'text', maxCharacters: 3 }, 'four'],
  ['text-length/tooShort', { type: 'text', minCharacters: 5 }, 'four'],
  ['text-length/tooManyBytes', { type: 'text', maxBytes: 3 }, 'four'],
  ['text-length/tooWide', { type: 'text', maxColumns: 3 }, 'four'],
  ['text-width/otherWidth', { type: 'text', widths: { latin: 'half' } }, 'Ａ'],
  ['text-rules/mail', { type: 'text', textRules: ['no-contact'] }, 'pans@hearth.example'],
  ['text-rules/promotion', { type: 'text', textRules: ['no-promotion'] }, 'The best price'],
  ['text-rules/decoration', { type: 'text', textRules: ['no-decoration'] }, 'A ★ pan'],
  ['text-rules/shouting', { type: 'text', textRules: ['no-shouting'] }, 'A HEAVY METAL PAN'],
  ['text-language/noLetter', { type: 'text', scripts: { en: ['Latin'] } }, 'ガラス'],
  ['forbidden-html/noMarkup', { type: 'text' }, 'A <b>pan</b>'],
  ['forbidden-html/tag', { type: 'html', tags: ['b'] }, 'A <i>pan</i>'],
  ['pattern-mismatch/mismatch', { type: 'text', pattern: { regex: '^A', says: 'an A' } }, 'B'],
  ['list-form/tooFew', { type: 'repeated-text', minItems: 2 }, ['one']],
  ['list-form/tooMany', { type: 'several-of', codes: 'colour', maxItems: 1 }, ['blk', 'blu']],
  ['identifier-wrong/checkDigit', { type: 'identifier', kinds: ['gtin-13'] }, '4006381333932'],
  ['file-form/separator', { type: 'repeated-text' }, ['Two|fold']],
])('%s is said of a field that is used, not of one that is not', (said, attribute, value) => {
  expect(judgeOne(attribute, 'may')(value)).toEqual([said]);
  expect(judgeOne(attribute, 'unused')(value)).toEqual(['unused-filled/filled']);
});
