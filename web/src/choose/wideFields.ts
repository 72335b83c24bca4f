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
export const useWideFields = (isWanted = true): FieldBook => useToldFields(isWanted).book;

/** The same, and whether all markets have told theirs. */
export function useToldFields(isWanted: boolean): { book: FieldBook; isTold: boolean } {
  const own = useFields(),
    { markets } = useScope();
  const books = useQueries({
    queries: (isWanted ? markets : []).map((m) => rulebookQuery(m.key)),
    combine: told,
  });
  const book = useMemo(
    () =>
      extendFields(
        own,
        books.flatMap((b, i) => (b && markets[i] ? listMarketFields(markets[i], b) : [])),
      ),
    [own, markets, books],
  );
  return { book, isTold: isWanted && books.every((b) => b !== undefined) };
}

/** True where a choice asks something of listings. */
export const asksListings = (which: Which): boolean =>
  [...which.clauses, ...which.also].some((c) => isFieldClause(c) && readMarketKey(c.field) !== undefined);

/** The fields that the columns of a file are read as: those of the house, and those of markets where it went out with such. */
export const useFieldsOfFile = (columns: readonly { field: string | null }[]): FieldBook =>
  useWideFields(columns.some((c) => c.field !== null && readMarketKey(c.field) !== undefined));
