import { type PlannedListing, releaseHold, setWish } from '@basileus/contract';
import { isFirst, type Operation } from '@basileus/core/rulebook';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from '../ui/messages';
import { call } from '../api/call';
import { Difference } from '../ui/Difference';
import { Empty, Loading, Refused } from '../ui/faces';
import { NewFields } from '../ui/NewFields';
import { Pager } from '../ui/Pager';
import { count, plural, say } from '../ui/text';
import type { RowChoice } from './ChooseRows';
import { wordHeldRow } from './words';
import { planRowsQuery } from './queries';
import { rowsOnPage } from '../gather/queries';
import { oneOf } from '../ui/url';
import { tell } from '../ui/tell';

const why = { no: say`Would go`, yes: say`Held back` } as const;

/** The rows of one operation, each as what it would change on the market; those held back with the reason. */
export function PlanRows({
  market,
  operation,
  held,
  setHeld,
  counts,
  choice,
}: {
  market: string;
  operation: Operation;
  held: string;
  setHeld: (v: string) => void;
  counts: { count: number; held: number } | undefined;
  choice: RowChoice;
}) {
  const client = useQueryClient();
  const [offset, setOffset] = useState(0);
  const rows = useQuery(planRowsQuery(market, operation, oneOf(['no', 'yes', ''], held), choice, offset));
  const release = useMutation({
    mutationFn: (ids: number[]) => call(releaseHold, { params: { market }, body: { ids } }),
    onSuccess: (r) => {
      toast.success(say`${plural(r.released, 'price', 'prices')} let go.`);
      void client.invalidateQueries({ queryKey: ['listings'] });
    },
    onError: (e) => toast.error(e.message),
  });
  const moved = rows.data?.rows.filter((r) => r.held === 'price-moved') ?? [];
  const isEmpty = rows.data?.rows.length === 0 && offset === 0;
  return (
    <section aria-label={say`Rows`} className="flex min-h-0 min-w-0 flex-col">
      <div className="flex flex-wrap items-center gap-2 px-4 py-2">
        <div className="join" role="group" aria-label={say`Which rows`}>
          {(['no', 'yes'] as const).map((which) => (
            <button
              key={which}
              type="button"
              aria-pressed={held === which}
              className={`btn btn-xs join-item ${held === which ? 'btn-primary' : ''}`}
              onClick={() => {
                setHeld(which);
              }}
            >
              {why[which]}
              {counts && ` (${count(which === 'no' ? counts.count : counts.held)})`}
            </button>
          ))}
        </div>
        {held === 'yes' && moved.length > 0 && (
          <button
            type="button"
            className="btn btn-xs"
            disabled={release.isPending}
            onClick={() => {
              release.mutate(moved.map((r) => r.listingId));
            }}
          >
            {tell`I have looked: let ${count(moved.length)} go`}
          </button>
        )}
        <span className="ms-auto">
          <Pager offset={offset} size={rowsOnPage} total={rows.data?.total ?? 0} onGo={setOffset} />
        </span>
      </div>
      {rows.isLoading ? (
        <Loading />
      ) : rows.error ? (
        <Refused error={rows.error} again={() => void rows.refetch()} />
      ) : isEmpty ? (
        <Empty title={held === 'yes' ? say`Nothing is held back.` : say`No row of this kind is ready.`}>
          {held === 'no' && (counts?.held ?? 0) > 0 && (
            <Link className="underline" to={`/${market}/check`}>
              {say`Mend what is held back`}
            </Link>
          )}
        </Empty>
      ) : (
        <div className="min-h-0 flex-1 overflow-auto bg-base-100">
          <table className="plain-table table-fixed">
            <colgroup>
              <col className="w-44" />
              <col className="w-64" />
              <col />
              {held === 'yes' && <col className="w-56" />}
            </colgroup>
            <thead className="sticky top-0 z-10 bg-base-200">
              <tr>
                <th>SKU</th>
                <th>{say`Title`}</th>
                <th>{headOf(operation)}</th>
                {held === 'yes' && <th>{say`Held because`}</th>}
              </tr>
            </thead>
            <tbody>
              {rows.data!.rows.map((r) => (
                <PlanRow
                  key={r.listingId}
                  row={r}
                  market={market}
                  operation={operation}
                  isHeld={held === 'yes'}
                  isBusy={release.isPending}
                  onRelease={(id) => {
                    release.mutate([id]);
                  }}
                />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}

const headOf = (operation: Operation): string =>
  isFirst(operation)
    ? say`With`
    : operation === 'withdraw' || operation === 'restore'
      ? say`As wished`
      : say`Difference from what was last accepted`;

function PlanRow({
  row: r,
  market,
  operation,
  isHeld,
  isBusy,
  onRelease,
}: {
  row: PlannedListing;
  market: string;
  operation: Operation;
  isHeld: boolean;
  isBusy: boolean;
  onRelease: (listing: number) => void;
}) {
  return (
    <tr>
      <td className="num truncate" title={r.sku}>
        {r.role === 'variant' && '└ '}
        {r.sku}
      </td>
      <td className="truncate" title={r.title}>
        {r.title}
      </td>
      <td>
        {operation === 'withdraw' || operation === 'restore' ? (
          <Unwish market={market} id={r.listingId} />
        ) : isFirst(operation) && r.differences.every((d) => d.before === null) ? (
          <NewFields fields={r.differences.map((d) => ({ field: d.field, label: d.label, value: d.after }))} />
        ) : (
          r.differences.map((d) => (
            <div key={d.field}>
              <span className="quiet">{d.label}:</span> <Difference before={d.before} after={d.after} />
            </div>
          ))
        )}
      </td>
      {isHeld && (
        <td className="text-error">
          {r.held && wordHeldRow(r.held)}{' '}
          {r.held === 'blocked' && (
            <Link className="underline" to={`/${market}/prepare?q=${encodeURIComponent(r.sku)}`}>
              {say`See it`}
            </Link>
          )}
          {r.held === 'price-moved' && (
            <span className="mt-1 flex gap-2">
              <button
                type="button"
                className="btn btn-xs"
                disabled={isBusy}
                onClick={() => {
                  onRelease(r.listingId);
                }}
              >
                {say`Let it go`}
              </button>
              <Link className="btn btn-xs" to={`/${market}/prepare?q=${encodeURIComponent(r.sku)}`}>
                {say`Correct it`}
              </Link>
            </span>
          )}
        </td>
      )}
    </tr>
  );
}

/** Takes a wish back, as long as it has not been sent. */
function Unwish({ market, id }: { market: string; id: number }) {
  const client = useQueryClient();
  const keep = useMutation({
    mutationFn: () => call(setWish, { params: { market }, body: { ids: [id], wish: 'keep' } }),
    onSuccess: () => void client.invalidateQueries({ queryKey: ['listings'] }),
    onError: (e) => toast.error(e.message),
  });
  return (
    <button
      type="button"
      className="btn btn-xs"
      disabled={keep.isPending}
      onClick={() => {
        keep.mutate();
      }}
    >
      {say`Leave it as it is`}
    </button>
  );
}
