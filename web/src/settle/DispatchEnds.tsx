import { abandonDispatch, askShelf, type DispatchShape, stopDispatch } from '@basileus/contract';
import { isFirst } from '@basileus/core/rulebook';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { toast } from '../ui/messages';
import { call } from '../api/call';
import { Modal } from '../ui/Modal';
import { plural, say, wordFor } from '../ui/text';
import { tell } from '../ui/tell';

const ends = { stop: stopDispatch, abandon: abandonDispatch, ask: askShelf } as const;
type End = keyof typeof ends;
const done: Record<End, string> = {
  stop: say`Stopped; nothing of it has left.`,
  abandon: say`Given up; its rows are free again.`,
  ask: say`Settled by what the market shows on its shelf.`,
};

/** Ends that no receipt makes: stop before it leaves, ask the market’s shelf, give up waiting. */
export function DispatchEnds({ dispatch: d, onDone }: { dispatch: DispatchShape; onDone: () => void }) {
  const [isAsking, setAsking] = useState(false);
  const end = useMutation({
    mutationFn: (how: End) => call(ends[how], { params: { id: d.id } }),
    onSuccess: (_, how) => {
      toast.success(done[how]);
      setAsking(false);
      onDone();
    },
    onError: (e) => toast.error(e.message),
  });
  if (d.state === 'sending' && !d.hasLeft)
    return (
      <button
        type="button"
        className="btn btn-sm"
        disabled={end.isPending}
        onClick={() => {
          end.mutate('stop');
        }}
      >
        {say`Stop it`}
      </button>
    );
  if (!['by hand', 'sending', 'sent', 'failed'].includes(d.state)) return null;
  const isOnShelf = isFirst(d.operation) || d.operation === 'withdraw' || d.operation === 'restore';
  return (
    <>
      <button
        type="button"
        className="btn btn-sm"
        onClick={() => {
          setAsking(true);
        }}
      >
        {say`No answer comes …`}
      </button>
      {isAsking && (
        <Modal
          title={say`No answer comes`}
          onClose={() => {
            setAsking(false);
          }}
        >
          <div className="flex flex-col gap-4 p-5">
            {isOnShelf && (
              <div>
                <button
                  type="button"
                  className="btn btn-sm btn-primary"
                  disabled={end.isPending}
                  onClick={() => {
                    end.mutate('ask');
                  }}
                >
                  {say`Ask the market’s shelf`}
                </button>
                <p className="quiet mt-1">
                  {say`What stands there counts as accepted; what does not counts as not answered and can go again.`}
                </p>
              </div>
            )}
            <div>
              <button
                type="button"
                className="btn btn-sm"
                disabled={end.isPending}
                onClick={() => {
                  end.mutate('abandon');
                }}
              >
                {say`Give up waiting`}
              </button>
              <p className="quiet mt-1">
                {tell`${plural(d.total, 'row is', 'rows are')} then as if never sent, and ${wordFor(d.total, 'goes', 'go')} again with the next sending. A receipt that comes later is not read. If the market took the file after all, ${isOnShelf ? say`it may refuse the second one.` : say`the second one does no harm.`}`}
              </p>
            </div>
          </div>
        </Modal>
      )}
    </>
  );
}
