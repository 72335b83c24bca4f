import type { FormulaRow, FormulaType, Run, Worked } from '../types';

export interface Argument {
  name: string;
  /** `any` takes whatever stands there. A text takes numbers, days, measures and yes or no as they are written. */
  type: FormulaType | 'any';
}

/** A function of the language: one of a closed set, with its example, which the tests work out. */
export interface FormulaFunction {
  name: string;
  group: 'Choice' | 'Text' | 'Numbers' | 'Prices' | 'Days' | 'Lists';
  takes: readonly Argument[];
  /** How many of what it takes must be given; all where it is not said. */
  least?: number;
  /** What it takes any number of further ones of. */
  further?: Argument;
  /** What it gives, where that hangs on what it is given. */
  gives: FormulaType | ((given: readonly FormulaType[]) => FormulaType);
  about: string;
  example: string;
  result: string;
  /** True where an empty argument does not make the result empty. */
  takesEmpty?: boolean;
  /** True where it asks which day it is. */
  readsDay?: boolean;
  work: (given: readonly Worked[], row: FormulaRow) => Worked;
  /** In place of `work`, for those that work out only what they need. */
  choose?: (given: readonly Run[], row: FormulaRow) => Worked;
}

export const argument = (name: string, type: Argument['type']): Argument => ({ name, type });

/** Of several the type that they share; texts where they differ in what can be written as one. */
export const shareType = (types: readonly FormulaType[]): FormulaType => {
  const real = [...new Set(types.filter((t) => t !== 'nothing'))];
  return real.length === 0 ? 'nothing' : real.length === 1 ? real[0]! : 'text';
};
