import { listRates, readMarket } from '@basileus/contract';
import { queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';

export const connectionQuery = (market: string) =>
  queryOptions({
    queryKey: ['markets', 'connection', market],
    queryFn: () => call(readMarket, { params: { market } }),
  });

export const ratesQuery = queryOptions({
  queryKey: ['markets', 'rates'],
  queryFn: () => call(listRates),
  staleTime: 60_000,
});
