import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Loading, Refused } from '../ui/faces';
import { Pager } from '../ui/Pager';
import { when, say } from '../ui/text';
import { entriesOnPage, historyQuery } from './queries';
import { wordHistory } from './words';

/** Who did what, newest first. */
export function HistoryLog() {
  const [offset, setOffset] = useState(0);
  const log = useQuery(historyQuery(offset));
  if (log.isLoading) return <Loading />;
  if (log.error || !log.data) return <Refused error={log.error} again={() => void log.refetch()} />;
  return (
    <>
      <table className="plain-table panel">
        <thead>
          <tr>
            <th>{say`When`}</th>
            <th>{say`Who`}</th>
            <th>{say`What`}</th>
            <th>{say`Detail`}</th>
          </tr>
        </thead>
        <tbody>
          {log.data.rows.map(({ id, at, actor, fact }) => {
            const { what, detail } = wordHistory(fact);
            return (
              <tr key={id}>
                <td className="whitespace-nowrap">{when(at)}</td>
                <td>{actor}</td>
                <td>{what}</td>
                <td className="quiet">{detail}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <Pager offset={offset} size={entriesOnPage} total={log.data.total} onGo={setOffset} />
    </>
  );
}
