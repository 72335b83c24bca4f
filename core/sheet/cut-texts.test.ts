// Texts that were cut on their way. Common practice, no source: lists of stock have thirty or forty letters for a name.
import { describe, expect, it } from 'vitest';
import { compileFields, firstFields } from '../product';
import { createCutJudge, isCutFrom } from './cut-texts';

const fields = compileFields(firstFields);
const whole = (n: number) => `Brindlewick Hearth Frying Pan ${n} cm, cast iron`;
const judge = (changes: { field: string; before: string | null; after: string | null }[]) => {
  const made = createCutJudge(fields);
  for (const c of changes) made.note([c]);
  return made.list();
};
const title = (before: string | null, after: string | null) => ({ field: 'title', before, after });

describe('a text', () => {
  it.each([
    ['Brindlewick Hearth Frying Pan', true],
    ['Brindlewick Hearth Frying Pan…', true],
    ['Brindlewick Hearth Fry...', true],
    ['Brindlewick Hearth Frying Pan 24 cm, cast iron', false],
    ['Brindlewick Hearth frying pan', false],
    ['Brindle', false],
    ['Brindlewick Pan', false],
    ['', false],
  ])('“%s” is cut: %s', (text, isCut) => {
    expect(isCutFrom(text, whole(24))).toBe(isCut);
  });
});

describe('the texts of a file', () => {
  it('are cut where most that would change have only the beginning of ours', () => {
    expect(
      judge([
        title(whole(20), whole(20).slice(0, 30)),
        title(whole(24), whole(24).slice(0, 30)),
        title(whole(28), 'Another name'),
        title(whole(32), whole(32).slice(0, 28)),
      ]),
    ).toEqual([{ field: 'title', rows: 3, of: 4, longest: 30 }]);
  });
  it('are not where few are, where they are new or longer, and in fields that are no texts', () => {
    const cut = title(whole(20), whole(20).slice(0, 30));
    expect(judge([cut, cut])).toEqual([]);
    expect(judge([cut, cut, cut, ...Array.from({ length: 4 }, () => title(whole(20), 'Another name'))])).toEqual([]);
    expect(judge([cut, cut, cut, ...Array.from({ length: 3 }, () => title(whole(20), 'Another name'))])).toHaveLength(
      1,
    );
    expect(judge(Array.from({ length: 5 }, () => title(null, 'Brindlewick Hearth')))).toEqual([]);
    expect(judge(Array.from({ length: 5 }, () => title(whole(20), `${whole(20)}, with a lid`)))).toEqual([]);
    expect(judge(Array.from({ length: 5 }, () => title(whole(20), null)))).toEqual([]);
    const code = { field: 'gtin', before: '9520000000017', after: '95200000000' };
    expect(judge([code, code, code])).toEqual([]);
  });
});
