import {
  listClockWork,
  listImports,
  listJobs,
  listProductFacets,
  listProducts,
  readOverview,
} from '@basileus/contract';
import { queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';

export const overviewQuery = (market: string) =>
  queryOptions({ queryKey: ['overview', market], queryFn: () => call(readOverview, { query: { market } }) });

export const clockWorkQuery = queryOptions({
  queryKey: ['overview', 'by the clock'],
  queryFn: () => call(listClockWork),
});

const jobsEveryMs = 20_000;
export const jobsQuery = queryOptions({
  queryKey: ['jobs'],
  queryFn: () => call(listJobs),
  refetchInterval: jobsEveryMs,
});

/** Brands, own categories and the number of items of the catalog. */
export const facetsQuery = queryOptions({ queryKey: ['products', 'facets'], queryFn: () => call(listProductFacets) });
export const importsQuery = queryOptions({ queryKey: ['imports'], queryFn: () => call(listImports) });

const mostFound = 8,
  leastLetters = 2;
/** Items that the palette finds for what was typed; not asked for a single letter. */
export const foundQuery = (text: string) =>
  queryOptions({
    queryKey: ['products', 'palette', text],
    queryFn: () => call(listProducts, { query: { search: text, limit: mostFound } }),
    enabled: text.trim().length >= leastLetters,
  });
