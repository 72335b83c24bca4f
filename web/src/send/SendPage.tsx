import { createDispatch, downloadDispatch } from '@basileus/contract';
import type { Operation } from '@basileus/core/rulebook';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from '../ui/messages';
import { addressOf, call } from '../api/call';
import { rulebookQuery, useScope } from '../frame/scope';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { count, plural, say } from '../ui/text';
import { useUrlValue } from '../ui/url';
import { ByClock } from './ByClock';
import { ChooseRows, useChoice } from './ChooseRows';
import { ConfirmSend } from './ConfirmSend';
import { FileLook } from './FileLook';
import { OperationsNav } from './OperationsNav';
import { PlanRows } from './PlanRows';
import { SendLater } from './SendLater';
import { type Going, wordGoing, wordHeld, wordSurprise } from './words';
import { planQuery } from './queries';
import { tell } from '../ui/tell';

export function SendPage() {
  const { market, name, scope } = useScope();
  const [chosen, setChosen] = useUrlValue('operation'),
    [held, setHeld] = useUrlValue('held', 'no');
  const client = useQueryClient(),
    navigate = useNavigate();
  const [isLooking, setLooking] = useState(false),
    [asking, setAsking] = useState<'wire' | 'hand'>(),
    [isTogether, setTogether] = useState(false),
    [isForLater, setForLater] = useState(false);
  const { choice, isNarrowed, set } = useChoice();
  const rulebook = useQuery(rulebookQuery(market)).data;
  const burns = rulebook?.sku.reuse === 'never',
    isByHand = rulebook?.transport.kind === 'by-hand';
  const plan = useQuery(planQuery(market, choice));
  const operation = (chosen ||
    plan.data?.operations.find((o) => o.count > 0)?.operation ||
    plan.data?.operations[0]?.operation) as Operation | undefined;
  // The other half of an offer, where there is something of both to send.
  const other = operation === 'price' ? 'stock' : operation === 'stock' ? 'price' : undefined;
  const partner = [operation, other].every((o) => plan.data?.operations.some((p) => p.operation === o && p.count > 0))
    ? other
    : undefined;
  const also = isTogether ? partner : undefined;
  const going = plan.data === undefined ? [] : goingOf(plan.data, also === undefined ? [operation] : [operation, also]);
  const rows = going.reduce((n, g) => n + g.rows, 0);
  const warnings = [
    ...(plan.data?.surprises ?? []).filter((s) => going.some((g) => g.operation === s.operation)).map(wordSurprise),
    ...(operation === 'withdraw' && burns
      ? [say`${name} never takes a withdrawn SKU again: what is taken down cannot be put back.`]
      : []),
  ];
  const send = useMutation({
    mutationFn: (by: 'wire' | 'hand') =>
      call(createDispatch, {
        params: { market },
        body: {
          operation: operation!,
          ...(also === undefined ? {} : { also }),
          ...choice,
          ids: choice.ids === '' ? undefined : choice.ids.split(',').map(Number),
          looked: warnings.length > 0,
          by,
          key: crypto.randomUUID(),
        },
      }),
    onSuccess: (r, by) => {
      setAsking(undefined);
      void client.invalidateQueries({ queryKey: ['listings'] });
      void client.invalidateQueries({ queryKey: ['dispatches'] });
      if (by === 'hand' && r.dispatch && r.dispatches.length === 1)
        window.location.assign(addressOf(downloadDispatch, { params: { id: r.dispatch.id } }));
      toast.success(
        r.underway
          ? say`Files of ${plural(r.underway.rows, 'row', 'rows')} are being made; ${by === 'hand' ? say`they wait under Settle` : say`they go to ${name} by themselves`}.`
          : by === 'hand'
            ? r.dispatches.length > 1
              ? say`${r.dispatches.length} files are ready, each at its dispatch; give ${name}’s answers there.`
              : say`The file is ready; give ${name}’s answer to its dispatch under Settle.`
            : say`${plural(
                r.dispatches.reduce((n, d) => n + d.total, 0),
                'row is',
                'rows are',
              )} on the way to ${name}.`,
      );
      void navigate(r.dispatch && r.dispatches.length === 1 ? `/${scope}/settle/${r.dispatch.id}` : `/${scope}/settle`);
    },
    onError: (e) => toast.error(e.message),
  });
  if (plan.isLoading) return <Loading />;
  if (plan.error || !plan.data) return <Refused error={plan.error} again={() => void plan.refetch()} />;
  const now = plan.data.operations.find((o) => o.operation === operation);
  const ask = (by: 'wire' | 'hand') => {
    if (warnings.length > 0 || (by === 'wire' && rows > mostUnasked)) setAsking(by);
    else send.mutate(by);
  };
  return (
    <>
      <PageHead
        title={say`Send to ${name}`}
        about={
          <span role="status">
            {plan.data.waiting > 0
              ? say`${plural(plan.data.waiting, 'row is', 'rows are')} on the way and wait for an answer. `
              : ''}
            {plan.data.held.length > 0 &&
              say`Held back: ${plan.data.held.map((h) => wordHeld(h.reason, h.count)).join('; ')}.`}
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
              {say`Look at the file`}
            </button>
            <button
              type="button"
              className={`btn btn-sm ${isByHand ? 'btn-primary' : ''}`}
              disabled={now.count === 0 || send.isPending}
              onClick={() => {
                ask('hand');
              }}
            >
              {say`Download`}
            </button>
            {!isByHand && (
              <button
                type="button"
                className="btn btn-sm"
                disabled={now.count === 0}
                onClick={() => {
                  setForLater(true);
                }}
              >
                {say`At a time …`}
              </button>
            )}
            {!isByHand && (
              <button
                type="button"
                className="btn btn-sm btn-primary"
                disabled={now.count === 0 || send.isPending}
                onClick={() => {
                  ask('wire');
                }}
              >
                {tell`Send ${count(rows)} now`}
              </button>
            )}
          </>
        )}
      </PageHead>
      <ChooseRows choice={choice} set={set} />
      <div className="grid min-h-0 flex-1 grid-rows-[auto_minmax(0,1fr)] border-t border-base-300 lg:grid-cols-[15rem_1fr] lg:grid-rows-1">
        <OperationsNav
          operations={plan.data.operations}
          now={operation}
          onChoose={setChosen}
          together={partner && { isSo: isTogether, set: setTogether }}
        >
          <ByClock market={market} />
        </OperationsNav>
        {plan.data.operations.length === 0 ? (
          isNarrowed ? (
            <Empty title={say`Nothing of this choice is to go.`}>{say`Choose other rows, or all.`}</Empty>
          ) : (
            <Empty title={say`${name} has everything as we hold it.`}>
              {say`Change a price, stock or details and it shows here.`}
            </Empty>
          )
        ) : (
          operation && (
            <PlanRows
              key={`${operation}${held}`}
              choice={choice}
              market={market}
              operation={operation}
              held={held}
              setHeld={setHeld}
              counts={now}
            />
          )
        )}
      </div>
      {isForLater && operation && (
        <SendLater
          market={market}
          operation={operation}
          also={also}
          choice={choice}
          sentence={wordGoing(going, name)}
          warnings={warnings}
          onClose={() => {
            setForLater(false);
          }}
        />
      )}
      {isLooking && operation && (
        <FileLook
          market={market}
          operation={operation}
          choice={choice}
          onClose={() => {
            setLooking(false);
          }}
        />
      )}
      {asking && (
        <ConfirmSend
          sentence={wordGoing(going, name)}
          warnings={warnings}
          isBusy={send.isPending}
          onSend={() => {
            send.mutate(asking);
          }}
          onClose={() => {
            setAsking(undefined);
          }}
        />
      )}
    </>
  );
}

/** Rows that go without being asked about. */
const mostUnasked = 100;

interface Plan {
  operations: readonly { operation: Operation; count: number }[];
  files: Readonly<Record<string, number | null>>;
}

/** What would go now, with the files it needs. */
const goingOf = (plan: Plan, operations: readonly (Operation | undefined)[]): Going[] =>
  operations.flatMap((operation) => {
    const rows = plan.operations.find((o) => o.operation === operation)?.count ?? 0;
    if (operation === undefined || rows === 0) return [];
    return [{ operation, rows, files: plan.files[operation] ?? null }];
  });
