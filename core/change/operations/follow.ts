import { z } from 'zod';
import { readMarketKey } from '../../product';
import { becomes, left, type OperationKind, ready } from './define';

const schema = z.strictObject({ do: z.literal('follow') });

/** What the catalog gives a listing, in place of what was typed for this market. */
export const follow: OperationKind<typeof schema> = {
  do: 'follow',
  schema,
  fits: (field) => readMarketKey(field.key) !== undefined && !isCategory(field.key),
  prepare: (_, field) => ready((_held, { given }) => (given ? becomes(given[field.key] ?? null) : left)),
};

const isCategory = (key: string): boolean => readMarketKey(key)?.attribute === 'category';
