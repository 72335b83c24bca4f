import { describe, expect, it } from 'vitest';
import { inLanguage } from './language';

describe('a text of a language', () => {
  it('is marked with it, and with the way it runs', () => {
    expect(inLanguage('sv')).toEqual({ lang: 'sv', dir: 'ltr' });
    expect(inLanguage('ar')).toEqual({ lang: 'ar', dir: 'rtl' });
    expect(inLanguage(undefined)).toEqual({});
  });
});
