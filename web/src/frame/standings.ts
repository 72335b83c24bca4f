// How the items of a long table stand on each market, asked for page by page as they are seen.
import { listStandings } from '@basileus/contract';
import { useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { z } from 'zod';
import { call } from '../api/call';

export type Standing = z.output<typeof listStandings.response>['rows'][number];
const idsAtOnce = 200;

/** Finds how an item stands on a market, for the items that are seen; `stamp` changes when more is known. */
export function useStandings(ids: readonly number[]): {
  standingOf: (product: number, market: string) => Standing | undefined;
  stamp: string;
} {
  const pieces = Array.from({ length: Math.ceil(ids.length / idsAtOnce) }, (_, i) =>
    ids.slice(i * idsAtOnce, (i + 1) * idsAtOnce).join(','),
  );
  const found = useQueries({
    queries: pieces.map((piece) => ({
      queryKey: ['listings', 'standings', piece],
      queryFn: () => call(listStandings, { query: { ids: piece } }),
      staleTime: 30_000,
    })),
  });
  const stamp = found.map((f) => f.dataUpdatedAt).join();
  return useMemo(() => {
    const rows = new Map(found.flatMap((f) => f.data?.rows ?? []).map((r) => [`${r.product} ${r.market}`, r]));
    return { standingOf: (product, market) => rows.get(`${product} ${market}`), stamp };
    // What was found is told by its stamp.
  }, [stamp, pieces.join(';')]);
}
