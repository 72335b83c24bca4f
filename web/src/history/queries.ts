import {
  listChangeSets,
  listHistory,
  lookAtPart,
  readChangeSet,
  readItemHistory,
  readReversal,
} from '@basileus/contract';
import { queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';
import { keepWithin } from '../api/keep';

export const setsOnPage = 100,
  cellsOnPage = 200,
  entriesOnPage = 200,
  changesOnPage = 100;

/** `by` is the name of one person; '' asks for all. */
export const changeSetsQuery = (by: string, offset: number) =>
  queryOptions({
    queryKey: ['products', 'change-sets', 'list', by, offset],
    queryFn: () => call(listChangeSets, { query: { by, offset, limit: setsOnPage } }),
    placeholderData: keepWithin('products', 'change-sets', 'list', by),
  });

export const changeSetQuery = (id: number, offset: number) =>
  queryOptions({
    queryKey: ['products', 'change-sets', id, offset],
    queryFn: () => call(readChangeSet, { params: { id }, query: { offset, limit: cellsOnPage } }),
    placeholderData: keepWithin('products', 'change-sets', id),
  });

/** What taking a set back would do, or some of its items: always asked anew, since others go on working. */
export const reversalQuery = (id: number, skus: readonly string[] = []) =>
  queryOptions({
    queryKey: ['products', 'change-sets', id, 'reversal', skus],
    queryFn: () =>
      skus.length === 0
        ? call(readReversal, { params: { id } })
        : call(lookAtPart, { params: { id }, body: { skus: [...skus] } }),
    staleTime: 0,
  });

export const historyQuery = (by: string, offset: number) =>
  queryOptions({
    queryKey: ['products', 'history', by, offset],
    queryFn: () => call(listHistory, { query: { by, offset, limit: entriesOnPage } }),
    placeholderData: keepWithin('products', 'history', by),
  });

export const itemHistoryQuery = (id: number, field: string, offset: number) =>
  queryOptions({
    queryKey: ['products', 'item-history', id, field, offset],
    queryFn: () => call(readItemHistory, { params: { id }, query: { field, offset, limit: changesOnPage } }),
    placeholderData: keepWithin('products', 'item-history', id, field),
  });
