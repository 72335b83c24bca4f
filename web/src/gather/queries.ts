import { type ImportShape, listImportRows, readImport } from '@basileus/contract';
import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { call } from '../api/call';
import { oneOf } from '../ui/url';

export const rowsOnPage = 200;

/** One import; not asked without a number. */
export const importQuery = (id: number) =>
  queryOptions({
    queryKey: ['imports', id],
    queryFn: () => call(readImport, { params: { id } }),
    enabled: id > 0,
  });

const views = ['', 'create', 'update', 'same', 'refuse', 'damaged', 'conflict'] as const;
/** Rows of an import as they are planned; asked again whenever its counts have changed. */
export const importRowsQuery = ({ id, state, counts }: ImportShape, view: string, offset: number) =>
  queryOptions({
    queryKey: ['imports', id, 'rows', view, offset, state, counts],
    queryFn: () =>
      call(listImportRows, { params: { id }, query: { action: oneOf(views, view), offset, limit: rowsOnPage } }),
    enabled: state !== 'planning',
    placeholderData: keepPreviousData,
  });
