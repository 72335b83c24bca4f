import { type FillRequest, listCauses, previewFill, previewRemedies } from '@basileus/contract';
import type { CauseKey } from '@basileus/core/checks';
import { queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';
import { keepWithin } from '../api/keep';
import { keyOf } from './cause';

/** What of a market’s findings is looked at. */
export interface CauseFilter {
  search: string;
  brand: string;
  ownCategory: string;
  category: string;
  import: number;
}

export const causesQuery = (market: string, filter: CauseFilter) =>
  queryOptions({
    queryKey: ['listings', 'causes', market, filter],
    queryFn: () => call(listCauses, { params: { market }, query: filter }),
    enabled: market !== '',
    placeholderData: keepWithin('listings', 'causes', market),
  });

export const remediesQuery = (market: string, { check, message, field }: CauseKey) =>
  queryOptions({
    queryKey: ['listings', 'remedies', market, keyOf({ check, message, field })],
    queryFn: () => call(previewRemedies, { params: { market }, body: { check, message, field } }),
  });

/** What a value would do to the rows of a cause; not asked while there is none. */
export const fillQuery = (market: string, fill: Omit<FillRequest, 'value'> & { value: FillRequest['value'] | null }) =>
  queryOptions({
    queryKey: ['listings', 'fill', market, fill],
    queryFn: () => call(previewFill, { params: { market }, body: { ...fill, value: fill.value ?? '' } }),
    enabled: fill.value !== null,
  });
