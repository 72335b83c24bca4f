// What can be wrong with a formula, and with one row of it, as facts. The sentences are made in `word.ts`.
import type { FormulaType } from './types';

/** A stretch of a formula, in characters from its beginning; `to` is the first that is no more part of it. */
export interface Place {
  from: number;
  to: number;
}

export type FormulaProblem =
  | { is: 'nothing' }
  | { is: 'too-long'; length: number; most: number }
  | { is: 'too-deep'; most: number }
  | { is: 'unclosed'; what: 'text' | 'field' | 'bracket' }
  | { is: 'unexpected'; found: string }
  | { is: 'value-missing'; after: string }
  | { is: 'comma-missing' }
  | { is: 'unknown-field'; name: string; near: string | null }
  | { is: 'unknown-function'; name: string; near: string | null }
  /** A word that is neither: the field that has it as its name, where one has. */
  | { is: 'unknown-word'; name: string; field: string | null }
  | { is: 'arguments'; function: string; given: number; least: number; most: number | null }
  | { is: 'type'; of: string; wanted: readonly FormulaType[]; found: FormulaType }
  | { is: 'branches'; one: FormulaType; other: FormulaType }
  /** It gives another value tomorrow, where what is worked out stays. */
  | { is: 'of-the-day' }
  | { is: 'result'; field: string; wanted: readonly FormulaType[]; found: FormulaType };

export interface FormulaFault {
  at: Place;
  problem: FormulaProblem;
}

/** Why a formula gave nothing for one row. */
export type RowFault =
  | { kind: 'divided-by-zero' }
  | { kind: 'no-number'; text: string }
  | { kind: 'no-day'; text: string }
  | { kind: 'no-measure'; text: string; unit: string | null }
  | { kind: 'out-of-range'; function: string; value: string }
  | { kind: 'result-too-long'; most: number };

/** Ends the working out of one row. Caught where the row is run; never leaves this folder. */
export class RowFailed extends Error {
  constructor(readonly fault: RowFault) {
    super(fault.kind);
  }
}

/** Ends the reading of a formula. Caught in `compile.ts`; never leaves this folder. */
export class FormulaFailed extends Error {
  constructor(readonly fault: FormulaFault) {
    super(fault.problem.is);
  }
}

export const fail = (at: Place, problem: FormulaProblem): never => {
  throw new FormulaFailed({ at, problem });
};
export const failRow = (fault: RowFault): never => {
  throw new RowFailed(fault);
};
