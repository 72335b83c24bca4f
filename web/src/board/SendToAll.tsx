import { createDispatch, type Overview } from '@basileus/contract';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { nameRows } from '../send/words';
import { Modal } from '../ui/Modal';
import { count, plural, say } from '../ui/text';
import { listSendings, type Sending } from './sendings';

interface Outcome {
  sending: Sending;
  /** What the server said where it did not send; undefined where it did. */
  refused?: string;
  /** Its files are being made by a job, and go by themselves. */
  isBeingMade?: boolean;
}

/** Everything that is ready, to all markets or to those that a person leaves in. */
export function SendToAll({ overviews }: { overviews: readonly (Overview | undefined)[] }) {
  const { markets } = useScope();
  const [isAsking, setAsking] = useState(false);
  const found = markets.map((m, i) => ({ key: m.key, overview: overviews[i] }));
  const all = listSendings(found, new Set());
  const rows = all.reduce((n, s) => n + s.rows, 0);
  return (
    <>
      <button
        type="button"
        className="btn btn-sm btn-primary"
        // What is not known yet would be left out without a word.
        disabled={rows === 0 || overviews.includes(undefined)}
        onClick={() => {
          setAsking(true);
        }}
      >
        {say`Send all that is ready …`}
      </button>
      {isAsking && (
        <AskAll
          found={found}
          onClose={() => {
            setAsking(false);
          }}
        />
      )}
    </>
  );
}

function AskAll({
  found,
  onClose,
}: {
  found: readonly { key: string; overview: Overview | undefined }[];
  onClose: () => void;
}) {
  const { markets } = useScope();
  const client = useQueryClient();
  const nameOf = (key: string): string => markets.find((m) => m.key === key)?.name ?? key;
  const [leftOut, setLeftOut] = useState<ReadonlySet<string>>(new Set());
  // What was ready when the question came up is what it is about; counts go on moving behind it.
  const [asked] = useState(() => listSendings(found, new Set()));
  // One key for the whole order, so that pressing twice sends once.
  const order = useMemo(() => crypto.randomUUID(), []);
  const chosen = asked.filter((s) => !leftOut.has(s.market));
  const rows = chosen.reduce((n, s) => n + s.rows, 0);
  const [outcomes, setOutcomes] = useState<readonly Outcome[]>([]);
  const send = useMutation({
    mutationFn: async (): Promise<void> => {
      for (const sending of chosen) {
        const { market, operation, also } = sending;
        const key = `${order}-${market}-${operation}`.slice(0, 100);
        let outcome: Outcome;
        try {
          const { underway } = await call(createDispatch, {
            params: { market },
            body: { operation, ...(also ? { also } : {}), key, looked: false, by: 'wire' },
          });
          outcome = { sending, isBeingMade: underway !== null };
        } catch (error) {
          outcome = { sending, refused: error instanceof Error ? error.message : say`It was not sent.` };
        }
        setOutcomes((before) => [...before, outcome]);
      }
    },
    onSettled: () => void client.invalidateQueries(),
  });
  const outcomeOf = (s: Sending): Outcome | undefined => outcomes.find((o) => o.sending === s);
  return (
    <Modal title={send.isSuccess ? say`What was sent` : say`Send all that is ready`} onClose={onClose}>
      <div className="flex flex-col gap-4 overflow-auto p-4">
        {[...new Set(asked.map((s) => s.market))].map((market) => (
          <fieldset key={market} className="flex flex-col gap-1" disabled={send.isPending || send.isSuccess}>
            <label className="flex items-center gap-2 font-semibold">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={!leftOut.has(market)}
                onChange={(e) => {
                  const next = new Set(leftOut);
                  if (e.target.checked) next.delete(market);
                  else next.add(market);
                  setLeftOut(next);
                }}
              />
              {nameOf(market)}
            </label>
            <ul className="ms-7 text-sm">
              {asked
                .filter((s) => s.market === market)
                .map((s) => (
                  <SendingLine key={s.operation} sending={s} outcome={outcomeOf(s)} />
                ))}
            </ul>
          </fieldset>
        ))}
        {send.isIdle && (
          <p className="quiet text-sm">
            {say`Withdrawals stay behind: they are sent at their market, which says what they burn. What is surprising is not sent either, until somebody has looked at it.`}
          </p>
        )}
        {send.isSuccess ? (
          <Link className="btn btn-sm btn-primary w-fit" to="/all/settle">
            {say`See them under Settle`}
          </Link>
        ) : (
          <button
            type="button"
            className="btn btn-sm btn-primary w-fit"
            disabled={rows === 0 || send.isPending}
            onClick={() => {
              send.mutate();
            }}
          >
            {send.isPending
              ? say`Sending ${count(Math.min(outcomes.length + 1, chosen.length))} of ${count(chosen.length)} …`
              : say`Send ${plural(rows, 'row', 'rows')} to ${plural(new Set(chosen.map((s) => s.market)).size, 'market', 'markets')}`}
          </button>
        )}
      </div>
    </Modal>
  );
}

function SendingLine({ sending: s, outcome }: { sending: Sending; outcome: Outcome | undefined }) {
  return (
    <li>
      <span className="num">{count(s.rows)}</span> {s.also ? say`prices and stocks` : nameRows(s.operation, s.rows)}
      {outcome && (
        <span role="status" className={outcome.refused ? 'text-error' : 'text-success'}>
          {outcome.refused ? (
            <>
              : {outcome.refused}{' '}
              <Link className="underline" to={`/${s.market}/send?operation=${s.operation}`}>
                {say`Look at them`}
              </Link>
            </>
          ) : (
            `: ${outcome.isBeingMade ? say`files are being made, and go by themselves` : say`on the way`}`
          )}
        </span>
      )}
    </li>
  );
}
