import { wordSchedule } from '@basileus/core/change';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { plural, when, say } from '../ui/text';
import { useUrlValue } from '../ui/url';
import { ConnectSystem } from './ConnectSystem';
import { sourcesQuery } from './queries';
import { SourcePage } from './SourcePage';
import { wordRun } from './words';
import { tell } from '../ui/tell';

/** The business systems that items come from; one of them where the address names it. */
export function SourcesPage() {
  const [open] = useUrlValue('source');
  return Number(open) > 0 ? <SourcePage key={open} id={Number(open)} /> : <SystemsList />;
}

function SystemsList() {
  const sources = useQuery(sourcesQuery);
  const navigate = useNavigate();
  const [isAdding, setAdding] = useState(false);
  return (
    <>
      <PageHead title={say`Business systems`} about={say`Where items, codes, cost and stock come from, kept in step`}>
        <Link className="btn btn-sm" to="/all/gather/imports">
          {say`Imports`}
        </Link>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          onClick={() => {
            setAdding(true);
          }}
        >
          {say`Connect one`}
        </button>
      </PageHead>
      <div className="min-h-0 flex-1 overflow-auto border-t border-base-300 p-5">
        {sources.isLoading ? (
          <Loading />
        ) : sources.error || !sources.data ? (
          <Refused error={sources.error} again={() => void sources.refetch()} />
        ) : sources.data.rows.length === 0 ? (
          <Empty title={say`No business system is connected.`}>
            {say`Connect one by its address: its rows are shown before anything comes in.`}
          </Empty>
        ) : (
          <table className="plain-table panel">
            <thead>
              <tr>
                <th>{say`System`}</th>
                <th className="text-end">{say`Rows`}</th>
                <th>{say`When`}</th>
                <th>{say`Last time`}</th>
              </tr>
            </thead>
            <tbody>
              {sources.data.rows.map((s) => (
                <tr key={s.id}>
                  <td>
                    <Link
                      className="font-semibold underline underline-offset-2"
                      to={`/all/gather/sources?source=${s.id}`}
                    >
                      {s.name}
                    </Link>
                    <div className="num quiet text-xs">{s.address}</div>
                  </td>
                  <td className="num text-end">{s.fetchedAt === null ? '' : plural(s.rows, 'row', 'rows')}</td>
                  <td>
                    {s.schedule ? wordSchedule(s.schedule) : <span className="quiet">{say`by hand`}</span>}
                    {s.nextAt && <div className="quiet text-xs">{tell`next ${when(s.nextAt)}`}</div>}
                  </td>
                  <td className={s.lastRun?.state === 'failed' ? 'text-error' : ''}>
                    {s.lastRun ? (
                      <>
                        {wordRun(s.lastRun)}
                        <div className="quiet text-xs">{when(s.lastRun.at)}</div>
                      </>
                    ) : (
                      <span className="quiet">{say`not asked yet`}</span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
      {isAdding && (
        <ConnectSystem
          onClose={() => {
            setAdding(false);
          }}
          onAdded={(s) => void navigate(`/all/gather/sources?source=${s.id}`)}
        />
      )}
    </>
  );
}
