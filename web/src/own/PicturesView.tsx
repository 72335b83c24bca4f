import { askPictureHost, leavePictureHost, listPictureHosts, lookAgain } from '@basileus/contract';
import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { z } from 'zod';
import { call } from '../api/call';
import { Empty, Loading, Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { count, say } from '../ui/text';
import { tell } from '../ui/tell';

type Host = z.output<typeof listPictureHosts.response>['rows'][number];
const hostsQuery = queryOptions({ queryKey: ['pictures', 'hosts'], queryFn: () => call(listPictureHosts) });

/** The hosts of the catalog’s pictures: which of them may be asked, and what was found there. */
export function PicturesView() {
  const { data, error } = useQuery(hostsQuery);
  if (error) return <Refused error={error} />;
  if (!data) return <Loading />;
  if (data.rows.length === 0)
    return (
      <Empty title={say`No item has a picture yet.`}>
        {say`Links to pictures come with a file, or are typed into an item; their hosts show here a minute later.`}
      </Empty>
    );
  return (
    <div className="min-h-0 flex-1 overflow-auto p-5">
      <table className="plain-table panel">
        <thead>
          <tr>
            <th>{say`Host`}</th>
            <th className="text-end">{say`Links`}</th>
            <th className="text-end">{say`There`}</th>
            <th className="text-end">{say`Not there`}</th>
            <th className="text-end">{say`No picture`}</th>
            <th className="text-end">{say`Not reached`}</th>
            <th className="text-end">{say`To be looked at`}</th>
            <th>{say`Asked`}</th>
          </tr>
        </thead>
        <tbody>
          {data.rows.map((h) => (
            <HostLine key={h.host} host={h} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

function HostLine({ host: { host, links, found, asked } }: { host: Host }) {
  const client = useQueryClient();
  const [address, setAddress] = useState(asked?.address ?? '');
  const onSuccess = () => void client.invalidateQueries({ queryKey: ['pictures'] });
  const onError = (e: Error) => toast.error(e.message);
  const ask = useMutation({
    mutationFn: () => call(askPictureHost, { params: { host }, body: { address: address.trim() || null } }),
    ...{ onSuccess, onError },
  });
  const leave = useMutation({
    mutationFn: () => call(leavePictureHost, { params: { host } }),
    ...{ onSuccess, onError },
  });
  const again = useMutation({ mutationFn: () => call(lookAgain, { params: { host } }), ...{ onSuccess, onError } });
  const isBusy = ask.isPending || leave.isPending || again.isPending;
  const cell = (n: number, isWrong = false) => (
    <td className={`num text-end ${isWrong && n > 0 ? 'text-error' : n === 0 ? 'quiet' : ''}`}>{count(n)}</td>
  );
  return (
    <tr>
      <td className="num">{host}</td>
      {cell(links)}
      {cell(found.there)}
      {cell(found.missing, true)}
      {cell(found.strange, true)}
      {cell(found.unreachable, true)}
      {cell(found.waiting)}
      <td>
        <span className="flex flex-wrap items-center gap-2 lg:flex-nowrap lg:whitespace-nowrap">
          {asked ? (
            <>
              <span className="quiet text-sm">
                {asked.address === null ? say`as it is` : <>{tell`at ${asked.address}`}</>}, {asked.by}
              </span>
              <button
                type="button"
                className="btn btn-xs"
                disabled={isBusy}
                onClick={() => {
                  again.mutate();
                }}
              >
                {say`Look again`}
              </button>
              <button
                type="button"
                className="btn btn-xs"
                disabled={isBusy}
                onClick={() => {
                  leave.mutate();
                }}
              >
                {say`Ask no more`}
              </button>
            </>
          ) : (
            <>
              <input
                className="input input-xs num w-64"
                aria-label={say`Address by which ${host} is reached from here`}
                placeholder={`https://${host}`}
                value={address}
                onChange={(e) => {
                  setAddress(e.target.value);
                }}
              />
              <button
                type="button"
                className="btn btn-xs"
                disabled={isBusy}
                onClick={() => {
                  ask.mutate();
                }}
              >
                {say`Look at its pictures`}
              </button>
            </>
          )}
        </span>
      </td>
    </tr>
  );
}
