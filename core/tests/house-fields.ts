// The fields of a house as it starts, and what the tests ask of them.
import { compileFields, firstFields } from '../product';
import { type Problem, wordProblem } from '../sheet';

export const fields = compileFields(firstFields);
/** A field that is there. */
export const fieldOf = (key: string) => {
  const found = fields.get(key);
  if (!found) throw new Error(`The house has no field ${key}`);
  return found;
};
export const sayProblem = (p: Pick<Problem, 'field' | 'value' | 'fact'>): string => wordProblem(p, fields);
