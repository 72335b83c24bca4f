import { z } from 'zod';
import { becomes, left, type OperationKind, ready } from './define';

const schema = z.strictObject({ do: z.literal('clear') });

/** Nothing where something was. */
export const clear: OperationKind<typeof schema> = {
  do: 'clear',
  schema,
  fits: (field) => field.key !== 'title' && field.key !== 'stock',
  prepare: () => ready((held) => (held === undefined ? left : becomes(null))),
};
