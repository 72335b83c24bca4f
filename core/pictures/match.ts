// Pictures matched to items by what their files and folders are called, in the order in which they are counted. Common practice:
// a file begins with the SKU or the barcode, or lies in a folder of that name; the rest of its name counts, or says which view.
import { foldSku } from '../identifiers';

/** A link or a path, taken apart. */
export interface NamedPicture {
  link: string;
  /** What may name the item, the likeliest first: folded SKUs or barcodes, each with what is left of the name behind it. */
  candidates: { key: string; rest: string }[];
}

const leastKey = 2;
const isMark = (c: string): boolean => !/[\p{L}\p{M}\p{N}]/u.test(c);
const decode = (text: string): string => {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
};

/** The folders and the name of a link or path, decoded (RFC 3986), the name without its ending. */
function takeApart(link: string): { folders: string[]; stem: string } {
  const path = /^[a-z][a-z0-9+.-]*:\/\/[^/?#]*([^?#]*)/i.exec(link)?.[1] ?? link;
  const parts = path
    .split(/[/\\]/)
    .map(decode)
    .filter((p) => p !== '');
  const name = parts.pop() ?? '';
  return { folders: parts, stem: name.replace(/\.[A-Za-z]{3,4}$/, '') };
}

/** Beginnings of a name that end where a mark stands, the longest first. */
function listBeginnings(stem: string): { key: string; rest: string }[] {
  const found: { key: string; rest: string }[] = [];
  for (let end = stem.length; end > 0; end--) {
    if (end < stem.length && !isMark(stem[end]!)) continue;
    const key = foldSku(stem.slice(0, end));
    if (key.length >= leastKey) found.push({ key, rest: stem.slice(end) });
  }
  return found;
}

/** What may name the item of a picture: beginnings of the file's name, then the folders from the nearest on. */
export function namePicture(link: string): NamedPicture {
  const { folders, stem } = takeApart(link);
  const byFolder = folders
    .reverse()
    .map((folder) => ({ key: foldSku(folder), rest: stem }))
    .filter(({ key }) => key.length >= leastKey);
  return { link, candidates: [...listBeginnings(stem), ...byFolder] };
}

/** Words by which files say that they are to be seen first; common practice. */
const firstWords = new Set(['main', 'front', 'hero', 'primary', 'first', 'cover', 'packshot']);
/** Where in the order a picture stands by the rest of its name: what says nothing and what says “first”, then by number, then by word. */
export function placeOf(rest: string): { rank: number; number: number; word: string } {
  const word = rest
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
  const number = /\d+/.exec(word)?.[0];
  if (word.split(' ').some((w) => firstWords.has(w))) return { rank: 0, number: 0, word };
  if (word === '') return { rank: 1, number: 0, word };
  return number === undefined ? { rank: 3, number: 0, word } : { rank: 2, number: Number(number), word };
}
const compareRests = (a: string, b: string): number => {
  const x = placeOf(a),
    y = placeOf(b);
  return x.rank - y.rank || x.number - y.number || (x.word < y.word ? -1 : x.word > y.word ? 1 : 0);
};

export interface MatchedPictures {
  /** Links of each item, in their order. */
  bySku: Map<string, string[]>;
  unmatched: string[];
  /** Pictures whose name is that of several items. */
  unclear: { link: string; skus: readonly string[] }[];
}

/**
 * Gives each picture to the item that its name begins with, the longest beginning first. `skusOf` answers the SKUs of a key: those
 * that fold to it, or that carry it as their barcode. A link that stands twice counts once.
 */
export function matchPictures(
  pictures: readonly NamedPicture[],
  skusOf: (key: string) => readonly string[],
): MatchedPictures {
  const found = new Map<string, { link: string; rest: string }[]>();
  const unmatched: string[] = [],
    unclear: MatchedPictures['unclear'] = [];
  const seen = new Set<string>();
  for (const { link, candidates } of pictures) {
    if (seen.has(link)) continue;
    seen.add(link);
    const hit = candidates.find((c) => skusOf(c.key).length > 0);
    if (!hit) {
      unmatched.push(link);
      continue;
    }
    const [sku, ...others] = skusOf(hit.key);
    if (others.length > 0) unclear.push({ link, skus: skusOf(hit.key) });
    else (found.get(sku!) ?? found.set(sku!, []).get(sku!)!).push({ link, rest: hit.rest });
  }
  const bySku = new Map<string, string[]>();
  for (const [sku, own] of found)
    bySku.set(
      sku,
      // As they came, where their names say no order: a sort leaves such where they are (ECMA-262, since 2019).
      own.sort((a, b) => compareRests(a.rest, b.rest)).map((p) => p.link),
    );
  return { bySku, unmatched, unclear };
}
