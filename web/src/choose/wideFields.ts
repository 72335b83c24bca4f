// The fields of the items, and those of their listings on every market.
import { isFieldClause, type Which } from '@basileus/core/choose';
import { extendFields, type FieldBook, readMarketKey } from '@basileus/core/product';
import { listMarketFields } from '@basileus/core/rulebook';
import { useMemo } from 'react';
import { useRulebooks, useScope } from '../frame/scope';
import { useFields } from '../own/fields';

/** The book of the house with the fields of all listings behind it; those of items alone where no others are wanted, or told yet. */
export const useWideFields = (isWanted = true): FieldBook => useToldFields(isWanted).book;

/** The same, and whether all markets have told theirs. */
export function useToldFields(isWanted: boolean): { book: FieldBook; isTold: boolean } {
  const own = useFields(),
    { markets } = useScope(),
    books = useRulebooks(isWanted);
  const book = useMemo(
    () =>
      extendFields(
        own,
        markets.flatMap((m) => {
          const told = books.get(m.key);
          return told ? listMarketFields(m, told) : [];
        }),
      ),
    [own, markets, books],
  );
  return { book, isTold: isWanted && [...books.values()].every((b) => b !== undefined) };
}

/** True where a choice asks something of listings. */
export const asksListings = (which: Which): boolean =>
  [...which.clauses, ...which.also].some((c) => isFieldClause(c) && readMarketKey(c.field) !== undefined);

/** The fields that the columns of a file are read as: those of the house, and those of markets where it went out with such. */
export const useFieldsOfFile = (columns: readonly { field: string | null }[]): FieldBook =>
  useWideFields(columns.some((c) => c.field !== null && readMarketKey(c.field) !== undefined));
