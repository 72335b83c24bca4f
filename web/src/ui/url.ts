import { useCallback } from 'react';
import { useSearchParams } from 'react-router';

/** What an address says, where it is one of the known values; the first of them otherwise. */
export const oneOf = <T extends string>(known: readonly [T, ...T[]], said: string): T =>
  known.find((k) => k === said) ?? known[0];

/** One value in the address bar; setting it to its default takes it out. */
export function useUrlValue(name: string, otherwise = ''): [string, (value: string) => void] {
  const [search, setSearch] = useSearchParams();
  const set = useCallback(
    (value: string) => {
      setSearch(
        (old) => {
          const next = new URLSearchParams(old);
          if (value === otherwise) next.delete(name);
          else next.set(name, value);
          return next;
        },
        { replace: true },
      );
    },
    [name, otherwise, setSearch],
  );
  return [search.get(name) ?? otherwise, set];
}
