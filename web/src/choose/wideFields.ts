// The fields of the items, and those of their listings on every market.
import { isFieldClause, type Which } from '@basileus/core/choose';
import { extendFields, type FieldBook, readMarketKey } from '@basileus/core/product';
import { listMarketFields, type Rulebook } from '@basileus/core/rulebook';
import { useQueries, type UseQueryResult } from '@tanstack/react-query';
import { useMemo } from 'react';
import { rulebookQuery, useScope } from '../frame/scope';
import { useFields } from '../own/fields';

const told = (results: UseQueryResult<Rulebook>[]): (Rulebook | undefined)[] => results.map((r) => r.data);

/** The book of the house with the fields of all listings behind it; those of items alone where no others are wanted, or told yet. */
export function useWideFields(isWanted = true): FieldBook {
  const own = useFields(),
    { markets } = useScope();
  const books = useQueries({
    queries: (isWanted ? markets : []).map((m) => rulebookQuery(m.key)),
    combine: told,
  });
  return useMemo(
    () =>
      extendFields(
        own,
        books.flatMap((book, i) => (book && markets[i] ? listMarketFields(markets[i], book) : [])),
      ),
    [own, markets, books],
  );
}

/** True where a choice asks something of listings. */
export const asksListings = (which: Which): boolean =>
  [...which.clauses, ...which.also].some((c) => isFieldClause(c) && readMarketKey(c.field) !== undefined);

/** The fields that the columns of a file are read as: those of the house, and those of markets where it went out with such. */
export const useFieldsOfFile = (columns: readonly { field: string | null }[]): FieldBook =>
  useWideFields(columns.some((c) => c.field !== null && readMarketKey(c.field) !== undefined));
