import { joinItems, type Product } from '@basileus/contract';
import { everyItem } from '@basileus/core/choose';
import { toText } from '@basileus/core/listing';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api/call';
import { useFields } from '../own/fields';
import { Loading, Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { toast } from '../ui/messages';
import { plural, say } from '../ui/text';
import { addStock, guessTaken, listDiffering, listNew, together } from './joining';
import { itemsQuery, removalQuery } from './queries';
import { tell } from '../ui/tell';

/** Several items made one: which one stays, and whose value it takes in every field in which they differ. */
export function JoinAsk({ ids, onClose }: { ids: readonly number[]; onClose: () => void }) {
  const items = useQuery(itemsQuery(ids));
  return (
    <Modal title={say`Make one item of ${ids.length}`} onClose={onClose} wide>
      {items.isLoading ? (
        <Loading />
      ) : items.error || !items.data ? (
        <Refused error={items.error} />
      ) : (
        <Joining items={items.data} onClose={onClose} />
      )}
    </Modal>
  );
}

function Joining({ items, onClose }: { items: readonly Product[]; onClose: () => void }) {
  const book = useFields(),
    client = useQueryClient();
  const [kept, setKept] = useState(0),
    [taken, setTaken] = useState<Readonly<Record<string, number>>>({});
  const differing = listDiffering(items, book);
  const others = items.filter((_, i) => i !== kept).map((i) => i.id);
  const look = useQuery(removalQuery({ ...everyItem, ids: others }));
  const join = useMutation({
    mutationFn: () =>
      call(joinItems, { body: { keep: items[kept]!.id, others, values: listNew(differing, kept, taken) } }),
    onSuccess: () => {
      toast.success(say`${plural(others.length, 'item is', 'items are')} joined to ${items[kept]!.sku}.`);
      void client.invalidateQueries();
      onClose();
    },
  });
  const odd = items.find((i) => i.kind === 'family' || i.kind === 'bundle');
  const stays = look.data?.stays.flatMap((s) => s.skus) ?? [];
  return (
    <div className="flex flex-col gap-3 p-5">
      <div className="overflow-auto">
        <table className="plain-table">
          <thead>
            <tr>
              <th>{say`Stays`}</th>
              {items.map((item, i) => (
                <th key={item.id}>
                  <label className="flex items-center gap-2">
                    <input
                      type="radio"
                      name="kept"
                      className="radio radio-sm"
                      checked={kept === i}
                      onChange={() => {
                        setKept(i);
                        setTaken({});
                      }}
                    />
                    <span className="num">{item.sku}</span>
                  </label>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {differing.map((f) => {
              const from = taken[f.field] ?? guessTaken(f, kept);
              const pick = (i: number) => {
                setTaken({ ...taken, [f.field]: i });
              };
              return (
                <tr key={f.field}>
                  <th scope="row" className="text-start font-normal">
                    {book.labelOf(f.field)}
                    {f.field === 'stock' && (
                      <label className="flex items-start gap-2">
                        <input
                          type="radio"
                          name={f.field}
                          className="radio radio-xs mt-1"
                          checked={from === together}
                          onChange={() => {
                            pick(together);
                          }}
                        />
                        <span>
                          {say`added up: `}
                          <span className="num">{addStock(f.values)}</span>
                        </span>
                      </label>
                    )}
                  </th>
                  {f.values.map((v, i) => (
                    <td key={items[i]!.id} className={from === i ? 'bg-primary/8' : ''}>
                      <label className="flex items-start gap-2">
                        <input
                          type="radio"
                          name={f.field}
                          className="radio radio-xs mt-1"
                          checked={from === i}
                          onChange={() => {
                            pick(i);
                          }}
                        />
                        <span className="line-clamp-3 max-w-64 break-words">
                          {v === null ? <span className="quiet italic">{say`nothing`}</span> : toText(v)}
                        </span>
                      </label>
                    </td>
                  ))}
                </tr>
              );
            })}
            {differing.length === 0 && (
              <tr>
                <td colSpan={items.length + 1}>{say`They hold the same in every field.`}</td>
              </tr>
            )}
          </tbody>
        </table>
      </div>
      {odd && (
        <p className="text-error" role="alert">
          {tell`${odd.sku} is a ${odd.kind}; singles and variants are joined. Leave it out.`}
        </p>
      )}
      {!odd && stays.length > 0 && (
        <p className="text-error" role="alert">
          {tell`${stays.join(', ')} cannot go: it stands on a market or is on its way there, or a bundle holds it. Let it be the one that stays.`}
        </p>
      )}
      {join.error && <Refused error={join.error} />}
      <div className="flex gap-2">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={odd !== undefined || !look.data || stays.length > 0 || join.isPending}
          onClick={() => {
            join.mutate();
          }}
        >
          {tell`Join to ${items[kept]?.sku}`}
        </button>
        <button type="button" className="btn btn-sm" onClick={onClose}>
          {say`Leave them`}
        </button>
      </div>
    </div>
  );
}
