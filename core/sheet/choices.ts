// The drop-downs of a sheet (data validations, ECMA-376 part 1, 18.3.1.32, and the same of the extension that refers to other
// sheets): of which cells, and the list itself or where it stands.
import { readColumn } from './bounds';
import { createSax } from './zip-parts';

/** Cells of one column, from row and column 0. */
export interface CellRange {
  /** The sheet; undefined for the one that speaks. */
  sheet: string | undefined;
  column: number;
  firstRow: number;
  lastRow: number;
}
export interface ColumnChoice {
  /** The first and the last column that it is of, from 0, and its first row. */
  from: number;
  to: number;
  firstRow: number;
  list: readonly string[] | CellRange;
}

const lastRowOfAll = 1_048_575;

/** Reads `Lists!$A$2:$A$9`, a quoted list, or a name that stands for one of these; undefined for anything that is worked out. */
export function readListSource(
  formula: string,
  names: ReadonlyMap<string, string>,
  depth = 0,
): ColumnChoice['list'] | undefined {
  const text = formula.trim().replace(/^=/, '');
  const quoted = /^"([^"]*)"$/.exec(text);
  if (quoted)
    return quoted[1]!
      .split(',')
      .map((t) => t.trim())
      .filter((t) => t !== '');
  const range = /^(?:(?:'((?:[^']|'')+)'|([^'!]+))!)?\$?([A-Z]{1,3})\$?(\d+)?(?::\$?([A-Z]{1,3})\$?(\d+)?)?$/.exec(
    text,
  );
  if (range) {
    const [, quotedSheet, plainSheet, column, first, lastColumn = column, last] = range;
    const isColumn = first === undefined && range[5] !== undefined;
    if (column !== lastColumn || (first === undefined && !isColumn)) return undefined;
    return {
      sheet: quotedSheet?.replace(/''/g, "'") ?? plainSheet,
      column: readColumn(column!),
      firstRow: first === undefined ? 0 : Number(first) - 1,
      lastRow: last !== undefined ? Number(last) - 1 : first === undefined ? lastRowOfAll : Number(first) - 1,
    };
  }
  const named = names.get(text.toLowerCase());
  return named === undefined || depth > 3 ? undefined : readListSource(named, names, depth + 1);
}

/** Takes the text of a sheet's part and hands on each drop-down in it. */
export function createChoiceReader(
  names: ReadonlyMap<string, string>,
  on: (choice: ColumnChoice) => void,
): (text: string, isLast: boolean) => void {
  let isList = false,
    formula = '',
    cells = '',
    taking: 'formula' | 'cells' | undefined;
  return createSax({
    open: (n, a) => {
      if (n === 'dataValidation') {
        isList = a['type'] === 'list';
        formula = '';
        cells = a['sqref'] ?? '';
      } else if (n === 'formula1') taking = 'formula';
      else if (n === 'sqref') taking = 'cells';
      else if (n === 'formula2') taking = undefined;
    },
    text: (t) => {
      if (taking === 'formula') formula += t;
      else if (taking === 'cells') cells += t;
    },
    close: (n) => {
      if (n === 'formula1' || n === 'sqref') taking = undefined;
      if (n !== 'dataValidation' || !isList) return;
      const list = readListSource(formula, names);
      if (list === undefined) return;
      for (const part of cells.trim().split(/\s+/)) {
        const at = /^\$?([A-Z]{1,3})\$?(\d+)(?::\$?([A-Z]{1,3})\$?\d+)?$/.exec(part);
        if (at) on({ from: readColumn(at[1]!), to: readColumn(at[3] ?? at[1]!), firstRow: Number(at[2]) - 1, list });
      }
    },
  });
}
