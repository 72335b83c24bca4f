/** Rules by which stock is published on one market. Counts are pieces. */
export interface StockRule {
  buffer: number;
  cap: number;
  least: number;
}

/** What may be published: on hand, less reserved, less the buffer, capped; nothing under the least. Common practice. */
export function computePublishable(stock: { onHand: number; reserved: number }, rule: StockRule): number {
  const free = Math.min(stock.onHand - stock.reserved - rule.buffer, rule.cap);
  return free <= 0 || free < rule.least ? 0 : free;
}

/** Stock of a bundle: the least over its parts of how many times each part's count is there. */
export const computeBundleStock = (parts: readonly { stock: number; count: number }[]): number =>
  parts.length === 0 ? 0 : Math.max(0, Math.min(...parts.map((p) => Math.floor(p.stock / p.count))));
