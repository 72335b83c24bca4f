// The functions of the language, a closed set.
import { choiceFunctions } from './choice';
import { dayFunctions } from './day';
import type { FormulaFunction } from './define';
import { listFunctions } from './list';
import { numberFunctions } from './number';
import { priceFunctions } from './price';
import { textFunctions } from './text';

export const formulaFunctions: readonly FormulaFunction[] = [
  ...choiceFunctions,
  ...textFunctions,
  ...numberFunctions,
  ...priceFunctions,
  ...dayFunctions,
  ...listFunctions,
];
const byName = new Map(formulaFunctions.map((f) => [f.name, f]));
export const getFormulaFunction = (name: string): FormulaFunction | undefined => byName.get(name.toLowerCase());
export type { FormulaFunction, Argument } from './define';
export { raiseToEndingOf } from './price';
