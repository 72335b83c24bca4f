import { z } from 'zod';
import { compileFormula, findResultFault, formulaLimits, toFieldValue } from '../../formula';
import { toKept } from '../../product';
import { becomes, left, type OperationKind, ready, refuse } from './define';

const schema = z.strictObject({ do: z.literal('formula'), formula: z.string().max(formulaLimits.characters * 2) });

/** What a formula gives; where it gives nothing the cell is left as it is. */
export const formula: OperationKind<typeof schema> = {
  do: 'formula',
  schema,
  fits: () => true,
  prepare: (given, field, book) => {
    const made = compileFormula(given.formula, book);
    if (!made.ok) return refuse({ is: 'formula', ...made.fault });
    const fault = findResultFault(made.formula.type, field, given.formula.length);
    if (fault) return refuse({ is: 'formula', ...fault });
    const { run, fields } = made.formula;
    return ready((_, { values, today }) => {
      const result = run({ values, today });
      if (!result.ok) return { is: 'fault', fault: result.fault };
      const value = toFieldValue(result.value, field);
      return value === null ? left : becomes(toKept(field, value));
    }, fields);
  },
};
