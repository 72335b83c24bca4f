// Two ways of bringing texts to one form for comparing. What is the same under the first is the same word, however it was
// written; what is the same only under the second is worth a proposal, since a mark can make another word of it.

const dashBetweenLetters = /(?<=\p{L})[-_\u2010-\u2015](?=\p{L})/gu;
/** Scripts whose marks readers may leave off. A voicing mark (カ, ガ) or a vowel sign is no such mark. */
const markedLetter = /([\p{Script=Latin}\p{Script=Greek}\p{Script=Cyrillic}])\p{M}+/gu;

/**
 * The same word in another writing: width and composition (NFKC of UAX 15), case, spaces, and a dash between letters for a
 * space. Nothing that tells words apart is lost, so that values which are the same under it may be put for each other.
 */
export const fold = (text: string): string =>
  text.normalize('NFKC').toLowerCase().replace(dashBetweenLetters, ' ').replace(/\s+/gu, ' ').trim();

/**
 * A form for finding what is alike: as `fold`, and without punctuation and the marks on Latin, Greek and Cyrillic letters.
 * schön and schon are alike under it and are not the same word.
 */
export const foldLoosely = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(markedLetter, '$1')
    .normalize('NFC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}\p{M}]+/gu, ' ')
    .trim();
