import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { Empty, Loading, Refused } from '../ui/faces';
import { Pager } from '../ui/Pager';
import { Seal } from '../ui/Seal';
import { when, say } from '../ui/text';
import { entriesOnPage, shelfQuery } from './queries';

/** Listings in one state on the market, each with a link to the page as buyers see it. */
export function ShelfList({ market, state }: { market: string; state: string }) {
  const [offset, setOffset] = useState(0);
  const shelf = useQuery(shelfQuery(market, state, offset));
  if (shelf.isLoading) return <Loading />;
  if (shelf.error || !shelf.data) return <Refused error={shelf.error} again={() => void shelf.refetch()} />;
  if (shelf.data.rows.length === 0 && offset === 0) return <Empty title={say`Nothing is ${state}.`} />;
  return (
    <div className="min-h-0 flex-1 overflow-auto p-5">
      <table className="plain-table panel">
        <thead>
          <tr>
            <th>SKU</th>
            <th>{say`Title`}</th>
            <th>{say`State`}</th>
            <th>{say`Entry`}</th>
            <th>{say`Since`}</th>
            <th>{say`As buyers see it`}</th>
          </tr>
        </thead>
        <tbody>
          {shelf.data.rows.map((r) => (
            <tr key={r.listingId}>
              <td className="num whitespace-nowrap">
                <Link
                  className="underline decoration-base-300 underline-offset-2"
                  to={`/${market}/prepare?q=${encodeURIComponent(r.sku)}`}
                >
                  {r.sku}
                </Link>
              </td>
              <td>{r.title}</td>
              <td>
                {r.sites.length === 0 ? (
                  <span className="flex flex-col">
                    <Seal state={r.state} />
                    {r.reason !== '' && <span className="quiet text-xs">{r.reason}</span>}
                  </span>
                ) : (
                  r.sites.map((s) => (
                    <div key={s.site} className="flex items-center gap-2 whitespace-nowrap" title={s.reason}>
                      <Seal state={s.state} /> <span className="quiet">{s.name}</span>
                    </div>
                  ))
                )}
              </td>
              <td className="num">{r.number ?? ''}</td>
              <td>{r.since ? when(r.since) : ''}</td>
              <td>
                {r.sites.map(
                  (s) =>
                    s.link && (
                      <a key={s.site} className="me-3 underline" href={s.link} target="_blank" rel="noreferrer">
                        {s.name}
                      </a>
                    ),
                )}
                {r.sites.length === 0 && r.link && (
                  <a className="underline" href={r.link} target="_blank" rel="noreferrer">
                    {say`Open the page`}
                  </a>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Pager offset={offset} size={entriesOnPage} total={shelf.data.counts[state] ?? 0} onGo={setOffset} />
    </div>
  );
}
