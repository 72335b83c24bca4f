import { listChoices, readChoice } from '@basileus/contract';
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
/** Choices that are kept under a name. */
export const namedChoicesQuery = queryOptions({ queryKey: ['choices'], queryFn: () => call(listChoices) });
