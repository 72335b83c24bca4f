import { listChangeSets, listHistory, readChangeSet, reverseChangeSet } from '@basileus/contract';
import { getFieldLabel } from '@basileus/core/sheet';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { call } from '../api/call';
import { Empty, Loading, PageHead, Refused, Views } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { count, plural, shown, when } from '../ui/text';
import { useUrlValue } from '../ui/url';

/** Every bulk change with before and after, to read later and to take back; and who did what. */
export function HistoryPage() {
  const [view, setView] = useUrlValue('view', 'changes'),
    [open, setOpen] = useUrlValue('set');
  const client = useQueryClient();
  const sets = useQuery({
    queryKey: ['products', 'change-sets'],
    queryFn: () => call(listChangeSets, { query: { limit: 200 } }),
  });
  const log = useQuery({
    queryKey: ['products', 'history'],
    queryFn: () => call(listHistory, { query: { limit: 200 } }),
    enabled: view === 'log',
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
  return (
    <>
      <PageHead title="Change history" />
      <Views
        label="Views of history"
        now={view}
        onChoose={setView}
        views={[
          { key: 'changes', label: 'Change sets' },
          { key: 'log', label: 'Who did what' },
        ]}
      />
      <div className="overflow-auto p-5">
        {view === 'log' ? (
          log.isLoading ? (
            <Loading />
          ) : (
            <table className="plain-table panel">
              <thead>
                <tr>
                  <th>When</th>
                  <th>Who</th>
                  <th>What</th>
                  <th>Detail</th>
                </tr>
              </thead>
              <tbody>
                {log.data?.rows.map((r) => (
                  <tr key={r.id}>
                    <td className="whitespace-nowrap">{when(r.at)}</td>
                    <td>{r.actor}</td>
                    <td>
                      {r.action} {r.subject}
                    </td>
                    <td className="quiet">{r.detail}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )
        ) : sets.isLoading ? (
          <Loading />
        ) : sets.error ? (
          <Refused error={sets.error} />
        ) : sets.data!.rows.length === 0 ? (
          <Empty title="Nothing has been changed yet." />
        ) : (
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
              {sets.data!.rows.map((s) => (
                <tr key={s.id}>
                  <td>
                    <button
                      type="button"
                      className="underline decoration-base-300 underline-offset-2"
                      onClick={() => {
                        setOpen(String(s.id));
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
        )}
      </div>
      {open && (
        <SetCells
          id={Number(open)}
          onClose={() => {
            setOpen('');
          }}
        />
      )}
    </>
  );
}

function SetCells({ id, onClose }: { id: number; onClose: () => void }) {
  const { data, error, isLoading } = useQuery({
    queryKey: ['products', 'change-sets', id],
    queryFn: () => call(readChangeSet, { params: { id }, query: { limit: 500 } }),
  });
  return (
    <Modal title={data?.set.title ?? 'Change'} onClose={onClose} wide>
      {isLoading ? (
        <Loading />
      ) : error || !data ? (
        <Refused error={error} />
      ) : (
        <div className="p-4">
          <table className="plain-table">
            <thead>
              <tr>
                <th>SKU</th>
                <th>Field</th>
                <th>Before</th>
                <th>After</th>
              </tr>
            </thead>
            <tbody>
              {data.cells.map((c, i) => (
                <tr key={i}>
                  <td className="num whitespace-nowrap">{c.sku}</td>
                  <td>{getFieldLabel(c.field)}</td>
                  <td>
                    <del className="quiet">{shown(c.before) || '(empty)'}</del>
                  </td>
                  <td>{shown(c.after) || '(empty)'}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {data.set.cells > 500 && <p className="p-2 quiet">The first 500 of {count(data.set.cells)} cells.</p>}
        </div>
      )}
    </Modal>
  );
}
