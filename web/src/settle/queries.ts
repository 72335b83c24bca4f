import {
  listDispatches,
  listDispatchLines,
  listDrift,
  listingState,
  listRefusals,
  readDispatch,
  readShelf,
} from '@basileus/contract';
import { queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';
import { keepWithin } from '../api/keep';
import { oneOf } from '../ui/url';

export const dispatchesOnPage = 100,
  linesOnPage = 200,
  entriesOnPage = 200;

export const dispatchesQuery = (market: string, offset: number) =>
  queryOptions({
    queryKey: ['dispatches', market, offset],
    queryFn: () => call(listDispatches, { query: { market, offset, limit: dispatchesOnPage } }),
    placeholderData: keepWithin('dispatches', market),
  });

export const dispatchQuery = (id: number) =>
  queryOptions({ queryKey: ['dispatches', 'one', id], queryFn: () => call(readDispatch, { params: { id } }) });

const lineStates = ['', 'waiting', 'accepted', 'remarked', 'refused'] as const;
/** Lines of a dispatch in a state, or of a cause of refusal, `code.field`. */
export const linesQuery = (id: number, show: string, cause: string, offset: number) => {
  const [code = '', field = ''] = cause.split('.');
  return queryOptions({
    queryKey: ['dispatches', 'lines', id, show, cause, offset],
    queryFn: () =>
      call(listDispatchLines, {
        params: { id },
        query: { state: cause ? 'refused' : oneOf(lineStates, show), code, field, offset, limit: linesOnPage },
      }),
    placeholderData: keepWithin('dispatches', 'lines', id, show, cause),
  });
};

export const refusalsQuery = (id: number) =>
  queryOptions({ queryKey: ['dispatches', 'refusals', id], queryFn: () => call(listRefusals, { params: { id } }) });

/** What a market shows otherwise than it took it. */
export const driftQuery = (market: string, offset: number) =>
  queryOptions({
    queryKey: ['listings', 'drift', market, offset],
    queryFn: () => call(listDrift, { params: { market }, query: { offset, limit: entriesOnPage } }),
    placeholderData: keepWithin('listings', 'drift', market),
    enabled: market !== '' && market !== 'all',
  });

/** What stands on a market in one state. */
export const shelfQuery = (market: string, state: string, offset: number) =>
  queryOptions({
    queryKey: ['listings', 'shelf', market, state, offset],
    queryFn: () =>
      call(readShelf, {
        params: { market },
        query: { state: oneOf(['live', ...listingState.options], state), offset, limit: entriesOnPage },
      }),
    placeholderData: keepWithin('listings', 'shelf', market, state),
  });
