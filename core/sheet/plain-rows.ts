// Rows of a sheet (ECMA-376 part 1, 18.3) as nearly every program writes them, and by a parser of XML where one does otherwise.

import { createPlainReader, isPlain, type LastTold, readEntities } from '../text/plain-xml';
import { join } from './properties';
import { type Attributes, createSax } from './zip-parts';

/** What takes the rows of a sheet, whoever reads them. */
export interface RowTaker {
  /** `r` is the row's number as it is written, where it is. */
  row: (r: string | undefined, isHidden: boolean) => void;
  cell: (reference: string | undefined, type: string | undefined, style: string | undefined, text: string) => void;
  end: () => void;
}

const rowHead = /[ \t\n]*<row((?: [A-Za-z_][\w:.]*="[^"<&\t\n\r]*")*) ?(\/?)>/y;
const cellHead =
  /<c(?: r="([A-Z]{1,3}\d{1,7})")?(?: s="(\d{1,9})")?(?: t="([A-Za-z]{1,9})")? ?(?:\/>|>(?:<f>[^<]*<\/f>)?(?:<v>([^<]*)<\/v>|<is><t(?: xml:space="preserve")?>([^<]*)<\/t><\/is>)<\/c>|><\/c>)/y;

/** Reads one plain row; see `createPlainReader`. */
function prepareRow(to: RowTaker): (text: string, at: number, end: number) => number {
  const cells: (string | undefined)[] = [];
  return (text, at, end) => {
    rowHead.lastIndex = at;
    const head = rowHead.exec(text);
    if (!head || namesTwice(head[1]!)) return -1;
    let next = rowHead.lastIndex;
    cells.length = 0;
    if (head[2] === '') {
      if (end < 0 || !isPlain(text.slice(next, end))) return -1;
      while (next < end) {
        cellHead.lastIndex = next;
        const cell = cellHead.exec(text);
        if (!cell) return -1;
        next = cellHead.lastIndex;
        cells.push(cell[1], cell[3], cell[2], cell[4] ?? cell[5] ?? '');
      }
      next = end + '</row>'.length;
    }
    to.row(/ r="([^"]*)"/.exec(head[1]!)?.[1], / hidden="(?:1|true)"/.test(head[1]!));
    for (let i = 0; i < cells.length; i += 4)
      to.cell(cells[i], cells[i + 1], cells[i + 2], join('', readEntities(cells[i + 3]!)));
    to.end();
    return next;
  };
}

/** What is told of rows that are left to the parser. */
interface RowHandlers {
  open: (name: string, a: Attributes) => void;
  text: (t: string) => void;
  close: (name: string) => void;
}
/** What is made of a row that is left to the parser. */
export function createRowHandlers(to: RowTaker): RowHandlers {
  let reference: string | undefined,
    type: string | undefined,
    style: string | undefined,
    text = '',
    isTaken = false;
  return {
    open: (name, a) => {
      if (name === 'row') to.row(a['r'], a['hidden'] === '1' || a['hidden'] === 'true');
      else if (name === 'c') {
        reference = a['r'];
        type = a['t'];
        style = a['s'];
        text = '';
      } else if (name === 'v' || name === 't') isTaken = true;
    },
    text: (t) => {
      if (isTaken) text = join(text, t);
    },
    close: (name) => {
      if (name === 'v' || name === 't') isTaken = false;
      else if (name === 'c') to.cell(reference, type, style, text);
      else if (name === 'row') to.end();
    },
  };
}

/** Takes the text of a sheet as it comes and hands its rows on. */
export function createRowReader(to: RowTaker, on = createRowHandlers(to)): (text: string, isLast: boolean) => void {
  const last: LastTold = { closed: '' };
  return createPlainReader('row', prepareRow(to), createSax(on, last), last);
}

/** An attribute that is there twice is a fault. */
function namesTwice(attributes: string): boolean {
  const names = attributes.match(/[^ "]+(?==")/g) ?? [];
  return new Set(names).size < names.length;
}
