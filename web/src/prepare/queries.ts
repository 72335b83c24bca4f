import {
  findInMarket,
  listCategoryGroups,
  listFieldMap,
  listListings,
  listValueMap,
  readListing,
} from '@basileus/contract';
import { queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';

/** Own categories with what is placed, chosen and proposed. */
export const groupsQuery = (market: string) =>
  queryOptions({
    queryKey: ['listings', 'groups', market],
    queryFn: () => call(listCategoryGroups, { params: { market } }),
  });

export const fieldMapQuery = (market: string) =>
  queryOptions({ queryKey: ['listings', 'fields', market], queryFn: () => call(listFieldMap, { params: { market } }) });

export const valueMapQuery = (market: string) =>
  queryOptions({ queryKey: ['listings', 'values', market], queryFn: () => call(listValueMap, { params: { market } }) });

export const listingQuery = (market: string, id: number) =>
  queryOptions({
    queryKey: ['listings', 'one', market, id],
    queryFn: () => call(readListing, { params: { market, id } }),
  });

export const entriesOnPage = 50;
/** A page of items of which the market has an entry, by what is said of it. */
export const entriesQuery = (market: string, entry: 'found' | 'joined' | 'other', offset: number) =>
  queryOptions({
    queryKey: ['listings', 'entries', market, entry, offset],
    queryFn: () =>
      call(listListings, {
        params: { market },
        query: { entry, offset, limit: entriesOnPage },
      }),
  });

const leastLetters = 2;
/** Entries that the market itself knows; not asked for a single letter. */
export const lookUpQuery = (market: string, text: string) =>
  queryOptions({
    queryKey: ['look-up', market, text],
    queryFn: () => call(findInMarket, { params: { market }, query: { q: text } }),
    enabled: text.trim().length >= leastLetters,
  });
