import { createDispatch, downloadDispatch, readPlan } from '@basileus/contract';
import type { Operation } from '@basileus/core/rulebook';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { addressOf, call } from '../api/call';
import { useScope } from '../frame/scope';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { count, plural } from '../ui/text';
import { useUrlValue } from '../ui/url';
import { FileLook } from './FileLook';
import { PlanRows } from './PlanRows';

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
          {operation && (
            <PlanRows
              key={`${operation}${held}`}
              market={market}
              operation={operation}
              held={held}
              setHeld={setHeld}
              counts={now}
            />
          )}
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
