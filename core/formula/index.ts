export { compileFormula, type Formula, type FormulaResult } from './compile';
export { completeFormula, type Completion } from './complete';
export type { FormulaFault, FormulaProblem, Place, RowFault } from './fault';
export { findResultFault, toFieldValue } from './field';
export { type Argument, type FormulaFunction, formulaFunctions, raiseToEndingOf } from './functions';
export { formulaLimits } from './parse';
export { spellFields } from './spell';
export type { FormulaRow, FormulaType, Worked } from './types';
export { wordFormulaProblem, wordRowFault } from './word';
