// Changes that are right one by one and wrong together: a feed of stocks that all fall to nothing, a price list read in the
// wrong column. They go only after a person has looked (common practice of the trade; the thresholds are ours).

/** A change that touches a large share of what is live. */
export type Surprise = 'stock-gone' | 'stock-falls' | 'prices-move';
export interface MovingCounts {
  /** Entries that stand on the market. */
  live: number;
  /** Rows about to go whose stock falls to nothing, whose stock falls by more than half, whose price changes. */
  stockGone: number;
  stockFalls: number;
  pricesMove: number;
}

/** Fewer rows than this surprise nobody, whatever their share. */
export const fewestSurprising = 20;
/** Share of the live entries from which on a change is looked at first. */
export const surprisingShare = 0.3;

/** False where too few rows would go, for at least so many live entries, to need a look. */
export const canSurprise = (rows: number, live: number): boolean =>
  rows >= fewestSurprising && rows > live * surprisingShare;

/** What of a send a person should look at first, with its rows. */
export function findSurprises(c: MovingCounts): { kind: Surprise; rows: number; live: number }[] {
  const judge = (kind: Surprise, rows: number): { kind: Surprise; rows: number; live: number }[] =>
    canSurprise(rows, c.live) ? [{ kind, rows, live: c.live }] : [];
  return [
    ...judge('stock-gone', c.stockGone),
    ...judge('stock-falls', c.stockFalls),
    ...judge('prices-move', c.pricesMove),
  ];
}
