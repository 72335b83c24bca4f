import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Difference } from '../ui/Difference';
import { Loading, Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { Pager } from '../ui/Pager';
import { plural, say } from '../ui/text';
import { TakeBack } from './TakeBack';
import { cellsOnPage, changeSetQuery } from './queries';
import { tell } from '../ui/tell';

const leftWords = {
  changed: say`Not taken back: changed again since.`,
  stock: say`Not taken back: stock is never put back.`,
  gone: say`Not taken back: the item is gone.`,
  refused: say`Not taken back: the old value is no longer taken.`,
};
const keptWords = {
  changed: say`changed since`,
  sent: say`stands on a market or is on its way there`,
  family: say`its variants stay`,
  part: say`part of a bundle`,
  taken: say`its SKU is taken`,
};

/** So many items are named at the most. */
const mostItems = 200;

/** Every cell of a change set, before and after. */
export function SetCells({ id, onClose }: { id: number; onClose: () => void }) {
  const [offset, setOffset] = useState(0),
    [marked, setMarked] = useState<ReadonlySet<string>>(new Set()),
    [isAsking, setAsking] = useState(false);
  const { data, error, isLoading } = useQuery(changeSetQuery(id, offset));
  const canMark = data !== undefined && data.set.isDone && !data.set.reversed && data.set.cells > 0;
  return (
    <Modal title={data?.set.title ?? say`Change`} onClose={onClose} wide>
      {isLoading ? (
        <Loading />
      ) : error || !data ? (
        <Refused error={error} />
      ) : (
        <div className="p-4">
          {data.kept.length > 0 && (
            <p className="mb-3">
              {tell`Items that stay: ${data.kept.map((k) => `${k.sku} (${keptWords[k.leftAs]})`).join(', ')}.`}
            </p>
          )}
          {(['added', 'removed'] as const).map((action) => {
            const some = data.items.filter((i) => i.action === action).map((i) => i.sku);
            return (
              some.length > 0 && (
                <p key={action} className="mb-3">
                  {tell`Items ${action}: ${(<span className="num">{some.join(', ')}</span>)}${some.length === mostItems && say` and perhaps more`}.`}
                </p>
              )
            );
          })}
          <table className="plain-table">
            <thead>
              <tr>
                {canMark && (
                  <th className="w-6">
                    <span className="sr-only">{say`Taken back`}</span>
                  </th>
                )}
                <th>SKU</th>
                <th>{say`Field`}</th>
                <th>{say`Change`}</th>
              </tr>
            </thead>
            <tbody>
              {data.cells.map((c) => (
                <tr key={`${c.sku} ${c.field}`}>
                  {canMark && (
                    <td>
                      <input
                        type="checkbox"
                        className="checkbox checkbox-sm"
                        aria-label={say`Take ${c.sku} back`}
                        checked={marked.has(c.sku)}
                        onChange={(e) => {
                          const next = new Set(marked);
                          if (e.target.checked) next.add(c.sku);
                          else next.delete(c.sku);
                          setMarked(next);
                        }}
                      />
                    </td>
                  )}
                  <td className="num whitespace-nowrap">{c.sku}</td>
                  <td>{c.label}</td>
                  <td>
                    <Difference before={c.before} after={c.after} />
                    {c.leftAs && <div className="text-warning">{leftWords[c.leftAs]}</div>}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {canMark && (
            <button
              type="button"
              className="btn btn-sm mt-3"
              disabled={marked.size === 0}
              onClick={() => {
                setAsking(true);
              }}
            >
              {marked.size === 0
                ? say`Take marked items back …`
                : say`Take ${plural(marked.size, 'item', 'items')} back …`}
            </button>
          )}
          {isAsking && (
            <TakeBack
              id={id}
              skus={[...marked]}
              onClose={() => {
                setAsking(false);
                setMarked(new Set());
              }}
            />
          )}
          <Pager offset={offset} size={cellsOnPage} total={data.set.cells} onGo={setOffset} />
        </div>
      )}
    </Modal>
  );
}
