// Long documents of XML are rows of like elements. Nearly every program writes these in the same plain way, which is read
// without a parser in a fraction of its time; what is written in any other way is left to the parser, one by one.

/** What a parser reads otherwise than it stands, or refuses; signs of two halves are left to it, which may lack one. */
const strange = /[^\t\n -\ud7ff\ue000-\ufffd]|\]\]>|&(?!(?:amp|lt|gt|quot|apos);)/;
const entities: Readonly<Record<string, string>> = {
  '&amp;': '&',
  '&lt;': '<',
  '&gt;': '>',
  '&quot;': '"',
  '&apos;': "'",
};
/** Characters of one element that are waited for; longer ones are the parser's. */
const longest = 4_000_000;

/** True for a text whose characters all stand for themselves, but for the five entities that XML knows (XML 1.0, 4.6). */
export const isPlain = (text: string): boolean => !strange.test(text);
export const readEntities = (text: string): string =>
  text.includes('&') ? text.replace(/&\w+;/g, (e) => entities[e] ?? e) : text;

/** What the parser that elements are left to has told last: the element that ended, '' after anything else. */
export interface LastTold {
  closed: string;
}

/**
 * Takes the text of a document as it comes. `read` is given the place of an `element` in a text and where its end tag stands
 * (-1 where there is none), and answers where the next one begins, or -1 where this one is not plain. Those, and what stands
 * before and after the elements, go to `parse`, in order, which notes in `last` what it told of.
 */
export function createPlainReader(
  element: string,
  read: (text: string, at: number, end: number) => number,
  parse: (text: string, isLast: boolean) => void,
  last: LastTold,
): (text: string, isLast: boolean) => void {
  const foot = `</${element}>`;
  let rest = '',
    isBetween = false;
  /**
   * Gives a piece to the parser, which stands between two elements where one ended with it and nothing else began: no comment
   * either, in which nothing is told. A declaration at the very beginning is over by then.
   */
  const leave = (piece: string): void => {
    last.closed = '';
    parse(piece, false);
    isBetween = last.closed === element && piece.endsWith('>') && !piece.includes('<!') && piece.lastIndexOf('<?') <= 0;
  };
  return (text, isLast) => {
    rest = rest === '' ? text : rest + text;
    let at = 0,
      end = rest.indexOf(foot);
    while (at < rest.length) {
      // Each letter is looked at once for it.
      if (end >= 0 && end < at) end = rest.indexOf(foot, at);
      if (isBetween) {
        // An element that is not whole yet is waited for.
        if (!isLast && end < 0 && rest.length - at < longest) break;
        const next = read(rest, at, end);
        if (next >= 0) {
          at = next;
          continue;
        }
      }
      const next = end < 0 ? rest.length : end + foot.length;
      leave(rest.slice(at, next));
      at = next;
    }
    rest = rest.slice(at);
    if (isLast) parse('', true);
  };
}
