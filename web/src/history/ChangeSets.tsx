import { type ReversalCounts } from '@basileus/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Empty, Loading, Refused } from '../ui/faces';
import { Pager } from '../ui/Pager';
import { count, when, say } from '../ui/text';
import { wordReversal } from './reversal';
import { TakeBack } from './TakeBack';
import { changeSetsQuery, setsOnPage } from './queries';

/** Bulk changes, newest first, each to be looked at and taken back; of one person, or of all where none is named. */
export function ChangeSets({ by, onOpen }: { by: string; onOpen: (id: number) => void }) {
  const [offset, setOffset] = useState(0);
  const sets = useQuery(changeSetsQuery(by, offset));
  const [looking, setLooking] = useState<number>();
  if (sets.isLoading) return <Loading />;
  if (sets.error || !sets.data) return <Refused error={sets.error} again={() => void sets.refetch()} />;
  if (sets.data.total === 0)
    return <Empty title={by === '' ? say`Nothing has been changed yet.` : say`${by} has changed nothing.`} />;
  return (
    <>
      <table className="plain-table panel">
        <thead>
          <tr>
            <th>{say`Change`}</th>
            <th>{say`Who`}</th>
            <th>{say`When`}</th>
            <th className="text-end">{say`Cells`}</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {sets.data.rows.map((s) => (
            <tr key={s.id}>
              <td>
                <button
                  type="button"
                  className="underline decoration-base-300 underline-offset-2"
                  onClick={() => {
                    onOpen(s.id);
                  }}
                >
                  {s.title}
                </button>
                {s.outcome && <Became counts={s.outcome} />}
              </td>
              <td>{s.actor}</td>
              <td>{when(s.at)}</td>
              <td className="num text-end">{count(s.cells)}</td>
              <td className="text-end">
                {!s.isDone ? (
                  <span className="quiet">{say`being written …`}</span>
                ) : s.reversed ? (
                  <span className="quiet">{say`taken back`}</span>
                ) : (
                  <button
                    type="button"
                    className="btn btn-xs"
                    onClick={() => {
                      setLooking(s.id);
                    }}
                  >
                    {say`Take back …`}
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Pager offset={offset} size={setsOnPage} total={sets.data.total} onGo={setOffset} />
      {looking !== undefined && (
        <TakeBack
          id={looking}
          onClose={() => {
            setLooking(undefined);
          }}
        />
      )}
    </>
  );
}

/** What taking back has done, under its title. */
function Became({ counts }: { counts: ReversalCounts }) {
  const { does, leaves } = wordReversal(counts);
  return (
    <div className="quiet text-xs">
      {does.join(', ') || say`Nothing was put back`}.
      {leaves.length > 0 && say` Left as they are: ${leaves.join('; ')}.`}
    </div>
  );
}
