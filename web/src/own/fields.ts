// Our own fields and categories, as every screen asks for them.
import { listOwnCategories, readFields } from '@basileus/contract';
import { addUpTree, compileFields, type FieldBook, listCategoryTree, type OwnFields } from '@basileus/core/product';
import { queryOptions, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { call } from '../api/call';

export const fieldsQuery = queryOptions({
  queryKey: ['own', 'fields'],
  queryFn: () => call(readFields),
  staleTime: 300_000,
});
export const ownCategoriesQuery = queryOptions({
  queryKey: ['own', 'categories'],
  queryFn: () => call(listOwnCategories),
});

const books = new WeakMap<OwnFields, FieldBook>();
const noFields: OwnFields = { fields: [], languages: [], currencies: [] };

/** The book that an answer of the server makes; made once for each answer. */
export function bookOf(own: OwnFields = noFields): FieldBook {
  const known = books.get(own);
  if (known) return known;
  const made = compileFields(own);
  books.set(own, made);
  return made;
}

/** The fields of the house; those that every item has until they have been told. */
export const useFields = (): FieldBook => bookOf(useQuery(fieldsQuery).data);

/** Fields by the group that they are shown under, in the order in which the groups come first. */
export function groupFields<T extends { group: string }>(fields: readonly T[]): [string, T[]][] {
  const groups = new Map<string, T[]>();
  for (const f of fields) (groups.get(f.group) ?? groups.set(f.group, []).get(f.group)!).push(f);
  return [...groups];
}

/** False until the house has told its fields and categories: before, columns may still come. */
export const useIsHouseTold = (): boolean =>
  [useQuery(fieldsQuery).data, useQuery(ownCategoriesQuery).data].every((d) => d !== undefined);

/** Whether fields that only some categories have belong to a category: `within(category, those)`. */
export function useCategoryScopes() {
  const rows = useQuery(ownCategoriesQuery).data?.rows;
  const within = useMemo(() => {
    const paths = new Map(listCategoryTree(rows ?? []).map((n) => [n.name, n.path]));
    return (category: string, some: readonly string[] | undefined): boolean =>
      some === undefined || (paths.get(category) ?? [category]).some((c) => some.includes(c));
  }, [rows]);
  return { within };
}

/** Our categories from the top of the tree down, with their items, and with those under them; nothing until they have been told. */
export function useOwnTree() {
  const rows = useQuery(ownCategoriesQuery).data?.rows;
  return useMemo(() => addUpTree(rows ?? []), [rows]);
}
