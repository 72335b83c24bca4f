import { describe, expect, it } from 'vitest';
import { mostRemembered, remember } from './remember';

describe('what is remembered of texts', () => {
  it('is worked out once for each, the empty answer too', () => {
    const asked: string[] = [];
    const trim = remember((text) => {
      asked.push(text);
      return text.trim();
    });
    expect([trim(' a'), trim('  '), trim(' a'), trim('  ')]).toEqual(['a', '', 'a', '']);
    expect(asked).toEqual([' a', '  ']);
  });
  it('is no more than some thousand, and what comes after them is worked out anew', () => {
    let asked = 0;
    const same = remember((text) => {
      asked++;
      return text;
    });
    for (let round = 0; round < 2; round++)
      for (let i = 0; i <= mostRemembered; i++) expect(same(String(i))).toBe(String(i));
    expect(asked).toBe(mostRemembered + 2);
  });
});
