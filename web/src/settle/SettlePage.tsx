import { type DispatchShape, listDispatches, readShelf } from '@basileus/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { Empty, Loading, PageHead, Refused, Views } from '../ui/faces';
import { Seal } from '../ui/Seal';
import { count, when } from '../ui/text';
import { useUrlValue } from '../ui/url';

export const dispatchWords: Record<DispatchShape['state'], string> = {
  built: 'built',
  'by hand': 'waits for its receipt, by hand',
  sending: 'on its way',
  sent: 'with the market',
  answered: 'answered',
  failed: 'failed',
};

export function SettlePage() {
  const { market, name, scope, isAll } = useScope();
  const [state, setState] = useUrlValue('state', 'dispatches');
  const dispatches = useQuery({
    queryKey: ['dispatches', isAll ? '' : market],
    queryFn: () => call(listDispatches, { query: { market: isAll ? '' : market, limit: 100 } }),
  });
  const shelf = useQuery({
    queryKey: ['listings', 'shelf', market, state],
    queryFn: () =>
      call(readShelf, { params: { market }, query: { state: state === 'dispatches' ? 'live' : state, limit: 300 } }),
  });
  const counts = shelf.data?.counts ?? {};
  return (
    <>
      <PageHead title={isAll ? 'Settle' : `Settle with ${name}`} />
      <Views
        label="Views of Settle"
        now={state}
        onChoose={setState}
        views={[
          { key: 'dispatches', label: 'Dispatches' },
          ...['live', 'in review', 'refused', 'sent', 'withdrawn'].map((s) => ({
            key: s,
            label: s[0]!.toUpperCase() + s.slice(1),
            count: counts[s] ?? 0,
          })),
        ]}
      />
      {state === 'dispatches' ? (
        dispatches.isLoading ? (
          <Loading />
        ) : dispatches.error ? (
          <Refused error={dispatches.error} />
        ) : dispatches.data!.rows.length === 0 ? (
          <Empty title="Nothing has been sent yet.">
            <Link className="underline" to={`/${scope}/send`}>
              See what is ready to go
            </Link>
          </Empty>
        ) : (
          <div className="overflow-auto p-5">
            <table className="plain-table panel">
              <thead>
                <tr>
                  <th>Dispatch</th>
                  <th>What</th>
                  <th>State</th>
                  <th className="text-right">Rows</th>
                  <th className="text-right">Accepted</th>
                  <th className="text-right">With a remark</th>
                  <th className="text-right">Refused</th>
                  <th>Sent</th>
                  <th>By</th>
                </tr>
              </thead>
              <tbody>
                {dispatches.data!.rows.map((d) => (
                  <tr key={d.id}>
                    <td>
                      <Link className="underline underline-offset-2" to={`/${scope}/settle/${d.id}`}>
                        No. {d.id}
                      </Link>
                    </td>
                    <td>{d.operation}</td>
                    <td className={d.state === 'failed' ? 'text-error' : ''}>{dispatchWords[d.state]}</td>
                    <td className="num text-right">{count(d.total)}</td>
                    <td className="num text-right">{count(d.accepted)}</td>
                    <td className="num text-right">{count(d.remarked)}</td>
                    <td className={`num text-right ${d.refused ? 'font-semibold text-error' : ''}`}>
                      {count(d.refused)}
                    </td>
                    <td>{d.sentAt ? when(d.sentAt) : 'not yet'}</td>
                    <td>{d.by}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )
      ) : shelf.isLoading ? (
        <Loading />
      ) : shelf.error ? (
        <Refused error={shelf.error} />
      ) : shelf.data!.rows.length === 0 ? (
        <Empty title={`Nothing is ${state}.`} />
      ) : (
        <div className="overflow-auto p-5">
          <table className="plain-table panel">
            <thead>
              <tr>
                <th>SKU</th>
                <th>Title</th>
                <th>State</th>
                <th>Entry</th>
                <th>Since</th>
                <th>As buyers see it</th>
              </tr>
            </thead>
            <tbody>
              {shelf.data!.rows.map((r) => (
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
                    <Seal state={r.state} />
                  </td>
                  <td className="num">{r.number ?? ''}</td>
                  <td>{r.since ? when(r.since) : ''}</td>
                  <td>
                    {r.link && (
                      <a className="underline" href={r.link} target="_blank" rel="noreferrer">
                        Open the page
                      </a>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </>
  );
}
