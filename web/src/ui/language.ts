// How a text in another language is marked for browsers and screen readers, and which way it runs.
/** Languages that are written from right to left, of those that markets here use (Unicode, scripts Arabic and Hebrew). */
const fromRight: ReadonlySet<string> = new Set(['ar', 'fa', 'he', 'ur']);

/** Whether the page itself is read from the right to the left, by the language that its words are in. */
export const isRightToLeft = (): boolean => document.documentElement.dir === 'rtl';

/** The attributes of an element that holds a text of a language; none where it is not known. */
export const inLanguage = (language: string | undefined): { lang?: string; dir?: 'rtl' | 'ltr' } =>
  language === undefined ? {} : { lang: language, dir: fromRight.has(language) ? 'rtl' : 'ltr' };
