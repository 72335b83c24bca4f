import { settleDrift } from '@basileus/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { Empty, Loading, Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { Pager } from '../ui/Pager';
import { tell } from '../ui/tell';
import { count, plural, say, when } from '../ui/text';
import { driftQuery, entriesOnPage } from './queries';

/** Entries that the market shows otherwise than it took them, and what is to hold: ours, or what stands there. */
export function DriftList({ market }: { market: string }) {
  const { name } = useScope();
  const client = useQueryClient();
  const [offset, setOffset] = useState(0),
    [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const drift = useQuery(driftQuery(market, offset));
  const settle = useMutation({
    mutationFn: ({ ids, how }: { ids: number[]; how: 'ours' | 'theirs' }) =>
      call(settleDrift, { params: { market }, body: { ids, how } }),
    onSuccess: (r, { how }) => {
      toast.success(
        how === 'ours'
          ? say`${plural(r.settled, 'entry goes', 'entries go')} again with the next sending.`
          : say`${plural(r.settled, 'entry has', 'entries have')} the prices that ${name} shows; the change history takes it back.`,
      );
      void client.invalidateQueries({ queryKey: ['listings'] });
      void client.invalidateQueries({ queryKey: ['overview'] });
    },
    onError: (e) => toast.error(e.message),
  });
  if (drift.isLoading) return <Loading />;
  if (drift.error || !drift.data) return <Refused error={drift.error} again={() => void drift.refetch()} />;
  const { rows, total } = drift.data;
  if (total === 0)
    return (
      <Empty
        title={say`${name} shows everything as it took it.`}
      >{say`Prices and stock are compared whenever its list of entries is read.`}</Empty>
    );
  const chosen = rows.filter((r) => !left.has(r.listingId)).map((r) => r.listingId);
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-auto p-5">
      <div className="flex flex-wrap items-center gap-2">
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={chosen.length === 0 || settle.isPending}
          onClick={() => {
            settle.mutate({ ids: chosen, how: 'ours' });
          }}
        >
          {tell`Send ours again (${count(chosen.length)})`}
        </button>
        <button
          type="button"
          className="btn btn-sm"
          disabled={chosen.length === 0 || settle.isPending}
          onClick={() => {
            settle.mutate({ ids: chosen, how: 'theirs' });
          }}
        >
          {say`Take its prices`}
        </button>
        <span className="quiet text-sm">
          {say`Stock that is less there was sold there and is not listed; stock is always ours to say.`}
        </span>
      </div>
      <table className="plain-table panel">
        <thead>
          <tr>
            <th className="w-8">
              <span className="sr-only">{say`Chosen`}</span>
            </th>
            <th>SKU</th>
            <th>{say`Title`}</th>
            <th>{say`Field`}</th>
            <th className="text-end">{say`It shows`}</th>
            <th className="text-end">{say`It took`}</th>
            <th className="text-end">{say`Ours now`}</th>
            <th>{say`Since`}</th>
            <th>{say`As buyers see it`}</th>
          </tr>
        </thead>
        <tbody>
          {rows.flatMap((r) =>
            r.fields.map((f, i) => (
              <tr key={`${r.listingId} ${f.field}`}>
                <td>
                  {i === 0 && (
                    <input
                      type="checkbox"
                      className="checkbox checkbox-sm"
                      aria-label={say`Choose ${r.sku}`}
                      checked={!left.has(r.listingId)}
                      onChange={(e) => {
                        const next = new Set(left);
                        if (e.target.checked) next.delete(r.listingId);
                        else next.add(r.listingId);
                        setLeft(next);
                      }}
                    />
                  )}
                </td>
                <td className="num whitespace-nowrap">
                  {i === 0 && (
                    <Link
                      className="underline decoration-base-300 underline-offset-2"
                      to={`/${market}/prepare?q=${encodeURIComponent(r.sku)}`}
                    >
                      {r.sku}
                    </Link>
                  )}
                </td>
                <td>{i === 0 && r.title}</td>
                <td>{f.label}</td>
                <td className="num text-end font-semibold text-warning">{f.shows === '' ? say`nothing` : f.shows}</td>
                <td className="num text-end">{f.took === '' ? say`nothing` : f.took}</td>
                <td className="num text-end">{f.ours === '' ? say`nothing` : f.ours}</td>
                <td className="whitespace-nowrap">{when(r.since)}</td>
                <td>
                  {i === 0 && r.link && (
                    <a className="underline" href={r.link} target="_blank" rel="noreferrer">
                      {say`Open the page`}
                    </a>
                  )}
                </td>
              </tr>
            )),
          )}
        </tbody>
      </table>
      <Pager offset={offset} size={entriesOnPage} total={total} onGo={setOffset} />
    </div>
  );
}
