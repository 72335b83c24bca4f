import { type BulkShape, countBulk, listProducts, listRecipes, lookAtBulk } from '@basileus/contract';
import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';

export const rowsOnPage = 100;

/** What a change would do to all that is meant; asked anew whenever items change. */
export const bulkCountQuery = (bulk: BulkShape, isAsked: boolean) =>
  queryOptions({
    queryKey: ['products', 'bulk', 'count', bulk],
    queryFn: () => call(countBulk, { body: bulk }),
    enabled: isAsked,
    placeholderData: keepPreviousData,
    retry: false,
  });
export const bulkRowsQuery = (bulk: BulkShape, only: 'changed' | 'wrong' | 'same', from: number, isAsked: boolean) =>
  queryOptions({
    queryKey: ['products', 'bulk', 'rows', bulk, only, from],
    queryFn: () => call(lookAtBulk, { body: { ...bulk, only, from, limit: rowsOnPage } }),
    enabled: isAsked,
    placeholderData: keepPreviousData,
    retry: false,
  });
const samples = 3;
/** The first items of a choice, for showing what a formula gives. */
export const sampleQuery = (choice: number) =>
  queryOptions({
    queryKey: ['products', 'list', 'samples', choice],
    queryFn: () =>
      call(listProducts, {
        query: {
          search: '',
          category: '',
          brand: '',
          kind: '',
          lacks: '',
          import: 0,
          finding: '',
          sort: 'sku',
          direction: 'up',
          open: 'all',
          choice,
          offset: 0,
          limit: 40,
        },
      }),
    select: ({ rows }) => rows.filter((r) => r.kind !== 'family').slice(0, samples),
  });
export const recipesQuery = queryOptions({ queryKey: ['recipes'], queryFn: () => call(listRecipes) });
