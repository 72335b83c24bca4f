import { decideImport, type ImportRowShape, type ImportShape } from '@basileus/contract';
import { toSpoken } from '@basileus/core/product';
import { placeLine } from '@basileus/core/sheet';
import { useFieldsOfFile } from '../choose/wideFields';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api/call';
import { Difference } from '../ui/Difference';
import { Loading, Refused, Views } from '../ui/faces';
import { NewFields } from '../ui/NewFields';
import { Pager } from '../ui/Pager';
import { count, shown, say } from '../ui/text';
import { useUrlValue } from '../ui/url';
import { RowConflict } from './RowConflict';
import { RowProblems } from './RowProblems';
import { importRowsQuery, rowsOnPage } from './queries';
import { tell } from '../ui/tell';

/** Row by row what the import would do, and what was wrong or mended. */
export function ImportRows({ data }: { data: ImportShape }) {
  const [view, setView] = useUrlValue('rows', '');
  const [offset, setOffset] = useState(0);
  const rows = useQuery(importRowsQuery(data, view, offset));
  const client = useQueryClient();
  const decide = useMutation({
    mutationFn: (d: { take: 'file' | 'ours'; rows?: number[] }) =>
      call(decideImport, { params: { id: data.id }, body: d }),
    onSettled: () => void client.invalidateQueries({ queryKey: ['imports'] }),
  });
  const isWritten = data.state === 'applying' || data.state === 'applied';
  const isDeciding = view === 'conflict' && data.state === 'applied' && data.counts.conflicts > 0;
  return (
    <section className="panel flex min-w-0 flex-col" aria-label={say`Rows`}>
      <Views
        label={isWritten ? say`Rows by what happened` : say`Rows by what would happen`}
        now={view}
        onChoose={(to) => {
          setView(to);
          setOffset(0);
        }}
        views={[
          { key: '', label: say`All`, count: data.counts.rows },
          { key: 'create', label: say`New`, count: data.counts.create },
          { key: 'update', label: say`Changed`, count: data.counts.update },
          { key: 'same', label: say`The same`, count: data.counts.same },
          { key: 'refuse', label: say`Refused`, count: data.counts.refuse },
          { key: 'damaged', label: say`With remarks` },
          ...(data.counts.conflicts > 0 || view === 'conflict'
            ? [{ key: 'conflict', label: say`To decide`, count: data.counts.conflicts }]
            : []),
        ]}
      />
      {isDeciding && (
        <div className="flex flex-wrap items-center gap-2 border-b border-base-300 px-4 py-2">
          <span>{tell`All ${count(data.counts.conflicts)}:`}</span>
          {(['file', 'ours'] as const).map((take) => (
            <button
              key={take}
              type="button"
              className="btn btn-xs"
              disabled={decide.isPending}
              onClick={() => {
                decide.mutate({ take });
              }}
            >
              {take === 'file' ? say`Write the file’s values` : say`Keep what stands there`}
            </button>
          ))}
        </div>
      )}
      {decide.error && <Refused error={decide.error} />}
      {rows.isLoading ? (
        <Loading />
      ) : (
        <div>
          <table className="plain-table table-fixed">
            <colgroup>
              <col className={data.starts.length > 1 ? 'w-28' : 'w-14'} />
              <col className="w-36" />
              <col />
            </colgroup>
            <thead>
              <tr>
                <th>{say`Row`}</th>
                <th>SKU</th>
                <th>{isWritten ? say`What happened` : say`What would happen`}</th>
              </tr>
            </thead>
            <tbody>
              {rows.data?.rows.map((r) => (
                <tr key={r.row}>
                  <RowPlace row={r.row} starts={data.starts} />
                  <td className="num whitespace-nowrap">{r.sku || '(none)'}</td>
                  <td>
                    {r.clash ? (
                      <RowConflict
                        columns={data.reading.columns}
                        row={r}
                        isBusy={decide.isPending || data.state !== 'applied'}
                        decide={(take, row) => {
                          decide.mutate({ take, rows: [row] });
                        }}
                      />
                    ) : (
                      <RowEffect row={r} data={data} />
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <Pager offset={offset} size={rowsOnPage} total={rows.data?.total ?? 0} onGo={setOffset} />
    </section>
  );
}

function RowEffect({ row: r, data }: { row: ImportRowShape; data: ImportShape }) {
  const { get, labelOf } = useFieldsOfFile(data.reading.columns);
  return (
    <>
      <RowProblems row={r} data={data} />
      {r.action === 'create' && (
        <NewFields
          lead={say`New: ${shown(r.changes.find((c) => c.field === 'title')?.after ?? null)},`}
          fields={r.changes.map((c) => ({ field: c.field, label: labelOf(c.field), value: c.after }))}
        />
      )}
      {r.action === 'update' && (
        <dl className="grid grid-cols-[auto_1fr] gap-x-3">
          {r.changes.map((c) => (
            <div key={c.field} className="contents">
              <dt className="quiet">{labelOf(c.field)}</dt>
              <dd>
                <Difference before={toSpoken(get(c.field), c.before)} after={toSpoken(get(c.field), c.after)} />
              </dd>
            </div>
          ))}
        </dl>
      )}
      {r.action === 'same' && <span className="quiet">{say`Already so.`}</span>}
    </>
  );
}

/** The row of a file, with its sheet where several are read. */
function RowPlace({ row, starts }: { row: number; starts: ImportShape['starts'] }) {
  const { line, sheet } = placeLine(row, starts);
  return (
    <td className="quiet">
      <span className="num">{line}</span>
      {sheet !== undefined && (
        <span className="block truncate text-xs" title={sheet}>
          {sheet}
        </span>
      )}
    </td>
  );
}
