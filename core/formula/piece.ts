// A piece of a formula made ready, and how it is taken for another type.
import { readDate } from '../quantity';
import { fail, type Place } from './fault';
import { type FormulaRow, type FormulaType, type Run, toWords } from './types';

/** A piece of a formula that can run. `words` gives it as text: a field as it is written, 12.50 and not 12.5. */
export interface Piece {
  type: FormulaType;
  at: Place;
  run: Run;
  words: (row: FormulaRow) => string;
  /** What a text says that stands in the formula itself. */
  literal?: string;
}

const writable: ReadonlySet<FormulaType> = new Set(['number', 'date', 'measure', 'yes-no', 'nothing']);
export const piece = (type: FormulaType, at: Place, run: Run): Piece => ({
  type,
  at,
  run,
  words: (row) => toWords(run(row)),
});

/** A piece as a type that is wanted; refuses what cannot be it. */
export function wantType(p: Piece, of: string, ...wanted: FormulaType[]): Piece {
  if (p.type === 'nothing' || wanted.includes(p.type)) return p;
  if (wanted.includes('date') && p.literal !== undefined) {
    const day = readDate(p.literal, 'day-first');
    if (day !== undefined) return piece('date', p.at, () => day);
  }
  if (wanted.includes('measure') && p.type === 'text') return { ...p, type: 'measure' };
  if (wanted.includes('text') && writable.has(p.type))
    return {
      ...p,
      type: 'text',
      run: (row) => {
        const words = p.words(row);
        return words === '' ? null : words;
      },
    };
  return fail(p.at, { is: 'type', of, wanted, found: p.type });
}
