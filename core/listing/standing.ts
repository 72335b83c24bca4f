// How an entry stands on a market that has it in several places.
export type StandingState = 'in review' | 'live' | 'refused' | 'withdrawn';

/** The likeliest to be seen by buyers first: what sells anywhere sells. */
const order: readonly StandingState[] = ['live', 'in review', 'refused', 'withdrawn'];

/**
 * How an entry stands in all, from how it stands at each site: live where any is, else in review, else refused; withdrawn
 * only where all are. Throws where there is no site.
 */
export function combineStandings(states: readonly StandingState[]): StandingState {
  const found = order.find((s) => states.includes(s));
  if (found === undefined) throw new Error('An entry stands nowhere');
  return found;
}
