import { createDispatch, listPlanRows, previewFile, readPlan, releaseHold } from '@basileus/contract';
import type { Operation } from '@basileus/core/rulebook';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { addressOf, call } from '../api/call';
import { downloadDispatch } from '@basileus/contract';
import { useScope } from '../frame/scope';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { count, plural, shown } from '../ui/text';
import { useUrlValue } from '../ui/url';

const why: Record<Operation, string> = {
  create: 'New entries',
  revise: 'Changed details',
  replace: 'Whole entries',
  price: 'Changed prices',
  stock: 'Changed stock',
  withdraw: 'To be taken down',
  restore: 'To be put back',
};

export function SendPage() {
  const { market, name, scope } = useScope();
  const [chosen, setChosen] = useUrlValue('operation'),
    [held, setHeld] = useUrlValue('held', 'no');
  const client = useQueryClient(),
    navigate = useNavigate();
  const [isLooking, setLooking] = useState(false);
  const plan = useQuery({
    queryKey: ['listings', 'plan', market],
    queryFn: () => call(readPlan, { params: { market } }),
  });
  const operation = (chosen ||
    plan.data?.operations.find((o) => o.count > 0)?.operation ||
    plan.data?.operations[0]?.operation) as Operation | undefined;
  const send = useMutation({
    mutationFn: (by: 'wire' | 'hand') =>
      call(createDispatch, { params: { market }, body: { operation: operation!, by, key: crypto.randomUUID() } }),
    onSuccess: (r, by) => {
      void client.invalidateQueries({ queryKey: ['listings'] });
      void client.invalidateQueries({ queryKey: ['dispatches'] });
      if (by === 'hand') window.location.assign(addressOf(downloadDispatch, { params: { id: r.dispatch.id } }));
      toast.success(
        by === 'hand'
          ? `The file is ready; give ${name}’s answer to its dispatch under Settle.`
          : `${plural(r.dispatch.total, 'row is', 'rows are')} on the way to ${name}.`,
      );
      void navigate(`/${scope}/settle/${r.dispatch.id}`);
    },
    onError: (e) => toast.error(e.message),
  });
  if (plan.isLoading) return <Loading />;
  if (plan.error || !plan.data) return <Refused error={plan.error} again={() => void plan.refetch()} />;
  const now = plan.data.operations.find((o) => o.operation === operation);
  return (
    <>
      <PageHead
        title={`Send to ${name}`}
        about={
          <span role="status">
            {plan.data.waiting > 0
              ? `${plural(plan.data.waiting, 'row is', 'rows are')} on the way and wait for an answer. `
              : ''}
            {plan.data.held.map((h) => `${count(h.count)} held: ${h.label}`).join('; ')}
          </span>
        }
      >
        {now && (
          <>
            <button
              type="button"
              className="btn btn-sm"
              disabled={now.count === 0}
              onClick={() => {
                setLooking(true);
              }}
            >
              Look at the file
            </button>
            <button
              type="button"
              className="btn btn-sm"
              disabled={now.count === 0 || send.isPending}
              onClick={() => {
                send.mutate('hand');
              }}
            >
              Download
            </button>
            <button
              type="button"
              className="btn btn-sm btn-primary"
              disabled={now.count === 0 || send.isPending}
              onClick={() => {
                send.mutate('wire');
              }}
            >
              Send {count(now.count)} now
            </button>
          </>
        )}
      </PageHead>
      {plan.data.operations.length === 0 ? (
        <Empty title={`${name} has everything as we hold it.`}>
          Change a price, stock or details and it shows here.
        </Empty>
      ) : (
        <div className="grid min-h-0 flex-1 border-t border-base-300 lg:grid-cols-[15rem_1fr]">
          <nav aria-label="What would go" className="border-r border-base-300 bg-base-100">
            {plan.data.operations.map((o) => (
              <button
                key={o.operation}
                type="button"
                aria-current={o.operation === operation ? 'true' : undefined}
                onClick={() => {
                  setChosen(o.operation);
                }}
                className={`flex w-full items-baseline gap-2 border-b border-base-300 border-l-[3px] px-4 py-2.5 text-left ${o.operation === operation ? 'border-l-primary bg-base-200' : 'border-l-transparent hover:bg-base-200'}`}
              >
                <span className="flex-1">
                  {why[o.operation]}
                  <span className="block text-[12px] quiet">
                    {o.operation}
                    {o.held > 0 && `, ${count(o.held)} held back`}
                  </span>
                </span>
                <span className="num font-semibold">{count(o.count)}</span>
              </button>
            ))}
          </nav>
          {operation && <Rows market={market} operation={operation} held={held} setHeld={setHeld} counts={now} />}
        </div>
      )}
      {isLooking && operation && (
        <FileLook
          market={market}
          operation={operation}
          onClose={() => {
            setLooking(false);
          }}
        />
      )}
    </>
  );
}

