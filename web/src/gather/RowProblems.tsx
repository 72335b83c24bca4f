import { type ImportRowShape, type ImportShape, mendImportRow } from '@basileus/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { call } from '../api/call';
import { importQuery } from './queries';
import { say } from '../ui/text';
import { tell } from '../ui/tell';

/** What is wrong with a row or was mended in it; while it waits, each cell can be put right in its place. */
export function RowProblems({ row, data }: { row: ImportRowShape; data: ImportShape }) {
  const client = useQueryClient();
  const mend = useMutation({
    mutationFn: (body: { column: number; text: string }) =>
      call(mendImportRow, { params: { id: data.id, row: row.row }, body }),
    onSuccess: (next) => {
      client.setQueryData(importQuery(data.id).queryKey, next);
    },
    onSettled: () => void client.invalidateQueries({ queryKey: ['imports'] }),
  });
  const columnOf = (field: string) => data.reading.columns.find((c) => c.field === field && field !== '');
  return (
    <>
      {row.problems.map((p, i) => {
        const column = data.state === 'planned' && row.cells ? columnOf(p.field) : undefined;
        const text = column ? (row.cells?.[column.index] ?? '') : '';
        return (
          <div key={i} className="flex flex-wrap items-center gap-x-3">
            <p className={p.level === 'blocker' ? 'text-error' : 'text-warning'}>
              {p.says}
              {p.mended !== undefined && p.level !== 'blocker' && (
                <> {tell`Taken as ${(<span className="num">{p.mended}</span>)}.`}</>
              )}
            </p>
            {column && (
              <input
                key={text}
                className="input input-xs num w-44"
                aria-label={say`${column.name} of row ${row.row}`}
                defaultValue={text}
                disabled={mend.isPending}
                onKeyDown={(e) => {
                  if (e.key === 'Enter') e.currentTarget.blur();
                  if (e.key === 'Escape') e.currentTarget.value = text;
                }}
                onBlur={(e) => {
                  if (e.target.value !== text) mend.mutate({ column: column.index, text: e.target.value });
                }}
              />
            )}
          </div>
        );
      })}
      {mend.error && <p className="text-error">{mend.error.message}</p>}
    </>
  );
}
