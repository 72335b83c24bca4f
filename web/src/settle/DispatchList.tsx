import { type DispatchShape } from '@basileus/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { marketsQuery, useScope } from '../frame/scope';
import { Empty, Loading, Refused } from '../ui/faces';
import { Pager } from '../ui/Pager';
import { count, when, say } from '../ui/text';
import { dispatchesOnPage, dispatchesQuery } from './queries';
import { tell } from '../ui/tell';
import { operationNames } from '../ui/terms';

export const dispatchWords: Record<DispatchShape['state'], string> = {
  built: 'built',
  'by hand': say`waits for its receipt, by hand`,
  sending: say`on its way`,
  sent: say`with the market`,
  answered: 'answered',
  failed: 'failed',
  stopped: say`stopped before it left`,
  abandoned: say`given up, without an answer`,
};

/** Dispatches of the scope, newest first. */
export function DispatchList() {
  const { market, scope, isAll } = useScope();
  const [offset, setOffset] = useState(0);
  const markets = useQuery(marketsQuery).data?.rows ?? [];
  const nameOf = (key: string) => markets.find((m) => m.key === key)?.name ?? key;
  const dispatches = useQuery(dispatchesQuery(isAll ? '' : market, offset));
  if (dispatches.isLoading) return <Loading />;
  if (dispatches.error || !dispatches.data)
    return <Refused error={dispatches.error} again={() => void dispatches.refetch()} />;
  if (dispatches.data.total === 0)
    return (
      <Empty title={say`Nothing has been sent yet.`}>
        <Link className="underline" to={`/${scope}/send`}>
          {say`See what is ready to go`}
        </Link>
      </Empty>
    );
  return (
    <div className="min-h-0 flex-1 overflow-auto p-5">
      <table className="plain-table panel">
        <thead>
          <tr>
            <th>{say`Dispatch`}</th>
            {isAll && <th>{say`Market`}</th>}
            <th>{say`What`}</th>
            <th>{say`State`}</th>
            <th className="text-end">{say`Rows`}</th>
            <th className="text-end">{say`Accepted`}</th>
            <th className="text-end">{say`With a remark`}</th>
            <th className="text-end">{say`Refused`}</th>
            <th>{say`Sent`}</th>
            <th>{say`By`}</th>
          </tr>
        </thead>
        <tbody>
          {dispatches.data.rows.map((d) => (
            <tr key={d.id}>
              <td>
                <Link className="underline underline-offset-2" to={`/${scope}/settle/${d.id}`}>
                  {tell`No. ${d.id}`}
                </Link>
              </td>
              {isAll && <td>{nameOf(d.market)}</td>}
              <td>{operationNames[d.operation]}</td>
              <td className={d.state === 'failed' ? 'text-error' : ''}>{dispatchWords[d.state]}</td>
              <td className="num text-end">{count(d.total)}</td>
              <td className="num text-end">{count(d.accepted)}</td>
              <td className="num text-end">{count(d.remarked)}</td>
              <td className={`num text-end ${d.refused ? 'font-semibold text-error' : ''}`}>{count(d.refused)}</td>
              <td>{d.sentAt ? when(d.sentAt) : say`not yet`}</td>
              <td>{d.byClock ? say`${d.by}, by the clock` : d.by}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <Pager offset={offset} size={dispatchesOnPage} total={dispatches.data.total} onGo={setOffset} />
    </div>
  );
}
