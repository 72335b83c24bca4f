import { type BulkShape, countBulk, listRecipes, lookAtBulk, readTrial, sampleItems } from '@basileus/contract';
import type { Which } from '@basileus/core/choose';
import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';
import { keepWithin } from '../api/keep';

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
    queryKey: ['products', 'bulk', 'rows', only, bulk, from],
    queryFn: () => call(lookAtBulk, { body: { ...bulk, only, from, limit: rowsOnPage } }),
    enabled: isAsked,
    placeholderData: keepWithin('products', 'bulk', 'rows', only),
    retry: false,
  });
/** The first items of a choice, on a market where one is named, for showing what a formula gives. */
export const sampleQuery = (which: Which, market: string) =>
  queryOptions({
    queryKey: ['products', 'bulk', 'samples', which, market],
    queryFn: () => call(sampleItems, { body: { which, market } }),
    select: ({ rows }) => rows,
  });
export const recipesQuery = queryOptions({ queryKey: ['recipes'], queryFn: () => call(listRecipes) });
/** How far a trial of all rows is; a step of its job makes it look again. Not asked without a number. */
export const trialQuery = (trial: number) =>
  queryOptions({
    queryKey: ['jobs', 'trial', trial],
    queryFn: () => call(readTrial, { params: { id: trial } }),
    enabled: trial > 0,
  });
