// Which characters a form's encoding can hold, so that what cannot be written is said of the listing and never stops a
// file. Source: WHATWG Encoding Standard, index windows-1252.
import type { Encoding } from '../rulebook/schema';
import { notXml } from './containers/xml';

/** What windows-1252 holds beside Latin 1, at 0x80 to 0x9F. Five of its places stand for control characters. */
const windowsExtra = '€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ\u0081\u008d\u008f\u0090\u009d';
const notWindows1252 = new RegExp(`[^\\u0000-\\u007f\\u00a0-\\u00ff${windowsExtra}]`, 'u');
const plain = /^[\x20-\x7e]*$/;

/** What a text has to fit: an encoding, or the characters that XML knows. */
export type Written = Encoding | 'XML';

/** The first character of a text that an encoding cannot hold; undefined where it holds all of them. */
export function findUnencodable(text: string, encoding: Written): string | undefined {
  if (plain.test(text)) return undefined;
  switch (encoding) {
    case 'windows-1252':
      return notWindows1252.exec(text)?.[0];
    case 'XML':
      return notXml.exec(text)?.[0];
    default:
      return undefined;
  }
}
