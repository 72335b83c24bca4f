import { listPeople } from '@basileus/contract';
import { queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';

export const peopleQuery = queryOptions({ queryKey: ['people'], queryFn: () => call(listPeople) });
