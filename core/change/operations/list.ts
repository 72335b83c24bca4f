import { z } from 'zod';
import { toItems } from '../../listing/values';
import { toKept } from '../../product';
import { foldLoosely } from '../../text';
import { becomes, left, type OperationKind, ready, refuse } from './define';

const entries = z.array(z.string().trim().min(1)).max(200);
const isList: OperationKind['fits'] = (field) => field.kind === 'list';
const fold = (items: readonly string[]): Set<string> => new Set(items.map(foldLoosely));

const addSchema = z.strictObject({ do: z.literal('add'), items: entries });
/** Entries at the end of a list; one that it has already, in whatever case, is not added again. */
export const add: OperationKind<typeof addSchema> = {
  do: 'add',
  schema: addSchema,
  fits: isList,
  prepare: ({ items }, field) => {
    if (items.length === 0) return refuse({ is: 'nothing-given', part: 'items' });
    const kept = toItems(toKept(field, items));
    return ready((held) => {
      const now = toItems(held),
        has = fold(now);
      const news = kept.filter((i) => !has.has(foldLoosely(i)));
      return news.length === 0 ? left : becomes([...now, ...news]);
    });
  },
};

const removeSchema = z.strictObject({ do: z.literal('remove'), items: entries });
/** Entries taken out of a list, in whatever case they stand there. */
export const remove: OperationKind<typeof removeSchema> = {
  do: 'remove',
  schema: removeSchema,
  fits: isList,
  prepare: ({ items }) => {
    if (items.length === 0) return refuse({ is: 'nothing-given', part: 'items' });
    const gone = fold(items);
    return ready((held) => {
      const now = toItems(held),
        rest = now.filter((i) => !gone.has(foldLoosely(i)));
      return rest.length === now.length ? left : becomes(rest.length === 0 ? null : rest);
    });
  },
};

const swapSchema = z.strictObject({ do: z.literal('swap'), from: z.string().trim(), to: z.string().trim() });
/** One entry of a list in place of another. */
export const swap: OperationKind<typeof swapSchema> = {
  do: 'swap',
  schema: swapSchema,
  fits: isList,
  prepare: ({ from, to }) => {
    if (from === '' || to === '') return refuse({ is: 'nothing-given', part: from === '' ? 'from' : 'to' });
    const old = foldLoosely(from),
      by = foldLoosely(to);
    return ready((held) => {
      const now = toItems(held);
      if (!now.some((i) => foldLoosely(i) === old)) return left;
      // Where it stands already it is not there twice.
      const rest = old === by ? now : now.filter((i) => foldLoosely(i) !== by);
      return becomes([...new Set(rest.map((i) => (foldLoosely(i) === old ? to : i)))]);
    });
  },
};
