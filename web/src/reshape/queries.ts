import {
  type FamilyWanted,
  findFamiliesAmong,
  listProducts,
  lookAtFamily,
  lookAtRemoval,
  makeChoice,
  type Product,
} from '@basileus/contract';
import { everyItem, type Which } from '@basileus/core/choose';
import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';

/** What taking items out would do. */
export const removalQuery = (which: Which) =>
  queryOptions({
    queryKey: ['products', 'removal', which],
    queryFn: () => call(lookAtRemoval, { body: { which } }),
    retry: false,
  });

/** What putting items into a family would do. */
export const familyMoveQuery = (ids: readonly number[], family: FamilyWanted, isAsked: boolean) =>
  queryOptions({
    queryKey: ['products', 'family-move', ids, family],
    queryFn: () => call(lookAtFamily, { body: { ids: [...ids], family } }),
    enabled: isAsked,
    retry: false,
    placeholderData: keepPreviousData,
  });

/** Families that are found among items. */
export const familiesAmongQuery = (ids: readonly number[]) =>
  queryOptions({
    queryKey: ['products', 'families-among', ids],
    queryFn: () => call(findFamiliesAmong, { body: { ids: [...ids] } }),
    retry: false,
    staleTime: Infinity,
  });

/** Families that hold some words. */
export const familiesQuery = (search: string) =>
  queryOptions({
    queryKey: ['products', 'families', search],
    queryFn: async () =>
      (await call(listProducts, { query: { search, kind: 'family', limit: 8, offset: 0 } })).rows.map((r) => ({
        sku: r.sku,
        title: typeof r.fields['title'] === 'string' ? r.fields['title'] : '',
      })),
    placeholderData: keepPreviousData,
  });

const mostAtOnce = 200;
/** Some items as they stand now, in the order of the catalog. */
export const itemsQuery = (ids: readonly number[]) =>
  queryOptions({
    queryKey: ['products', 'some', ids],
    queryFn: async (): Promise<readonly Product[]> => {
      const { id } = await call(makeChoice, { body: { which: { ...everyItem, ids: [...ids] } } });
      return (await call(listProducts, { query: { choice: id, open: 'all', limit: mostAtOnce, offset: 0 } })).rows;
    },
  });
