// Entries of a list in one cell, however people divide them.
import { decodeEntities } from '../text';

/** Signs by which a person may say that entries are divided; line ends divide them always. */
export const listSeparators = ['|', ';', ',', '*', '/'] as const;

const isLink = /^https?:\/\//i,
  /** Between two links, whatever stands there. */
  betweenLinks = /[\s|;,*]+(?=https?:\/\/)/i,
  bullet = /^[•·▪‣◦–*-]\s+/u;

/** The entries of a cell: links wherever the next one begins, others by line and by the sign that divides them in this file. */
export function splitList(cell: string, separator: string): string[] {
  const parts = isLink.test(cell.trimStart())
    ? cell
        .trim()
        .split(betweenLinks)
        .map((link) => link.replace(/[|;,*\s]+$/, ''))
    : cell.split(/[\r\n]+/).flatMap((line) => line.trim().replace(bullet, '').split(separator));
  return parts.map((p) => p.trim()).filter((p) => p !== '');
}

/** Entries that a comma divides are short; texts with commas are not. */
const mostWords = 3;
/** The sign that divides the entries of a file's lists, by cells of theirs; a pipe where none speaks for itself. */
export function guessListSeparator(cells: readonly string[]): string {
  const texts = cells
    .map((c) => decodeEntities(c).trim())
    .filter((c) => c !== '' && !isLink.test(c) && !/[\r\n]/.test(c));
  const share = (sign: string): number => texts.filter((t) => t.includes(sign)).length / texts.length;
  if (texts.length === 0 || share('|') > 0) return '|';
  const clear = [';', '*'].find((sign) => share(sign) >= 1 / 3);
  if (clear !== undefined) return clear;
  const isShort = (text: string): boolean => text.split(',').every((p) => p.trim().split(/\s+/).length <= mostWords);
  return share(',') >= 0.5 && texts.every(isShort) ? ',' : '|';
}
