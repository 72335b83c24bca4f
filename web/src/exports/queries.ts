import { listExports, listExportSets } from '@basileus/contract';
import { queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';

export const exportsQuery = queryOptions({ queryKey: ['exports', 'list'], queryFn: () => call(listExports) });
export const exportSetsQuery = queryOptions({ queryKey: ['exports', 'sets'], queryFn: () => call(listExportSets) });
