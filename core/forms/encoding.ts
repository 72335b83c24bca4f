// Which characters a form's encoding can hold, and how many bytes they take there, so that what cannot be written is said
// of the listing and never stops a file. Source: WHATWG Encoding Standard, indexes windows-1252 and jis0208.
import type { Encoding } from '../rulebook/schema';
import { countUtf8Bytes } from '../text/length';
import { notXml } from './containers/xml';

/** Encodings as people name them. */
export const encodingNames: Readonly<Record<Encoding, string>> = {
  'utf-8': 'UTF-8',
  'utf-8-mark': 'UTF-8',
  'windows-1252': 'Windows-1252',
  shift_jis: 'Shift_JIS',
  'utf-16le': 'UTF-16 LE',
};

/** What windows-1252 holds beside Latin 1, at 0x80 to 0x9F. Five of its places stand for control characters. */
const windowsExtra = '€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ\u0081\u008d\u008f\u0090\u009d';
const notWindows1252 = new RegExp(`[^\\u0000-\\u007f\\u00a0-\\u00ff${windowsExtra}]`, 'u');
const plain = /^[\x20-\x7e]*$/;

/** What a text has to fit: an encoding, or the characters that XML knows. */
export type Written = Encoding | 'XML';

let ofShiftJis: ReadonlySet<string> | undefined;
/** All that two bytes of Shift_JIS stand for, as the runtime decodes them; made when it is first asked for. */
function listShiftJis(): ReadonlySet<string> {
  if (ofShiftJis) return ofShiftJis;
  const decoder = new TextDecoder('shift_jis');
  const pair = new Uint8Array(2);
  const found = new Set<string>();
  const leads = [...range(0x81, 0x9f), ...range(0xe0, 0xfc)],
    trails = [...range(0x40, 0x7e), ...range(0x80, 0xfc)];
  for (const lead of leads)
    for (const trail of trails) {
      pair[0] = lead;
      pair[1] = trail;
      const text = decoder.decode(pair);
      // Places for characters of one's own (U+E000 and on) mean something else to everybody.
      if (text.length === 1 && text !== '\ufffd' && !/[\ue000-\uf8ff]/.test(text)) found.add(text);
    }
  return (ofShiftJis = found);
}
const range = (from: number, to: number): number[] => Array.from({ length: to - from + 1 }, (_, i) => from + i);

const isNarrow = (c: string): boolean => c <= '\x7f' || (c >= '\uff61' && c <= '\uff9f');

function findNotShiftJis(text: string): string | undefined {
  const known = listShiftJis();
  for (const c of text) if (!isNarrow(c) && !known.has(c)) return c;
  return undefined;
}

/** The first character of a text that an encoding cannot hold; undefined where it holds all of them. */
export function findUnencodable(text: string, encoding: Written): string | undefined {
  if (plain.test(text)) return undefined;
  switch (encoding) {
    case 'windows-1252':
      return notWindows1252.exec(text)?.[0];
    case 'shift_jis':
      return findNotShiftJis(text);
    case 'XML':
      return notXml.exec(text)?.[0];
    default:
      return undefined;
  }
}

/** Bytes of a text in an encoding. What the encoding cannot hold counts as what would stand in its place. */
export function countBytes(text: string, encoding: Encoding): number {
  switch (encoding) {
    case 'utf-8':
    case 'utf-8-mark':
      return countUtf8Bytes(text);
    case 'utf-16le':
      return text.length * 2;
    case 'windows-1252':
      return [...text].length;
    case 'shift_jis': {
      let bytes = 0;
      for (const c of text) bytes += isNarrow(c) ? 1 : 2;
      return bytes;
    }
  }
}

/** What Shift_JIS has another character for that looks the same; common practice, after what Windows and Unix make of it. */
const lookAlikes: Readonly<Record<string, string>> = {
  '\u301c': '\uff5e',
  '\u2212': '\uff0d',
  '\u2014': '\u2015',
  '\u2016': '\u2225',
  '\u2013': '-',
  '\u00a0': ' ',
  '\u00a5': '\uffe5',
  '\u00a2': '\uffe0',
  '\u00a3': '\uffe1',
  '\u00ac': '\uffe2',
};

/** The text with look-alikes that an encoding holds, and composed or in plain width where that is all it needs. */
export function toEncodable(text: string, encoding: Encoding): string {
  if (encoding !== 'shift_jis') return text.normalize('NFKC');
  const composed = [...text.normalize('NFC')].map((c) => (findNotShiftJis(c) ? (lookAlikes[c] ?? c) : c)).join('');
  return [...composed].map((c) => (findNotShiftJis(c) ? c.normalize('NFKC') : c)).join('');
}
