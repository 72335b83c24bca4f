import { changeSending, createSending, removeSending, runSending, type SendingShape } from '@basileus/contract';
import type { Schedule } from '@basileus/core/change';
import type { ClockOperation } from '@basileus/core/feed';
import { findForm } from '@basileus/core/forms';
import { operations as allOperations } from '@basileus/core/rulebook';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { call, CallError } from '../api/call';
import { rulebookQuery, useScope } from '../frame/scope';
import { Modal } from '../ui/Modal';
import { toast } from '../ui/messages';
import { MomentField, toMoment } from '../ui/MomentField';
import { ScheduleField } from '../ui/ScheduleField';
import { tell } from '../ui/tell';
import { say, when } from '../ui/text';
import { listChoices, meantBy, wordOutcome, wordSending, wordStayed, wordTimes } from './clock-words';
import { operationTitles } from './words';

/** One sending by the clock: what goes and when, how it went, and what can be done with it. */
export function SendingDialog({
  market,
  sending,
  others,
  onClose,
}: {
  market: string;
  sending: SendingShape | undefined;
  others: readonly SendingShape[];
  onClose: () => void;
}) {
  const { markets } = useScope();
  const name = markets.find((m) => m.key === market)?.name ?? market;
  const client = useQueryClient();
  const isOnce = sending?.schedule === null;
  const [operations, setOperations] = useState<readonly ClockOperation[]>(
    sending ? sending.operations.filter((o): o is ClockOperation => o !== 'withdraw') : [],
  );
  const [schedule, setSchedule] = useState<Schedule | null>(
    sending?.schedule ?? { every: 'hours', hours: 1, at: '06:00' },
  );
  const [at, setAt] = useState(() => (sending?.at ? toMoment(new Date(sending.at)) : ''));
  const done = (says: string) => {
    toast.success(says);
    void client.invalidateQueries({ queryKey: ['dispatches'] });
    void client.invalidateQueries({ queryKey: ['listings'] });
    onClose();
  };
  const save = useMutation({
    mutationFn: () =>
      isOnce
        ? call(changeSending, { params: { id: sending.id }, body: { at: new Date(at).toISOString() } })
        : sending
          ? call(changeSending, {
              params: { id: sending.id },
              body: { operations: [...operations], schedule: schedule! },
            })
          : call(createSending, {
              params: { market },
              body: { is: 'again', operations: [...operations], schedule: schedule! },
            }),
    onSuccess: (s) => {
      done(say`${wordSending(s)}: ${wordTimes(s)}.`);
    },
  });
  const run = useMutation({
    mutationFn: (id: number) => call(runSending, { params: { id } }),
    onSuccess: () => {
      done(say`It is being sent now; Settle shows it.`);
    },
  });
  const callOff = useMutation({
    mutationFn: (id: number) => call(removeSending, { params: { id } }),
    onSuccess: () => {
      done(sending?.at === null ? say`It is off the list.` : say`It is called off.`);
    },
  });
  const error = save.error ?? run.error ?? callOff.error;
  const isBusy = save.isPending || run.isPending || callOff.isPending;
  const isOver = sending?.at === null;
  return (
    <Modal title={isOnce ? say`${wordSending(sending)} to ${name}` : say`By the clock to ${name}`} onClose={onClose}>
      <form
        className="flex flex-col gap-4 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          save.mutate();
        }}
      >
        {isOnce ? (
          !isOver && <MomentField label={say`Goes at`} value={at} onChange={setAt} />
        ) : (
          <>
            <OperationsChoice market={market} chosen={operations} others={others} onChange={setOperations} />
            <ScheduleField schedule={schedule} what={say`sent`} onChange={setSchedule} />
          </>
        )}
        <p className="quiet text-xs">
          {isOnce
            ? say`These rows wait for the time, whatever else is sent. What has a blocker by then stays behind.`
            : say`What is held back stays. What would touch much of what is live at once stays too, until somebody has looked, and is said on Home.`}
        </p>
        {sending?.last && <Outcome market={market} sending={sending} />}
        {error && (
          <p role="alert" className="text-error">
            {error instanceof CallError ? `${error.body.message} ${error.body.remedy ?? ''}` : error.message}
          </p>
        )}
        <div className="flex flex-wrap gap-2">
          {!isOver && (
            <button
              type="submit"
              className="btn btn-sm btn-primary"
              disabled={isBusy || (isOnce ? at === '' : operations.length === 0 || schedule === null)}
            >
              {isOnce ? say`Set this time` : sending ? say`Change it` : say`Set it`}
            </button>
          )}
          {sending && !isOver && (
            <button
              type="button"
              className="btn btn-sm"
              disabled={isBusy}
              onClick={() => {
                run.mutate(sending.id);
              }}
            >
              {say`Send now`}
            </button>
          )}
          {sending && (
            <button
              type="button"
              className="btn btn-sm ms-auto"
              disabled={isBusy}
              onClick={() => {
                callOff.mutate(sending.id);
              }}
            >
              {isOver ? say`Take it off the list` : say`Call it off`}
            </button>
          )}
        </div>
      </form>
    </Modal>
  );
}

/** How it went the last time, with what came of it. */
function Outcome({ market, sending }: { market: string; sending: SendingShape }) {
  const last = sending.last!;
  return (
    <div className="text-sm">
      <p>{say`Last, ${when(last.at)}: ${wordOutcome(last)}.`}</p>
      {wordStayed(last).map((s) => (
        <p key={s} className="mt-1 border-s-4 border-warning ps-3">
          {tell`${s} ${(
            <Link key="look" className="underline" to={`/${market}/send?operation=${last.surprises[0]!.operation}`}>
              {say`Look at them`}
            </Link>
          )}`}
        </p>
      ))}
      {last.dispatches.length > 0 && (
        <p className="flex flex-wrap gap-x-2">
          {last.dispatches.map((d) => (
            <Link key={d} className="num underline" to={`/${market}/settle/${d}`}>
              {say`dispatch ${d}`}
            </Link>
          ))}
        </p>
      )}
    </div>
  );
}

/** What may go by the clock to a market; what goes by another sending already cannot be chosen twice. */
function OperationsChoice({
  market,
  chosen,
  others,
  onChange,
}: {
  market: string;
  chosen: readonly ClockOperation[];
  others: readonly SendingShape[];
  onChange: (operations: readonly ClockOperation[]) => void;
}) {
  const book = useQuery(rulebookQuery(market)).data;
  const taken = book ? allOperations.filter((o) => findForm(book, o)) : [];
  const isElsewhere = (o: string): boolean =>
    others.some((s) => s.schedule !== null && s.operations.some((x) => x === o));
  return (
    <fieldset className="grid grid-cols-2 gap-1">
      <legend className="quiet pb-1 text-xs">{say`What goes`}</legend>
      {listChoices(taken).map((o) => {
        const meant = meantBy(o, taken) as ClockOperation[];
        return (
          <label key={o} className={`flex items-center gap-2 ${isElsewhere(o) ? 'quiet' : ''}`}>
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              disabled={isElsewhere(o)}
              checked={chosen.includes(o as ClockOperation)}
              onChange={(e) => {
                const rest = chosen.filter((c) => !meant.includes(c));
                onChange(e.target.checked ? [...rest, ...meant] : rest);
              }}
            />
            {operationTitles[o]}
            {isElsewhere(o) && <span className="text-xs">{say`(goes by the clock already)`}</span>}
          </label>
        );
      })}
    </fieldset>
  );
}
