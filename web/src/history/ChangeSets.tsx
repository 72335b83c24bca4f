import { listChangeSets, reverseChangeSet } from '@basileus/contract';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from 'sonner';
import { call } from '../api/call';
import { Empty, Loading, Refused } from '../ui/faces';
import { Pager } from '../ui/Pager';
import { count, plural, when } from '../ui/text';

const pageSize = 100;

/** Bulk changes, newest first, each to be looked at and taken back. */
export function ChangeSets({ onOpen }: { onOpen: (id: number) => void }) {
  const client = useQueryClient();
  const [offset, setOffset] = useState(0);
  const sets = useQuery({
    queryKey: ['products', 'change-sets', 'list', offset],
    queryFn: () => call(listChangeSets, { query: { offset, limit: pageSize } }),
    placeholderData: keepPreviousData,
  });
  const reverse = useMutation({
    mutationFn: (id: number) => call(reverseChangeSet, { params: { id } }),
    onSuccess: (r) => {
      toast.success(
        `${plural(r.restored, 'cell', 'cells')} put back${r.kept ? `; ${r.kept} were changed again since and stay` : ''}.`,
      );
      void client.invalidateQueries();
    },
    onError: (e) => toast.error(e.message),
  });
  if (sets.isLoading) return <Loading />;
  if (sets.error || !sets.data) return <Refused error={sets.error} again={() => void sets.refetch()} />;
  if (sets.data.total === 0) return <Empty title="Nothing has been changed yet." />;
  return (
    <>
      <table className="plain-table panel">
        <thead>
          <tr>
            <th>Change</th>
            <th>Who</th>
            <th>When</th>
            <th className="text-right">Cells</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {sets.data.rows.map((s) => (
            <tr key={s.id}>
              <td>
                <button
                  type="button"
                  className="underline decoration-base-300 underline-offset-2"
                  onClick={() => {
                    onOpen(s.id);
                  }}
                >
                  {s.title}
                </button>
              </td>
              <td>{s.actor}</td>
              <td>{when(s.at)}</td>
              <td className="num text-right">{count(s.cells)}</td>
              <td className="text-right">
                {s.reversed ? (
                  <span className="quiet">taken back</span>
                ) : (
                  <button
                    type="button"
                    className="btn btn-xs"
                    disabled={reverse.isPending}
                    onClick={() => {
                      reverse.mutate(s.id);
                    }}
                  >
                    Take back
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Pager offset={offset} size={pageSize} total={sets.data.total} onGo={setOffset} />
    </>
  );
}
