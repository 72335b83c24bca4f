import { shareOut } from './share';

/** Rules by which stock is published on one market. Counts are pieces. */
export interface StockRule {
  buffer: number;
  cap: number;
  least: number;
  /** Where it is shared out among markets: the weight of each where the item is sold, and which of them is meant. */
  share?: { weights: readonly number[]; mine: number };
}

/** What may be published: on hand, less reserved, less the buffer, shared out, capped; nothing under the least. Common practice. */
export function computePublishable(stock: { onHand: number; reserved: number }, rule: StockRule): number {
  const free = Math.max(0, stock.onHand - stock.reserved - rule.buffer);
  const part = rule.share ? shareOut(free, rule.share.weights)[rule.share.mine]! : free;
  const told = Math.min(part, rule.cap);
  return told < rule.least ? 0 : told;
}

/** Stock of a bundle: the least over its parts of how many times each part's count is there. */
export const computeBundleStock = (parts: readonly { stock: number; count: number }[]): number =>
  parts.length === 0 ? 0 : Math.max(0, Math.min(...parts.map((p) => Math.floor(p.stock / p.count))));
