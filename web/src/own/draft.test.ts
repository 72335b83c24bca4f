import { firstFields } from '@basileus/core/product';
import { describe, expect, it } from 'vitest';
import { emptyDraft, fromDraft, moveKey, toDraft, toLines } from './draft';

const colour = firstFields.fields.find((f) => f.key === 'colour')!;

describe('the form of a field', () => {
  it('sends a field that nobody has changed as it is', () => {
    const { key, by, language, ...said } = colour;
    expect([key, by, language]).toEqual(['colour', null, null]);
    expect(fromDraft(toDraft(colour))).toEqual(said);
  });
  it('sends nothing that another kind had', () => {
    const draft = { ...emptyDraft('Make'), label: ' Depth ', values: 'Deep\nShallow', unit: 'cm', shared: true };
    expect(fromDraft({ ...draft, kind: 'measure' })).toMatchObject({
      label: 'Depth',
      unit: 'cm',
      values: [],
      shared: false,
    });
    expect(fromDraft({ ...draft, kind: 'text' })).toMatchObject({
      unit: null,
      values: ['Deep', 'Shallow'],
      shared: true,
    });
    expect(fromDraft({ ...draft, group: ' ' }).group).toBe('More');
  });
  it('takes each line once', () => {
    expect(toLines(' Straight \n\nCurved\nStraight\n')).toEqual(['Straight', 'Curved']);
  });
  it('moves a field among those of its group only', () => {
    const keys = firstFields.fields.map((f) => f.key);
    const up = moveKey(firstFields.fields, 'country', -1);
    expect(up.indexOf('country')).toBe(keys.indexOf('net_weight'));
    expect(up.indexOf('net_weight')).toBe(keys.indexOf('country'));
    expect(moveKey(firstFields.fields, 'colour', -1)).toEqual(keys);
    expect(moveKey(firstFields.fields, 'author', 1).slice(keys.indexOf('author'), keys.indexOf('author') + 2)).toEqual([
      'pages',
      'author',
    ]);
  });
});
