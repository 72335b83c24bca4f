import { reverseChangeSet } from '@basileus/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { call } from '../api/call';
import { Loading, Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { plural } from '../ui/text';
import { wordReversal } from './reversal';
import { reversalQuery } from './queries';

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
  const reverse = useMutation({
    mutationFn: () => call(reverseChangeSet, { params: { id }, body: { skus: [...skus] } }),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ['products'] });
      onClose();
    },
  });
  const words = look.data && wordReversal(look.data);
  return (
    <Modal
      title={
        skus.length === 0 ? 'Take this change back' : `Take ${plural(skus.length, 'item', 'items')} of this change back`
      }
      onClose={onClose}
    >
      {look.isLoading ? (
        <Loading what="Comparing with what stands there now" />
      ) : look.error || !words ? (
        <Refused error={look.error} again={() => void look.refetch()} />
      ) : (
        <div className="flex flex-col gap-3 p-5">
          {words.does.length > 0 ? (
            <List title="This would happen" lines={words.does} />
          ) : (
            <p>Nothing would be put back: everything has changed since, or stands as it was before.</p>
          )}
          {words.leaves.length > 0 && <List title="This would stay as it is" lines={words.leaves} />}
          {reverse.error && <Refused error={reverse.error} />}
          <div className="flex gap-2">
            <button
              type="button"
              className="btn btn-primary btn-sm"
              disabled={reverse.isPending || words.does.length === 0}
              onClick={() => {
                reverse.mutate();
              }}
            >
              Take it back
            </button>
            <button type="button" className="btn btn-sm" onClick={onClose}>
              Leave it
            </button>
          </div>
        </div>
      )}
    </Modal>
  );
}

const List = ({ title, lines }: { title: string; lines: readonly string[] }) => (
  <div>
    <h3 className="font-semibold">{title}</h3>
    <ul className="list-disc pl-5">
      {lines.map((l) => (
        <li key={l}>{l}</li>
      ))}
    </ul>
  </div>
);
