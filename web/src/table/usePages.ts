import { keepPreviousData, useQueries, useQueryClient } from '@tanstack/react-query';
import { useCallback, useMemo, useRef, useState } from 'react';

const pageSize = 200;
interface PageOf<T> {
  total: number;
  rows: T[];
}

/** Rows of a long list, fetched in pages of 200 as they are seen; `key` names the list and its filters. */
export function usePages<T>(key: readonly unknown[], fetchPage: (offset: number, limit: number) => Promise<PageOf<T>>) {
  const client = useQueryClient();
  const [seen, setSeen] = useState({ first: 0, last: 0 });
  const pages = useMemo(() => {
    const from = Math.floor(seen.first / pageSize),
      to = Math.floor(seen.last / pageSize);
    return Array.from({ length: to - from + 1 }, (_, i) => from + i);
  }, [seen]);
  const optionsOf = (page: number) => ({
    queryKey: [...key, 'page', page],
    queryFn: () => fetchPage(page * pageSize, pageSize),
    staleTime: 30_000,
  });
  const results = useQueries({
    queries: (pages.length ? pages : [0]).map((page) => ({ ...optionsOf(page), placeholderData: keepPreviousData })),
  });
  // How many there are is known from any page that has come. Without it, a jump to a page that is still on its way would make
  // the table empty, which is seen from its top, which is here: back and forth without end.
  const known = useRef(0);
  const total = results.find((r) => r.data)?.data?.total ?? known.current;
  known.current = total;
  // Rows are looked up in the cache, which `stamp` speaks for.
  const stamp = (pages.length ? pages : [0])
    .map((page) => client.getQueryState([...key, 'page', page])?.dataUpdatedAt ?? 0)
    .join();
  const rowAt = useCallback(
    (index: number): T | undefined =>
      client.getQueryData<PageOf<T>>([...key, 'page', Math.floor(index / pageSize)])?.rows[index % pageSize],
    [client, JSON.stringify(key), stamp],
  );
  const onSeen = useCallback((first: number, last: number) => {
    setSeen((o) =>
      Math.floor(o.first / pageSize) === Math.floor(first / pageSize) &&
      Math.floor(o.last / pageSize) === Math.floor(last / pageSize)
        ? o
        : { first, last },
    );
  }, []);
  const loadRows = useCallback(
    async (first: number, last: number) => {
      const wanted: number[] = [];
      for (let p = Math.floor(first / pageSize); p <= Math.floor(last / pageSize); p++) wanted.push(p);
      await Promise.all(wanted.map((p) => client.ensureQueryData(optionsOf(p))));
    },
    [client, stamp, JSON.stringify(key)],
  );
  /** Rows of the pages that are seen, as far as they are here. */
  const seenRows = useMemo(
    () => pages.flatMap((page) => client.getQueryData<PageOf<T>>([...key, 'page', page])?.rows ?? []),
    [client, JSON.stringify(key), stamp, pages],
  );
  return {
    seenRows,
    total,
    rowAt,
    onSeen,
    loadRows,
    stamp,
    isLoading: results.every((r) => r.isLoading),
    error: results.find((r) => r.error)?.error ?? null,
    refetch: () => void client.invalidateQueries({ queryKey: key }),
  };
}