function Rows({
  market,
  operation,
  held,
  setHeld,
  counts,
}: {
  market: string;
  operation: Operation;
  held: string;
  setHeld: (v: string) => void;
  counts: { count: number; held: number } | undefined;
}) {
  const client = useQueryClient();
  const [limit, setLimit] = useState(100);
  const rows = useQuery({
    queryKey: ['listings', 'plan', market, operation, held, limit],
    queryFn: () => call(listPlanRows, { params: { market, operation }, query: { held: held as 'no', limit } }),
  });
  const release = useMutation({
    mutationFn: (ids: number[]) => call(releaseHold, { params: { market }, body: { ids } }),
    onSuccess: (r) => {
      toast.success(`${plural(r.released, 'price', 'prices')} let go.`);
      void client.invalidateQueries({ queryKey: ['listings'] });
    },
  });
  const held_ = rows.data?.rows.filter((r) => r.held?.startsWith('the price')) ?? [];
  return (
    <section aria-label="Rows" className="flex min-h-64 min-w-0 flex-col">
      <div className="flex items-center gap-2 px-4 py-2">
        <div className="join" role="group" aria-label="Which rows">
          <button
            type="button"
            aria-pressed={held === 'no'}
            className={`btn btn-xs join-item ${held === 'no' ? 'btn-primary' : ''}`}
            onClick={() => {
              setHeld('no');
            }}
          >
            Would go ({count(counts?.count ?? 0)})
          </button>
          <button
            type="button"
            aria-pressed={held === 'yes'}
            className={`btn btn-xs join-item ${held === 'yes' ? 'btn-primary' : ''}`}
            onClick={() => {
              setHeld('yes');
            }}
          >
            Held back ({count(counts?.held ?? 0)})
          </button>
        </div>
        {held === 'yes' && held_.length > 0 && (
          <button
            type="button"
            className="btn btn-xs"
            onClick={() => {
              release.mutate(held_.map((r) => r.listingId));
            }}
          >
            I have looked: let {count(held_.length)} go
          </button>
        )}
      </div>
      {rows.isLoading ? (
        <Loading />
      ) : rows.error ? (
        <Refused error={rows.error} />
      ) : rows.data!.rows.length === 0 ? (
        <Empty title={held === 'yes' ? 'Nothing is held back.' : 'No row of this kind is ready.'}>
          {held === 'no' && (counts?.held ?? 0) > 0 && (
            <Link className="underline" to={`/${market}/check`}>
              Mend what is held back
            </Link>
          )}
        </Empty>
      ) : (
        <div className="min-h-0 flex-1 overflow-auto bg-base-100">
          <table className="plain-table">
            <thead className="sticky top-0 bg-base-200">
              <tr>
                <th>SKU</th>
                <th>Title</th>
                <th>{operation === 'create' ? 'With' : 'Difference from what was last accepted'}</th>
                {held === 'yes' && <th>Held because it</th>}
              </tr>
            </thead>
            <tbody>
              {rows.data!.rows.map((r) => (
                <tr key={r.listingId}>
                  <td className="num whitespace-nowrap">
                    {r.role === 'variant' && '└ '}
                    {r.sku}
                  </td>
                  <td className="max-w-72 truncate">{r.title}</td>
                  <td>
                    {operation === 'create' ? (
                      <span className="quiet">
                        {plural(r.differences.length, 'field', 'fields')}:{' '}
                        {r.differences
                          .slice(0, 5)
                          .map((d) => d.label)
                          .join(', ')}
                        {r.differences.length > 5 && ' …'}
                      </span>
                    ) : (
                      r.differences.map((d) => (
                        <div key={d.field}>
                          <span className="quiet">{d.label}:</span>{' '}
                          <del className="quiet">{shown(d.before).slice(0, 80) || '(empty)'}</del> →{' '}
                          <ins className="font-semibold no-underline">{shown(d.after).slice(0, 80) || '(empty)'}</ins>
                        </div>
                      ))
                    )}
                  </td>
                  {held === 'yes' && (
                    <td className="text-error">
                      {r.held}{' '}
                      {r.held?.startsWith('has') && (
                        <Link className="underline" to={`/${market}/prepare?q=${encodeURIComponent(r.sku)}`}>
                          See it
                        </Link>
                      )}
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
          {rows.data!.total > limit && (
            <button
              type="button"
              className="btn btn-sm m-3"
              onClick={() => {
                setLimit(Math.min(1000, limit * 3));
              }}
            >
              Show more of {count(rows.data!.total)}
            </button>
          )}
        </div>
      )}
    </section>
  );
}

function FileLook({ market, operation, onClose }: { market: string; operation: Operation; onClose: () => void }) {
  const file = useQuery({
    queryKey: ['listings', 'plan', market, operation, 'file'],
    queryFn: () => call(previewFile, { params: { market, operation } }),
  });
  return (
    <Modal title={file.data ? file.data.name : 'The file'} onClose={onClose} wide>
      {file.isLoading ? (
        <Loading />
      ) : file.error || !file.data ? (
        <Refused error={file.error} />
      ) : (
        <div className="overflow-auto p-4">
          <p className="mb-2 quiet">
            The first {Math.min(50, file.data.total)} of {count(file.data.total)} rows, exactly as the market will get
            them.
          </p>
          <table className="plain-table num text-[11.5px]">
            <tbody>
              {file.data.rows.map((r, i) => (
                <tr key={i} className={i < 2 ? 'bg-base-200 font-semibold' : ''}>
                  {r.map((c, k) => (
                    <td key={k} className="max-w-56 truncate whitespace-nowrap" title={c}>
                      {c}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </Modal>
  );
}
