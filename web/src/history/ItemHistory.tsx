import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { useScope } from '../frame/scope';
import { useFields } from '../own/fields';
import { FieldSelect } from '../own/FieldSelect';
import { Difference } from '../ui/Difference';
import { Empty, Loading, Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { when, say } from '../ui/text';
import { changesOnPage, itemHistoryQuery } from './queries';
import { tell } from '../ui/tell';

/** What was changed of one item, on itself or on a market, in one field or in all: who, when, by which change, from what to what. */
export function ItemHistory({ id, sku, onClose }: { id: number; sku: string; onClose: () => void }) {
  const book = useFields(),
    { markets } = useScope();
  const [field, setField] = useState(''),
    [offset, setOffset] = useState(0);
  const page = useQuery(itemHistoryQuery(id, field, offset));
  return (
    <Modal title={say`History of ${sku}`} onClose={onClose} wide>
      <div className="flex items-center gap-2 px-5 pt-4">
        <FieldSelect
          label={say`Field`}
          className="w-52"
          none={say`every field`}
          value={field}
          fields={book.all}
          onChoose={(key) => {
            setField(key);
            setOffset(0);
          }}
        />
        {(offset > 0 || page.data?.isMore) && (
          <span className="ms-auto flex gap-2">
            <button
              type="button"
              className="btn btn-xs"
              disabled={offset === 0}
              onClick={() => {
                setOffset(Math.max(0, offset - changesOnPage));
              }}
            >
              {say`Later`}
            </button>
            <button
              type="button"
              className="btn btn-xs"
              disabled={!page.data?.isMore}
              onClick={() => {
                setOffset(offset + changesOnPage);
              }}
            >
              {say`Earlier`}
            </button>
          </span>
        )}
      </div>
      <div className="p-5">
        {page.isLoading ? (
          <Loading />
        ) : page.error || !page.data ? (
          <Refused error={page.error} again={() => void page.refetch()} />
        ) : page.data.rows.length === 0 ? (
          <Empty title={say`Nothing was changed yet.`}>
            {field === '' ? say`The item is as it came.` : say`This field is as it came.`}
          </Empty>
        ) : (
          <table className="plain-table">
            <thead>
              <tr>
                <th>{say`When`}</th>
                <th>{say`Who`}</th>
                <th>{say`Field`}</th>
                <th>{say`Change`}</th>
                <th>{say`By`}</th>
              </tr>
            </thead>
            <tbody>
              {page.data.rows.map((r, i) => (
                <tr key={`${r.set} ${r.field} ${i}`}>
                  <td className="whitespace-nowrap">{when(r.at)}</td>
                  <td>{r.actor}</td>
                  <td>
                    {r.label}
                    {r.market !== null && (
                      <div className="quiet text-xs">
                        {tell`on ${markets.find((m) => m.key === r.market)?.name ?? r.market}`}
                      </div>
                    )}
                  </td>
                  <td>
                    <Difference before={r.before} after={r.after} />
                  </td>
                  <td>
                    <Link className="underline decoration-base-300 underline-offset-2" to={`/all/history?set=${r.set}`}>
                      {r.title}
                    </Link>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </Modal>
  );
}
