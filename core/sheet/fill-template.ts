// A market's own blank template filled: the part of one sheet gets rows, all else of the workbook stays byte for byte
// (ECMA-376 part 1, 18.3.1.80, sheetData).
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { readColumn, SheetError } from './bounds';
import { writeSheetRow } from './sheet-text';
import { createSax } from './zip-parts';

/** Bytes that a template may unpack to: it holds instructions and lists, no items. */
const mostUnpacked = 200_000_000;

/** Columns whose look is read. */
const mostStyled = 1000;

const damaged = (): SheetError =>
  new SheetError('damaged', 'The template cannot be filled: its sheet is written in a way that is not known.');

function readPart(parts: Readonly<Record<string, Uint8Array>>, name: string): string {
  const part = parts[name];
  if (!part) throw damaged();
  return strFromU8(part);
}

/** All parts of a workbook; one that pretends to be small is refused, not unpacked. */
function unpack(template: Uint8Array, most: number): Record<string, Uint8Array> {
  let size = 0;
  try {
    return unzipSync(template, {
      filter: ({ originalSize }) => {
        size += originalSize;
        if (size > most)
          throw new SheetError('too-large-inside', 'The template unpacks to far more than its size; it is not filled.');
        return true;
      },
    });
  } catch (error) {
    throw error instanceof SheetError ? error : damaged();
  }
}

const calculations = 'xl/calcChain.xml';
/**
 * In which order a workbook works out its formulas is a note that spreadsheet programs make anew; one that names cells which
 * are gone is taken for damage (ECMA-376 part 1, 12.3.1).
 */
function dropCalculations(parts: Record<string, Uint8Array>): void {
  if (!parts[calculations]) return;
  delete parts[calculations];
  for (const [name, entry] of [
    ['[Content_Types].xml', /<Override\b[^>]*calcChain\.xml[^>]*\/>/],
    ['xl/_rels/workbook.xml.rels', /<Relationship\b[^>]*calcChain\.xml[^>]*\/>/],
  ] as const)
    parts[name] = strToU8(readPart(parts, name).replace(entry, ''));
}

/** The part of a sheet by its name, as the workbook lists it. */
function findPart(parts: Readonly<Record<string, Uint8Array>>, sheet: string): string {
  let id: string | undefined;
  createSax({
    open: (n, a) => {
      if (n === 'sheet' && a['name'] === sheet) id = a['r:id'];
    },
  })(readPart(parts, 'xl/workbook.xml'), true);
  let target: string | undefined;
  createSax({
    open: (n, a) => {
      if (n === 'Relationship' && a['Id'] === id) target = a['Target'];
    },
  })(readPart(parts, 'xl/_rels/workbook.xml.rels'), true);
  if (id === undefined || target === undefined)
    throw new SheetError('no-sheet', `The template has no sheet “${sheet}” any more.`);
  return target.startsWith('/') ? target.slice(1) : `xl/${target}`;
}

/** Rows as the sheet has them, with their numbers from 1; a row that says none is the next one. */
function listRows(inner: string, prefix: string): { at: number; text: string }[] {
  const rows: { at: number; text: string }[] = [];
  const pattern = new RegExp(`<${prefix}row\\b[^>]*?(?:/>|>[\\s\\S]*?</${prefix}row>)`, 'g');
  let last = 0;
  for (const [text] of inner.matchAll(pattern)) {
    const said = /^<[^>]*?\sr="(\d+)"/.exec(text)?.[1];
    last = said === undefined ? last + 1 : Number(said);
    rows.push({ at: last, text });
  }
  return rows;
}

/** How the cells of a column look: as the first row to fill has them, else as the column has (18.3.1.13, col). */
function readStyles(before: string, firstRow: string): (column: number) => number | undefined {
  const styles = new Map<number, number>();
  for (const [tag] of before.matchAll(/<(?:\w+:)?col\b[^>]*\/?>/g)) {
    const at = (name: string): number => Number(new RegExp(`\\s${name}="(\\d+)"`).exec(tag)?.[1] ?? NaN);
    if (Number.isNaN(at('style'))) continue;
    // A column that is said of all the rest is said of as many as a form has, not of sixteen thousand.
    for (let c = at('min'); c <= Math.min(at('max'), mostStyled); c++) styles.set(c - 1, at('style'));
  }
  for (const [tag] of firstRow.matchAll(/<(?:\w+:)?c\b[^>]*>/g)) {
    const column = /\sr="([A-Z]{1,3})\d+"/.exec(tag)?.[1],
      style = /\ss="(\d+)"/.exec(tag)?.[1];
    if (column !== undefined && style !== undefined) styles.set(readColumn(column), Number(style));
  }
  return (column) => styles.get(column);
}

/**
 * Puts rows into a sheet of a template from a row on, counted from 0; what stood in that row and under it, examples of the
 * market, goes. All cells are texts, as they are in the sheet of a form.
 * @throws SheetError where the template has no such sheet, or cannot be filled.
 */
export function fillTemplate(
  template: Uint8Array,
  sheet: string,
  firstRow: number,
  rows: Iterable<readonly string[]>,
  most = mostUnpacked,
): Uint8Array<ArrayBuffer> {
  const parts = unpack(template, most);
  const path = findPart(parts, sheet);
  const text = readPart(parts, path);
  const found = /<((?:\w+:)?)sheetData\s*(?:\/>|>([\s\S]*)<\/\1sheetData>)/.exec(text);
  if (!found) throw damaged();
  const prefix = found[1]!;
  const there = listRows(found[2] ?? '', prefix);
  const styleAt = readStyles(text.slice(0, found.index), there.find((r) => r.at === firstRow + 1)?.text ?? '');
  const heads = there
    .filter((r) => r.at <= firstRow)
    .map((r) => r.text)
    .join('');
  dropCalculations(parts);
  let made = '',
    at = firstRow;
  for (const row of rows) made += writeSheetRow(++at, row, styleAt);
  if (prefix !== '') made = made.replace(/<(\/?)(row|c|is|t)(?=[\s>])/g, `<$1${prefix}$2`);
  const filled =
    text.slice(0, found.index) +
    `<${prefix}sheetData>${heads}${made}</${prefix}sheetData>` +
    text.slice(found.index + found[0].length);
  // The size that the sheet says of itself is that of the blank one; nobody needs it.
  parts[path] = strToU8(filled.replace(new RegExp(`<${prefix}dimension\\b[^>]*/>`), ''));
  return zipSync(parts);
}
