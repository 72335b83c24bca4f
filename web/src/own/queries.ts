import { readFieldUse } from '@basileus/contract';
import { queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';

/** How many items hold a field, and which markets take it. */
export const fieldUseQuery = (key: string) =>
  queryOptions({
    queryKey: ['products', 'field-use', key],
    queryFn: () => call(readFieldUse, { params: { key } }),
    enabled: key !== '',
  });
