// What is handed over when everything that is ready goes to several markets: one order a market and operation.
import type { Overview } from '@basileus/contract';
import type { Operation } from '@basileus/core/rulebook';

export interface Sending {
  market: string;
  operation: Operation;
  /** Stock goes beside prices, so that a row where both differ goes in both files. */
  also?: 'stock';
  rows: number;
}

/**
 * What each market would be sent, in the order of the markets; nothing for those that are left out. Withdrawals are never
 * among it: what they burn for good is said where they are sent.
 */
export function listSendings(
  markets: readonly { key: string; overview: Overview | undefined }[],
  leftOut: ReadonlySet<string>,
): Sending[] {
  return markets.flatMap(({ key, overview }): Sending[] => {
    if (leftOut.has(key)) return [];
    const ready = (overview?.today ?? []).flatMap((t) => (t.kind === 'send' ? t.operations : []));
    const countOf = (operation: Operation): number => ready.find((o) => o.operation === operation)?.count ?? 0;
    const hasBoth = countOf('price') > 0 && countOf('stock') > 0;
    return ready
      .filter((o) => o.count > 0 && o.operation !== 'withdraw' && !(hasBoth && o.operation === 'stock'))
      .map(({ operation, count }) =>
        hasBoth && operation === 'price'
          ? { market: key, operation, also: 'stock', rows: count + countOf('stock') }
          : { market: key, operation, rows: count },
      );
  });
}
