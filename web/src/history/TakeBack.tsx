import { type ReversalLook, reverseChangeSet } from '@basileus/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api/call';
import { Loading, Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { plural, say } from '../ui/text';
import { wordReversal } from './reversal';
import { reversalQuery } from './queries';

type Other = ReversalLook['others'][number];
/** Whether taking it back would do anything. */
const doesAnything = (o: Other): boolean => wordReversal(o.counts).does.length > 0;

/** Says what taking a change back would do, before it is done. */
export function TakeBack({
  id,
  skus = [],
  onClose,
}: {
  id: number;
  /** Items to which it is held; all where none is named. */
  skus?: readonly string[];
  onClose: () => void;
}) {
  const client = useQueryClient();
  const look = useQuery(reversalQuery(id, skus));
  // What the same deed changed elsewhere goes back with it, unless somebody says otherwise.
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const others = look.data?.others.filter(doesAnything) ?? [];
  const along = others.filter((o) => !left.has(o.id)).map((o) => o.id);
  const reverse = useMutation({
    mutationFn: () => call(reverseChangeSet, { params: { id }, body: { skus: [...skus], others: along } }),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ['products'] });
      onClose();
    },
  });
  const words = look.data && wordReversal(look.data);
  return (
    <Modal
      title={
        skus.length === 0
          ? say`Take this change back`
          : say`Take ${plural(skus.length, 'item', 'items')} of this change back`
      }
      onClose={onClose}
    >
      {look.isLoading ? (
        <Loading what={say`Comparing with what stands there now`} />
      ) : look.error || !words ? (
        <Refused error={look.error} again={() => void look.refetch()} />
      ) : (
        <div className="flex flex-col gap-3 p-5">
          {words.does.length > 0 ? (
            <List title={say`This would happen`} lines={words.does} />
          ) : (
            <p>{say`Nothing would be put back: everything has changed since, or stands as it was before.`}</p>
          )}
          {words.leaves.length > 0 && <List title={say`This would stay as it is`} lines={words.leaves} />}
          {others.length > 0 && (
            <Others
              others={others}
              left={left}
              onTurn={(other, isLeft) => {
                setLeft(isLeft ? new Set([...left, other]) : new Set([...left].filter((l) => l !== other)));
              }}
            />
          )}
          {reverse.error && <Refused error={reverse.error} />}
          <div className="flex gap-2">
            <button
              type="button"
              className="btn btn-primary btn-sm"
              disabled={reverse.isPending || (words.does.length === 0 && along.length === 0)}
              onClick={() => {
                reverse.mutate();
              }}
            >
              {say`Take it back`}
            </button>
            <button type="button" className="btn btn-sm" onClick={onClose}>
              {say`Leave it`}
            </button>
          </div>
        </div>
      )}
    </Modal>
  );
}

/** What the same deed changed on markets, each to go along or to stay. */
const Others = ({
  others,
  left,
  onTurn,
}: {
  others: readonly Other[];
  left: ReadonlySet<number>;
  onTurn: (id: number, isLeft: boolean) => void;
}) => (
  <fieldset className="flex flex-col gap-2">
    <legend className="font-semibold">{say`Changed by the same deed, taken back with it`}</legend>
    {others.map((o) => {
      const { does, leaves } = wordReversal(o.counts);
      return (
        <label key={o.id} className="flex items-start gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm mt-0.5"
            checked={!left.has(o.id)}
            onChange={(e) => {
              onTurn(o.id, !e.target.checked);
            }}
          />
          <span>
            {o.title}
            <span className="quiet block text-sm">
              {does.join(', ')}
              {leaves.length > 0 && say`; left: ${leaves.join(', ')}`}
            </span>
          </span>
        </label>
      );
    })}
  </fieldset>
);

const List = ({ title, lines }: { title: string; lines: readonly string[] }) => (
  <div>
    <h3 className="font-semibold">{title}</h3>
    <ul className="list-disc ps-5">
      {lines.map((l) => (
        <li key={l}>{l}</li>
      ))}
    </ul>
  </div>
);
