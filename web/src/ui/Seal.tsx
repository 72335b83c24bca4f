// The state of a listing as a small seal: a disc with a mark cut out, one silhouette a state, always beside its word.
import type { ListingState } from '@basileus/core/rulebook';
import { stateNames } from './terms';
import { stateLooks } from './state';

export function Seal({ state, bare = false }: { state: ListingState; bare?: boolean }) {
  const look = stateLooks[state];
  return (
    <span className="inline-flex items-center gap-1.5 whitespace-nowrap">
      <svg viewBox="0 0 24 24" width="15" height="15" className={look.tone} aria-hidden="true">
        <circle cx="12" cy="12" r="11" fill="currentColor" />
        <path
          d={look.mark}
          stroke="var(--color-base-100)"
          strokeWidth="2.6"
          fill="none"
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      </svg>
      {bare ? <span className="sr-only">{stateNames[state]}</span> : stateNames[state]}
    </span>
  );
}
