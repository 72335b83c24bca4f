import { listMarkets } from '@basileus/contract';
import { queryOptions, useQueries, useQuery, type UseQueryResult } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useParams } from 'react-router';
import { call } from '../api/call';
import { readRulebook } from '@basileus/contract';
import type { Rulebook } from '@basileus/core/rulebook';
import { say } from '../ui/text';

export const marketsQuery = queryOptions({
  queryKey: ['markets'],
  queryFn: () => call(listMarkets),
  staleTime: 60_000,
});
export const rulebookQuery = (market: string) =>
  queryOptions({
    queryKey: ['markets', 'rulebook', market],
    queryFn: async () => (await call(readRulebook, { params: { market } })) as unknown as Rulebook,
    staleTime: 300_000,
    enabled: market !== '' && market !== 'all',
  });

export const stops = ['gather', 'prepare', 'check', 'send', 'settle'] as const;
export type Stop = (typeof stops)[number];
export const stopNames: Record<Stop, string> = {
  gather: say`Gather`,
  prepare: say`Prepare`,
  check: say`Check`,
  send: say`Send`,
  settle: say`Settle`,
};

/** The scope of the address: a market's key or “all”, and the market that a screen shows where it needs one. */
export function useScope() {
  const { scope = 'all' } = useParams();
  const markets = useQuery(marketsQuery).data?.rows ?? [];
  const isAll = scope === 'all';
  const market = isAll ? (markets[0]?.key ?? '') : scope;
  return { scope, market, isAll, markets, name: markets.find((m) => m.key === market)?.name ?? market };
}

const told = (results: UseQueryResult<Rulebook>[]): (Rulebook | undefined)[] => results.map((r) => r.data);
/** The rulebooks of all markets by their keys, where they are wanted; undefined for one that is not told yet. */
export function useRulebooks(isWanted = true): ReadonlyMap<string, Rulebook | undefined> {
  const { markets } = useScope();
  const books = useQueries({ queries: isWanted ? markets.map((m) => rulebookQuery(m.key)) : [], combine: told });
  return useMemo(
    () => new Map(isWanted ? markets.map((m, i) => [m.key, books[i]] as const) : []),
    [isWanted, markets, books],
  );
}
