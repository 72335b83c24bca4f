import { hashKey, type Query, type QueryKey } from '@tanstack/react-query';

/**
 * What is shown while the next answer is on its way: the answer before, if its key began with `same` too (another page of one
 * list, the list after a change), else nothing. Rows of another view, item or market never stand under a name that is not theirs.
 */
export const keepWithin =
  (...same: QueryKey) =>
  <T>(before: T | undefined, asked?: Pick<Query<T>, 'queryKey'>): T | undefined =>
    asked && hashKey(asked.queryKey.slice(0, same.length)) === hashKey(same) ? before : undefined;
