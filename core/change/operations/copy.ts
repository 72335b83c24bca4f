import { z } from 'zod';
import type { Value } from '../../listing/values';
import { type FieldKind, toKept } from '../../product';
import { becomes, left, type OperationKind, ready, refuse } from './define';

const schema = z.strictObject({ do: z.literal('copy'), from: z.string() });
const numbers: ReadonlySet<FieldKind> = new Set(['money', 'number', 'integer']);
const texts: ReadonlySet<FieldKind> = new Set(['text', 'long-text']);

/** Whether what stands in a field of one kind may be written into one of another; each value is judged when it is. */
const canHold = (to: FieldKind, from: FieldKind): boolean =>
  to === from ||
  texts.has(to) ||
  (to === 'list' && texts.has(from)) ||
  (numbers.has(to) && numbers.has(from)) ||
  (to === 'identifier' && from === 'text') ||
  (to === 'measure' && (texts.has(from) || numbers.has(from)));

/** What stands in another field; nothing there leaves the cell as it is. */
export const copy: OperationKind<typeof schema> = {
  do: 'copy',
  schema,
  fits: () => true,
  prepare: ({ from }, field, book) => {
    if (from === '') return refuse({ is: 'nothing-given', part: 'from' });
    const source = book.get(from);
    if (!source) return refuse({ is: 'unknown-field', name: from });
    if (!canHold(field.kind, source.kind)) return refuse({ is: 'cannot-hold', field: field.label, from: source.label });
    const shape = (held: Value): Value =>
      field.kind === 'list'
        ? typeof held === 'string'
          ? [held]
          : held
        : typeof held === 'string'
          ? held
          : held.join(', ');
    return ready(
      (_, { values }) => {
        const held = values[from];
        return held === undefined || held.length === 0 ? left : becomes(toKept(field, shape(held)));
      },
      [from],
    );
  },
};
