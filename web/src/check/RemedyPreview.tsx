import { applyRemedies, type Cause } from '@basileus/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api/call';
import { Difference } from '../ui/Difference';
import { Loading, Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { count, plural } from '../ui/text';
import { keyOf } from './cause';

/** Before and after of every row, before anything is changed. */
export function RemedyPreview({
  cause,
  market,
  onClose,
  onApply,
  isBusy,
}: {
  cause: Cause;
  market: string;
  onClose: () => void;
  onApply: (includeUnsafe: boolean) => void;
  isBusy: boolean;
}) {
  const [unsafe, setUnsafe] = useState(cause.safe === 0);
  const plan = useQuery({
    queryKey: ['listings', 'remedy', market, keyOf(cause), unsafe],
    queryFn: () =>
      call(applyRemedies, {
        params: { market },
        body: { check: cause.check, message: cause.message, field: cause.field, includeUnsafe: unsafe, dryRun: true },
      }),
  });
  return (
    <Modal title={`Remedy: ${cause.title}`} onClose={onClose} wide>
      {plan.isLoading ? (
        <Loading />
      ) : plan.error || !plan.data ? (
        <Refused error={plan.error} />
      ) : (
        <div className="flex flex-col gap-3 p-5">
          <div className="flex flex-wrap items-center gap-4">
            <span>
              {plural(plan.data.changed, 'row', 'rows')} would change
              {plan.data.left > 0 && `; ${plan.data.left} have no ready remedy`}.
            </span>
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={unsafe}
                onChange={(e) => {
                  setUnsafe(e.target.checked);
                }}
              />
              Also remedies that are only likely; look at each row below
            </label>
            <button
              type="button"
              className="btn btn-sm btn-primary ml-auto"
              disabled={plan.data.changed === 0 || isBusy}
              onClick={() => {
                onApply(unsafe);
              }}
            >
              Mend {count(plan.data.changed)}
            </button>
          </div>
          <div className="max-h-[55vh] overflow-auto">
            <table className="plain-table">
              <thead>
                <tr>
                  <th>SKU</th>
                  <th>Change</th>
                </tr>
              </thead>
              <tbody>
                {plan.data.rows.map((r) => (
                  <tr key={r.id}>
                    <td className="num whitespace-nowrap">{r.sku}</td>
                    <td>
                      <Difference before={r.before} after={r.after} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </div>
      )}
    </Modal>
  );
}
