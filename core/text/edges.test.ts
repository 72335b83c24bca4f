// Texts at the edges of what is found in them.
import { describe, expect, it } from 'vitest';
import { cutAtWord, findContact, findForbiddenTag } from '.';

describe('a contact', () => {
  const more = ` and more of the same${' word'.repeat(30)}`;
  it.each([
    [`a@b.de${more}`, { kind: 'mail', found: 'a@b.de' }],
    [`b.de${more}`, { kind: 'link', found: 'b.de' }],
    ['@b.de', { kind: 'link', found: 'b.de' }],
    [`a@${'b'.repeat(250)}.info`, { kind: 'mail', found: `a@${'b'.repeat(250)}.info` }],
    ['+12 34 56 789', { kind: 'phone', found: '+12 34 56 789' }],
  ])('%s', (text, found) => {
    expect(findContact(text)).toEqual(found);
  });
  it.each(['5 pieces@ 3.00', '+12 34 56 78', 'size 0 1 2 3 4 5 6'])('is none of %s', (text) => {
    expect(findContact(text)).toBeUndefined();
  });
});

describe('a tag that is not allowed', () => {
  const tag = (length: number) => `<a title="${'x'.repeat(length - 12)}">`;
  it('is shown whole up to eighty letters, and cut to as many', () => {
    expect(tag(80)).toHaveLength(80);
    expect(findForbiddenTag(`Pan ${tag(80)}`, [])).toBe(tag(80));
    expect(findForbiddenTag(`Pan ${tag(81)}`, [])).toBe(`${tag(81).slice(0, 79)}…`);
  });
});

describe('a text that is cut at a word', () => {
  it('keeps more than six tenths of what it may have, or is cut within a word', () => {
    expect(cutAtWord('1234567 9012', 10)).toBe('1234567');
    expect(cutAtWord('123456 89012', 10)).toBe('123456 890');
    expect(cutAtWord('1234567890', 10)).toBe('1234567890');
    expect(cutAtWord('1234567890 2', 10)).toBe('1234567890');
    expect(cutAtWord('🫖🫖🫖', 3)).toBe('🫖🫖🫖');
    expect(cutAtWord('🫖🫖🫖🫖', 3)).toBe('🫖🫖🫖');
  });
});
