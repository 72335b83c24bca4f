import { listSources, readSource, tryRules } from '@basileus/contract';
import type { SourceRules } from '@basileus/core/source';
import { queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';
import { keepWithin } from '../api/keep';

/** Business systems that are connected. */
export const sourcesQuery = queryOptions({ queryKey: ['sources'], queryFn: () => call(listSources) });
/** One business system with its last runs; not asked without a number. */
export const sourceQuery = (id: number) =>
  queryOptions({
    queryKey: ['sources', id],
    queryFn: () => call(readSource, { params: { id } }),
    enabled: id > 0,
  });
/** What the rows that are here become by some rules; `fetchedAt` tells one fetch from another. */
export const triedQuery = (
  id: number,
  rules: SourceRules,
  search: string,
  fetchedAt: string | null,
  isAsked: boolean,
) =>
  queryOptions({
    queryKey: ['sources', id, 'tried', rules, search, fetchedAt],
    queryFn: () => call(tryRules, { params: { id }, body: { rules, search } }),
    enabled: isAsked && fetchedAt !== null,
    retry: false,
    placeholderData: keepWithin('sources', id, 'tried'),
  });
