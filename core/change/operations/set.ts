import { z } from 'zod';
import { findCellFault, toKept } from '../../product';
import { becomes, type OperationKind, ready, refuse } from './define';

const schema = z.strictObject({ do: z.literal('set'), value: z.union([z.string(), z.array(z.string())]) });

/** The same value everywhere. */
export const set: OperationKind<typeof schema> = {
  do: 'set',
  schema,
  fits: () => true,
  prepare: ({ value }, field, book) => {
    if (value.length === 0) return refuse({ is: 'nothing-given', part: 'value' });
    const list = typeof value === 'string' && field.kind === 'list' ? [value] : value;
    const kept = toKept(field, list);
    const fault = findCellFault(book, field.key, kept, { kind: 'single' });
    return fault ? refuse({ is: 'value', field: field.label, fault, value }) : ready(() => becomes(kept));
  },
};
