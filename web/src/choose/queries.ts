import { listChoices, makeChoice, readChoice } from '@basileus/contract';
import type { Which } from '@basileus/core/choose';
import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';

/** A choice with how many items it means now; not asked without a number. */
export const choiceQuery = (id: number) =>
  queryOptions({
    queryKey: ['products', 'choice', id],
    queryFn: () => call(readChoice, { params: { id } }),
    enabled: id > 0,
    placeholderData: keepPreviousData,
  });
/** How many items are meant, whatever of them a table shows. */
export const meantQuery = (which: Which) =>
  queryOptions({
    queryKey: ['products', 'choice', 'meant', which],
    queryFn: async () => {
      const { id } = await call(makeChoice, { body: { which } });
      return (await call(readChoice, { params: { id } })).total;
    },
  });
/** Choices that are kept under a name. */
export const namedChoicesQuery = queryOptions({ queryKey: ['choices'], queryFn: () => call(listChoices) });
