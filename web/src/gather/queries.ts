import { type ImportShape, listImportRows, listViews, readImport } from '@basileus/contract';
import { queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';
import { keepWithin } from '../api/keep';
import { oneOf } from '../ui/url';

export const rowsOnPage = 200;

/** Views of the catalog that are kept under names. */
export const viewsQuery = queryOptions({ queryKey: ['views'], queryFn: () => call(listViews) });

/** While a job is at it, an import is looked at again even where no event of it was heard. */
const atWorkEveryMs = 3000;
/** One import; not asked without a number. */
export const importQuery = (id: number) =>
  queryOptions({
    queryKey: ['imports', id],
    queryFn: () => call(readImport, { params: { id } }),
    enabled: id > 0,
    refetchInterval: ({ state: { data } }) =>
      data?.state === 'planning' || data?.state === 'applying' ? atWorkEveryMs : false,
  });

const actions = ['', 'create', 'update', 'same', 'refuse', 'damaged', 'conflict'] as const;
/** Rows of an import as they are planned; asked again whenever its counts have changed. */
export const importRowsQuery = ({ id, state, counts }: ImportShape, view: string, offset: number) =>
  queryOptions({
    queryKey: ['imports', id, 'rows', view, offset, state, counts],
    queryFn: () =>
      call(listImportRows, { params: { id }, query: { action: oneOf(actions, view), offset, limit: rowsOnPage } }),
    enabled: state !== 'planning',
    placeholderData: keepWithin('imports', id, 'rows', view),
  });
