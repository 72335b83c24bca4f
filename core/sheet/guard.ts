// How programs keep a spreadsheet from making something else of a text: `="0123"`, and an apostrophe before it.

const asFormula = /^\s*="((?:[^"]|"")*)"\s*$/;

/** A text that was written as a formula which gives just that text (`="0952"`), as the text; any other cell as it is. */
export function openFormulaText(cell: string): string {
  // Most cells are not one, and there are millions.
  if (!cell.includes('="')) return cell;
  const text = asFormula.exec(cell)?.[1];
  return text === undefined ? cell : text.replaceAll('""', '"');
}

/** Without the apostrophe that keeps a text from being run as a formula. */
export const unguard = (text: string): string => text.replace(/^'(?=\s*[=+\-@\uff1d\uff0b\uff0d\uff20])/, '');

/** Without the apostrophe that makes a text of a code; a text of words may begin with one of its own. */
export const unguardCode = (code: string): string => code.replace(/^'(?=[\p{L}\d])/u, '');

/** Marks without width that come along with texts of web pages, and the end mark of old files; no value is meant to hold one. */
// eslint-disable-next-line no-control-regex
const unseen = /[\u001a\u200b\u2060\ufeff]/,
  everyUnseen = new RegExp(unseen, 'g');
/** A cell without what nobody sees. */
export const dropUnseen = (cell: string): string => (unseen.test(cell) ? cell.replace(everyUnseen, '') : cell);

/** The SKU of a cell, as it is looked for and kept. */
export const readSku = (cell: string): string => unguardCode(dropUnseen(cell).replaceAll('\u00ad', '').trim());
