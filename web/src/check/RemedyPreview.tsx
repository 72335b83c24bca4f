import { applyRemedies, type RemedyRow } from '@basileus/contract';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from '../ui/messages';
import { call } from '../api/call';
import { Difference } from '../ui/Difference';
import { Loading, Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { count, plural, say } from '../ui/text';
import type { WordedCause } from './cause';
import { remediesQuery } from './queries';
import { tell } from '../ui/tell';

/** Before and after of every row, before anything is changed. What is only likely is ticked by hand, row by row or all. */
export function RemedyPreview({
  cause,
  market,
  onClose,
  onDone,
}: {
  cause: WordedCause;
  market: string;
  onClose: () => void;
  onDone: () => void;
}) {
  const { check, message, field } = cause;
  const [likely, setLikely] = useState(false),
    [turned, setTurned] = useState<ReadonlySet<number>>(new Set());
  const plan = useQuery(remediesQuery(market, cause));
  const mend = useMutation({
    mutationFn: (body: { except: number[]; also: number[] }) =>
      call(applyRemedies, { params: { market }, body: { check, message, field, likely, ...body } }),
    onSuccess: (r) => {
      toast.success(
        say`${plural(r.changed, 'listing', 'listings')} mended${r.left ? say`; ${r.left} left as they were` : ''}.`,
      );
      onDone();
    },
    onError: (e) => toast.error(e.message),
  });
  /** Ticked by the rule of this dialog, before single rows are turned. */
  const isGiven = (r: RemedyRow): boolean => likely || r.sureness === 'safe';
  const data = plan.data;
  const rows = data?.rows ?? [];
  const except = rows.filter((r) => turned.has(r.id) && isGiven(r)).map((r) => r.id),
    also = rows.filter((r) => turned.has(r.id) && !isGiven(r)).map((r) => r.id);
  const chosen = data ? data.safe + (likely ? data.likely : 0) - except.length + also.length : 0;
  return (
    <Modal title={say`Remedy: ${cause.title}`} onClose={onClose} wide>
      {plan.isLoading ? (
        <Loading what={say`Trying the remedies on every row`} />
      ) : plan.error || !data ? (
        <Refused error={plan.error} />
      ) : (
        <div className="flex flex-col gap-3 p-5">
          <div className="flex flex-wrap items-center gap-4">
            <span>
              {data.safe > 0 && say`${plural(data.safe, 'row has', 'rows have')} a sure remedy. `}
              {data.likely > 0 && say`${plural(data.likely, 'row has', 'rows have')} a remedy that is only likely. `}
              {data.left > 0 && say`${plural(data.left, 'row has', 'rows have')} no remedy that would settle it.`}
            </span>
            {data.likely > 0 && (
              <label className="flex items-center gap-2">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  checked={likely}
                  onChange={(e) => {
                    setLikely(e.target.checked);
                    setTurned(new Set());
                  }}
                />
                {say`Tick all likely ones`}
              </label>
            )}
            <button
              type="button"
              className="btn btn-sm btn-primary ms-auto"
              disabled={chosen === 0 || mend.isPending}
              onClick={() => {
                mend.mutate({ except, also });
              }}
            >
              {tell`Mend ${count(chosen)}`}
            </button>
          </div>
          <div className="max-h-[55vh] overflow-auto">
            <table className="plain-table">
              <thead>
                <tr>
                  <th className="w-8">
                    <span className="sr-only">{say`Mend`}</span>
                  </th>
                  <th>SKU</th>
                  <th>{say`Change`}</th>
                </tr>
              </thead>
              <tbody>
                {rows.map((r) => (
                  <tr key={r.id}>
                    <td>
                      <input
                        type="checkbox"
                        className="checkbox checkbox-xs"
                        aria-label={say`Mend ${r.sku}`}
                        checked={isGiven(r) !== turned.has(r.id)}
                        onChange={() => {
                          setTurned((old) => {
                            const next = new Set(old);
                            if (!next.delete(r.id)) next.add(r.id);
                            return next;
                          });
                        }}
                      />
                    </td>
                    <td className="num whitespace-nowrap">{r.sku}</td>
                    <td>
                      {r.changes.map((c) => (
                        <Difference key={c.field} before={c.before} after={c.after} />
                      ))}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          {data.safe + data.likely > rows.length && (
            <p className="quiet">
              {tell`The first ${count(rows.length)} rows are shown; the others of their kind are ticked as these are.`}
            </p>
          )}
        </div>
      )}
    </Modal>
  );
}
