// Markup, judged as a browser would read it: by the tokens of a real parser (parse5, HTML Living Standard 13.2.5), never by
// patterns. A tag that is opened and not closed is markup too: on the market's page the next ">" closes it.
import { type Token, Tokenizer } from 'parse5';
import sanitizeHtml from 'sanitize-html';

/** Tags that only shape a text: the most that a rulebook may allow. None of them loads, runs, links or takes input. */
export const harmlessTags: ReadonlySet<string> = new Set(
  'b blockquote br dd div dl dt em h1 h2 h3 h4 h5 h6 hr i li ol p small span strong sub sup table tbody td th thead tr u ul'.split(
    ' ',
  ),
);

interface Piece {
  start: number;
  end: number;
  /** Where the tag that begins it ends. */
  tagEnd: number;
}

/** What stands between these is no text of the item's: it goes with its tags. */
const withTheirContent = new Set(['script', 'style']);

/** Places of everything in a text that is markup and not one of the allowed tags without attributes. One pass. */
function listForbidden(text: string, allowed: readonly string[]): Piece[] {
  const found: Piece[] = [];
  let last = 0,
    unfinished = -1;
  let opened: { name: string; at: number } | undefined;
  const note = (token: { location: Token.Location | null }, isAllowed: boolean): void => {
    const { startOffset: start, endOffset: end } = token.location!;
    last = end;
    if (!isAllowed) found.push({ start, end, tagEnd: end });
  };
  const judge = (t: Token.TagToken, isEnd: boolean): void => {
    note(t, allowed.includes(t.tagName) && t.attrs.length === 0);
    if (isEnd && opened?.name === t.tagName) {
      found.splice(opened.at, Infinity, { ...found[opened.at]!, end: last });
      opened = undefined;
    } else if (!isEnd && opened === undefined && withTheirContent.has(t.tagName))
      opened = { name: t.tagName, at: found.length - 1 };
  };
  const skip = (t: Token.CommentToken | Token.DoctypeToken): void => {
    note(t, false);
  };
  const pass = (t: Token.CharacterToken): void => {
    last = t.location?.endOffset ?? last;
  };
  new Tokenizer(
    { sourceCodeLocationInfo: true },
    {
      onStartTag: (t) => {
        judge(t, false);
      },
      onEndTag: (t) => {
        judge(t, true);
      },
      onComment: skip,
      onDoctype: skip,
      onCharacter: pass,
      onWhitespaceCharacter: pass,
      onNullCharacter: pass,
      onEof: () => undefined,
      onParseError: ({ code }) => {
        if (code === 'eof-in-tag' || (code === 'eof-before-tag-name' && text.endsWith('</'))) unfinished = last;
      },
    },
  ).write(text, true);
  if (unfinished >= 0) {
    const start = text.indexOf('<', unfinished);
    found.push({ start: start < 0 ? unfinished : start, end: text.length, tagEnd: text.length });
  }
  return found;
}

const longestShown = 80,
  mostRounds = 10;

/**
 * True where every "<" of a text begins an allowed tag that is written in full and without attributes. Nearly all texts are
 * such; the rest, and only they, are read by the parser.
 */
function holdsOnly(text: string, allowed: readonly string[]): boolean {
  const tag = getTagPattern(allowed);
  for (let at = text.indexOf('<'); at >= 0; at = text.indexOf('<', tag.lastIndex)) {
    tag.lastIndex = at;
    if (!tag.test(text)) return false;
  }
  return true;
}

const tagPatterns = new WeakMap<readonly string[], RegExp>();
function getTagPattern(allowed: readonly string[]): RegExp {
  const known = tagPatterns.get(allowed) ?? new RegExp(`</?(?:${allowed.join('|') || '(?!)'})>`, 'iy');
  tagPatterns.set(allowed, known);
  return known;
}

/** First piece of markup in a text that is not among the allowed tags, or undefined. Attributes are never allowed. */
export function findForbiddenTag(text: string, allowed: readonly string[]): string | undefined {
  if (!text.includes('<') || holdsOnly(text, allowed)) return undefined;
  const [first] = listForbidden(text, allowed);
  if (!first) return undefined;
  const found = text.slice(first.start, first.tagEnd).trim();
  return found.length > longestShown ? `${found.slice(0, longestShown - 1)}…` : found;
}

/**
 * The text without markup other than the allowed tags, which lose their attributes. Where some are allowed the rest is
 * markup as well, so that "<" in it is written as a reference; where none is, what is left is the plain text.
 */
export function stripForbiddenTags(text: string, allowed: readonly string[]): string {
  if (allowed.length > 0)
    return sanitizeHtml(text, { allowedTags: [...allowed], allowedAttributes: {}, disallowedTagsMode: 'discard' });
  let rest = text;
  // Taking a piece out may put two halves together that are one then; a text made to do so without end loses its signs.
  for (let round = 0; round < mostRounds; round++) {
    const pieces = listForbidden(rest, []);
    if (pieces.length === 0) return rest;
    let kept = '',
      from = 0;
    for (const { start, end } of pieces) {
      kept += rest.slice(from, start);
      from = end;
    }
    rest = kept + rest.slice(from);
  }
  return rest.replaceAll('<', '');
}

/** Tags after which a reader begins a new line. */
const lineEnding = new Set('blockquote br dd div dl dt h1 h2 h3 h4 h5 h6 hr li ol p table tr ul'.split(' '));

/**
 * A marked-up text as people read it, line by line; undefined where it has no markup, or any that does more than shape it:
 * that is for a person to look at.
 */
export function toPlainText(text: string): string | undefined {
  if (!text.includes('<') || findForbiddenTag(text, [...harmlessTags]) !== undefined) return undefined;
  let plain = '',
    isMarked = false;
  const note = ({ tagName }: Token.TagToken): void => {
    isMarked = true;
    if (lineEnding.has(tagName)) plain += '\n';
  };
  const add = ({ chars }: Token.CharacterToken): void => {
    plain += chars;
  };
  const pass = (): void => undefined;
  new Tokenizer(
    {},
    {
      onStartTag: note,
      onEndTag: note,
      onComment: pass,
      onDoctype: pass,
      onCharacter: add,
      onWhitespaceCharacter: add,
      onNullCharacter: pass,
      onEof: pass,
    },
  ).write(text, true);
  if (!isMarked) return undefined;
  return plain
    .split('\n')
    .map((line) => line.trim().replace(/[ \t\f\r]+/g, ' '))
    .filter((line) => line !== '')
    .join('\n');
}
