import {
  findInMarket,
  listCategoryGroups,
  listFieldMap,
  listListings,
  listPlacing,
  listValueMap,
  readListing,
  readPlacing,
  trySource,
} from '@basileus/contract';
import type { MatchedBy } from '@basileus/core/listing';
import { queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';
import { keepWithin } from '../api/keep';

/** Own categories with what is placed, chosen and proposed. */
export const groupsQuery = (market: string) =>
  queryOptions({
    queryKey: ['listings', 'groups', market],
    queryFn: () => call(listCategoryGroups, { params: { market } }),
  });

/** What items without a category are thought to be, by category; those of one of ours where it is named. */
export const placingQuery = (market: string, own: string | undefined) =>
  queryOptions({
    queryKey: ['listings', 'placing', market, own],
    queryFn: () => call(readPlacing, { params: { market }, query: own === undefined ? {} : { own } }),
  });

export const placedOnPage = 50;
/** A page of the items that are thought to belong to one category. */
export const placedItemsQuery = (
  { market, own, leaf }: { market: string; own: string | undefined; leaf: string },
  offset: number,
) =>
  queryOptions({
    queryKey: ['listings', 'placed-items', market, own, leaf, offset],
    queryFn: () =>
      call(listPlacing, {
        params: { market },
        query: { ...(own === undefined ? {} : { own }), leaf, offset, limit: placedOnPage },
      }),
    placeholderData: keepWithin('listings', 'placed-items', market),
  });

/** What feeds the attributes of a market at a node of its tree. */
export const fieldMapQuery = (market: string, node: string) =>
  queryOptions({
    queryKey: ['listings', 'fields', market, node],
    queryFn: () => call(listFieldMap, { params: { market }, query: { node } }),
    placeholderData: keepWithin('listings', 'fields', market),
  });
/** What a formula gives for an attribute; asked once it can be worked out. */
export const sourceTrialQuery = (
  market: string,
  asked: { attribute: string; node: string; formula: string },
  isReady: boolean,
) =>
  queryOptions({
    queryKey: ['listings', 'try-source', market, asked],
    queryFn: () =>
      call(trySource, {
        params: { market, attribute: asked.attribute },
        body: { node: asked.node, formula: asked.formula },
      }),
    enabled: isReady,
    placeholderData: keepWithin('listings', 'try-source', market),
  });

export const valuesOnPage = 100;
export interface ValuesAsked {
  node: string;
  attribute: string;
  search: string;
  by: '' | MatchedBy;
}
/** A page of our values with what each becomes on a market. */
export const valueMapQuery = (market: string, asked: ValuesAsked, from: number, limit = valuesOnPage) =>
  queryOptions({
    queryKey: ['listings', 'values', market, asked, from, limit],
    queryFn: () => call(listValueMap, { params: { market }, query: { ...asked, from, limit } }),
    placeholderData: keepWithin('listings', 'values', market),
  });

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
