// Shouting, decoration and promotion: house rules that markets commonly check (common practice).

const decoration =
  /[★☆✓✔✦✪✰➤►▶◆◇■□●○♥♦♣♠©®™!]{2,}|[★☆✓✔✦✪✰➤►▶◆◇■□●○♥♦♣♠]|[~*#=_]{2,}|\p{Extended_Pictographic}(?<![©®™\d#*])/u;
const everyDecoration = new RegExp(decoration, 'gu');
// eslint-disable-next-line no-control-regex -- the question is exactly whether anything stands outside ASCII
const mayDecorate = /[^\x00-\x7f]|[!~*#=_]{2}/;

/** Every capital of any script is one of these units. */
const mayShout = /[A-Z\u00c0-\uffff]{5}/;

/** First symbol used as decoration, or undefined. A single trade mark sign is not decoration. */
export function findDecoration(text: string): string | undefined {
  if (!mayDecorate.test(text)) return undefined;
  return decoration.exec(text)?.[0];
}

/** The text without decoration, spaces made single. */
export function stripDecoration(text: string): string {
  let rest = text;
  // Taking one out may put two signs together that decorate then; each round is one pass over the text.
  while (findDecoration(rest) !== undefined) rest = rest.replace(everyDecoration, ' ');
  return rest.replace(/\s{2,}/g, ' ').trim();
}

/**
 * Words in capitals that shout: letters only, five or more, at least two of them in a row of words or making up half of
 * the text. Short capitals are sizes and model names.
 */
export function findShouting(text: string): string[] {
  if (!mayShout.test(text)) return [];
  const caps = text.match(/(?<![\p{L}\d])\p{Lu}{5,}(?![\p{L}\d])/gu);
  if (!caps) return [];
  const words = text.match(/\p{L}{2,}/gu) ?? [];
  return caps.length >= 2 || caps.length * 2 >= words.length ? caps : [];
}

/** Capitals brought down to words with a capital first letter. */
export const calmDown = (text: string): string =>
  text.replace(/(?<![\p{L}\d])(\p{Lu})(\p{Lu}{4,})(?![\p{L}\d])/gu, (_, a: string, b: string) => a + b.toLowerCase());

/** Letters beyond Latin, and the long s, which is a small letter of S beside s. */
const hasOddCase = /[\u017f\u0250-\uffff]/;

/** A finder of the first of the given words or phrases that stands whole in a text; the pattern is built once. */
export function createPhraseFinder(phrases: readonly string[]): (text: string) => string | undefined {
  if (phrases.length === 0) return () => undefined;
  const pattern = new RegExp(
    `(?<![\\p{L}\\d])(?:${phrases.map((w) => w.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')).join('|')})(?![\\p{L}\\d])`,
    'iu',
  );
  const small = phrases.map((w) => w.toLowerCase());
  return (text) => {
    // Nearly no text holds one: looking for the plain letters is many times as fast as the pattern, and misses nothing where
    // capitals and small letters are pairs.
    if (!hasOddCase.test(text)) {
      const folded = text.toLowerCase();
      if (!small.some((w) => folded.includes(w))) return undefined;
    }
    return pattern.exec(text)?.[0];
  };
}
