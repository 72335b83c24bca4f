import type { SendingShape } from '@basileus/contract';
import { useQuery } from '@tanstack/react-query';
import { Clock } from 'lucide-react';
import { useState } from 'react';
import { say } from '../ui/text';
import { wantsLook, wordOutcome, wordSending, wordTimes } from './clock-words';
import { sendingsQuery } from './queries';
import { SendingDialog } from './SendingDialog';

/** What goes to a market by the clock, each a line that opens it. */
export function ByClock({ market }: { market: string }) {
  const sendings = useQuery(sendingsQuery(market));
  const [open, setOpen] = useState<SendingShape | 'new'>();
  return (
    <section aria-label={say`By the clock`} className="mt-auto border-t border-base-300 pt-2 pb-3">
      <h2 className="flex items-center gap-2 px-4 py-1 font-sans text-sm font-semibold">
        <Clock aria-hidden className="size-4" />
        {say`By the clock`}
      </h2>
      <ul>
        {sendings.data?.rows.map((s) => (
          <li key={s.id}>
            <button
              type="button"
              className="w-full px-4 py-1.5 text-start hover:bg-base-200"
              onClick={() => {
                setOpen(s);
              }}
            >
              {wordSending(s)}
              <span className="quiet block text-xs">{wordTimes(s)}</span>
              {s.last && (
                <span className={`block text-xs ${wantsLook(s.last) ? 'text-warning' : 'quiet'}`}>
                  {say`last: ${wordOutcome(s.last)}`}
                </span>
              )}
            </button>
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="btn btn-xs mx-4 mt-1"
        onClick={() => {
          setOpen('new');
        }}
      >
        {say`Let something go by the clock …`}
      </button>
      {open && (
        <SendingDialog
          market={market}
          sending={open === 'new' ? undefined : open}
          others={(sendings.data?.rows ?? []).filter((s) => open === 'new' || s.id !== open.id)}
          onClose={() => {
            setOpen(undefined);
          }}
        />
      )}
    </section>
  );
}
