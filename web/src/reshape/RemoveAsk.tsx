import { type RemovalCounts, removeItems, type StaysFor } from '@basileus/contract';
import type { Which } from '@basileus/core/choose';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { call } from '../api/call';
import { Loading, Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { toast } from '../ui/messages';
import { count, plural, say, wordFor } from '../ui/text';
import { removalQuery } from './queries';
import { tell } from '../ui/tell';

const why: Readonly<Record<StaysFor, (n: number) => string>> = {
  sent: (n) =>
    say`${plural(n, 'item stays', 'items stay')} that ${wordFor(n, 'stands', 'stand')} on a market or ${wordFor(n, 'is', 'are')} on the way there. Withdraw ${wordFor(n, 'it', 'them')} there first.`,
  part: (n) => say`${plural(n, 'item stays', 'items stay')} that a bundle holds.`,
  family: (n) => say`${plural(n, 'family stays', 'families stay')} of which a variant stays.`,
};

/** What goes with the items that are taken out, and what stays and why, before anything is done. */
export function RemoveAsk({ which, onClose }: { which: Which; onClose: () => void }) {
  const look = useQuery(removalQuery(which));
  const client = useQueryClient(),
    navigate = useNavigate();
  const remove = useMutation({
    mutationFn: () => call(removeItems, { body: { which } }),
    onSuccess: ({ changeSet }) => {
      toast.success(say`The items are being taken out.`, {
        label: say`See the change`,
        run: () => void navigate(`/all/history?set=${changeSet}`),
      });
      void client.invalidateQueries({ queryKey: ['products'] });
      onClose();
    },
  });
  return (
    <Modal title={say`Take items out of the catalog`} onClose={onClose}>
      {look.isLoading ? (
        <Loading what={say`Looking at what hangs on them`} />
      ) : look.error || !look.data ? (
        <Refused error={look.error} />
      ) : (
        <div className="flex flex-col gap-3 p-5">
          <Goes counts={look.data} />
          {look.data.stays.map((s) => (
            <div key={s.why}>
              <p>{why[s.why](s.count)}</p>
              <p className="num text-xs quiet">
                {s.skus.join(', ')}
                {s.count > s.skus.length && say` and ${count(s.count - s.skus.length)} more`}
              </p>
            </div>
          ))}
          {remove.error && <Refused error={remove.error} />}
          <div className="flex gap-2">
            <button
              type="button"
              className="btn btn-primary btn-sm"
              disabled={look.data.total === 0 || remove.isPending}
              onClick={() => {
                remove.mutate();
              }}
            >
              {tell`Take ${plural(look.data.total, 'item', 'items')} out`}
            </button>
            <button type="button" className="btn btn-sm" onClick={onClose}>
              {say`Leave them`}
            </button>
          </div>
        </div>
      )}
    </Modal>
  );
}

function Goes({ counts }: { counts: RemovalCounts }) {
  if (counts.total === 0) return <p>{say`None of them can go.`}</p>;
  const among = [
    counts.families > 0 && plural(counts.families, 'family', 'families'),
    counts.variants > 0 && plural(counts.variants, 'variant', 'variants'),
  ].filter((t) => t !== false);
  const lost = [
    counts.withTyped > 0 && say`${plural(counts.withTyped, 'has', 'have')} something typed for a market`,
    counts.withStock > 0 && say`${plural(counts.withStock, 'has', 'have')} stock`,
  ].filter((t) => t !== false);
  return (
    <>
      <p>
        <b className="num">{count(counts.total)}</b> {wordFor(counts.total, 'item goes', 'items go')}
        {among.length > 0 && say`, ${among.join(say` and `)} among them`}.
        {lost.length > 0 && say` Of these ${lost.join(', ')}.`}
      </p>
      <p className="quiet">
        {tell`The change stands in the history and can be taken back: all of it comes again, with the stock it has now.${
          counts.withPast > 0 &&
          say` ${plural(counts.withPast, 'was', 'were')} sent to a market before: what was sent and answered stays, and what the market knows of the SKU is taken up again when it comes back.`
        }`}
      </p>
    </>
  );
}
