import { useQuery } from '@tanstack/react-query';
import { Clock } from 'lucide-react';
import { Link } from 'react-router';
import { wantsLook, wordOutcome, wordSending, wordTimes } from '../send/clock-words';
import { sendingsQuery } from '../send/queries';
import { say } from '../ui/text';

/** What goes to a market by the clock, at the foot of its lines. One question for all markets. */
export function ClockLines({ market }: { market: string }) {
  const sendings = useQuery(sendingsQuery('')).data?.rows.filter((s) => s.market === market && s.at !== null) ?? [];
  if (sendings.length === 0) return null;
  return (
    <ul aria-label={say`By the clock`} className="border-t border-base-300 py-1">
      {sendings.map((s) => (
        <li key={s.id}>
          <Link className="flex items-baseline gap-3 px-4 py-1 hover:bg-base-200" to={`/${market}/send`}>
            <span className="flex w-16 shrink-0 justify-end self-center">
              <Clock aria-label={say`By the clock`} className="size-4" />
            </span>
            <span>
              {wordSending(s)} <span className="quiet text-sm">{wordTimes(s)}</span>
              {wantsLook(s.last) && (
                <span className="block text-sm text-warning">{say`last: ${wordOutcome(s.last!)}`}</span>
              )}
            </span>
          </Link>
        </li>
      ))}
    </ul>
  );
}
