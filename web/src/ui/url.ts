import { useCallback } from 'react';
import { useNavigate, useSearchParams } from 'react-router';

/** What an address says, where it is one of the known values; the first of them otherwise. */
export const oneOf = <T extends string>(known: readonly [T, ...T[]], said: string): T =>
  known.find((k) => k === said) ?? known[0];

/**
 * What the address is about to say: it is written a moment after it is asked for, and the page hears of it later still. What
 * is set meanwhile builds on this, or the first of two filters that are set one right after the other would be lost.
 */
let coming: string | undefined;
const currentSearch = (): URLSearchParams => new URLSearchParams(coming ?? window.location.search);

/** One value in the address bar; setting it to its default takes it out. */
export function useUrlValue(name: string, otherwise = ''): [string, (value: string) => void] {
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const set = useCallback(
    (value: string) => {
      const next = currentSearch();
      if (value === otherwise) next.delete(name);
      else next.set(name, value);
      coming = next.toString();
      void navigate({ search: coming }, { replace: true });
      setTimeout(() => {
        coming = undefined;
      });
    },
    [name, otherwise, navigate],
  );
  return [search.get(name) ?? otherwise, set];
}
