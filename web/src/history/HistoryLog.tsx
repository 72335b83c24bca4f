import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Empty, Loading, Refused } from '../ui/faces';
import { Pager } from '../ui/Pager';
import { when, say } from '../ui/text';
import { entriesOnPage, historyQuery } from './queries';
import { wordHistory } from './words';

/** Who did what, newest first; of one person, or of all where none is named. */
export function HistoryLog({ by }: { by: string }) {
  const [offset, setOffset] = useState(0);
  const log = useQuery(historyQuery(by, offset));
  if (log.isLoading) return <Loading />;
  if (log.error || !log.data) return <Refused error={log.error} again={() => void log.refetch()} />;
  if (log.data.total === 0)
    return <Empty title={by === '' ? say`Nothing has been done yet.` : say`${by} has done nothing of this kind.`} />;
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
