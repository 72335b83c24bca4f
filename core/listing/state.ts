// The state of a listing, from what is known of it. The database derives the same by its function listing_state; a test
// holds the two against each other over every case.
import type { ListingState } from '../rulebook/terms';

export interface StateFacts {
  /** Rows of it that are on their way to the market. */
  inFlight: number;
  /** How the market has it; `none` where it never had it, `left out` where nobody wants it there. */
  marketState: 'none' | 'left out' | 'in review' | 'live' | 'refused' | 'withdrawn';
  /** True while the values that the market refused are unchanged. */
  isRefusalOpen: boolean;
  hasCategory: boolean;
  blockers: number;
}

/** What is on its way comes first, then how the market shows it, then what keeps it from going there. */
export function getListingState(f: StateFacts): ListingState {
  if (f.inFlight > 0) return 'sent';
  if (f.marketState !== 'none' && f.marketState !== 'refused') return f.marketState;
  if (f.isRefusalOpen) return 'refused';
  if (!f.hasCategory) return 'draft';
  return f.blockers > 0 ? 'blocked' : 'ready';
}
