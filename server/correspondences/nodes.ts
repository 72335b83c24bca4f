// Nodes of a market's tree, for which something may be said.
import { everywhere } from '@basileus/core/listing';
import { getCategoryPath } from '@basileus/core/rulebook';
import { type Db, rowOf } from '../database';
import { AppError } from '../http';
import { refreshLater, refreshMarket } from '../listings';
import { bumpRevision, loadMarketById, type Market } from '../markets';
import { say } from '@basileus/core/text';

/** Keys of the nodes from the top of the tree down to one of them; of the whole tree none. */
export const listPath = (market: Market, node: string): string[] =>
  getCategoryPath(market.rulebook, node).map((n) => n.key);

/** Refuses a node that is not of the market's tree. */
export function refuseStranger(market: Market, node: string): void {
  if (node !== everywhere && listPath(market, node).length === 0)
    throw new AppError('bad-input', say`“${node}” is not a category of ${market.name}.`, {
      field: 'node',
      remedy: say`Choose one of its tree, or say it for all.`,
    });
}

/** What a node is called, by its path; null for the whole tree. */
export const labelNode = (market: Market, node: string): string | null =>
  node === everywhere
    ? null
    : getCategoryPath(market.rulebook, node)
        .map((n) => n.label)
        .join(' › ') || node;

/** Leaves of the tree that stand at or under a node. */
export const listLeavesAt = (market: Market, node: string): string[] =>
  market.rulebook.tree.flatMap((n) =>
    n.takesItems && (node === everywhere || listPath(market, n.key).includes(node)) ? [n.key] : [],
  );

/** A market of at most so many listings is made anew at once, so that the person sees the effect; a larger one by a job. */
const mostAtOnce = 3000;

/** What people have said is written in one transaction, and the listings of the market follow it. */
export async function sayAnew(
  db: Db,
  market: Market,
  write: (tx: Db) => Promise<void>,
): Promise<{ refreshed: number; job: string | null }> {
  await db.transaction(async (tx) => {
    await write(tx);
    await bumpRevision(tx, market);
  });
  const { n } = (await rowOf<{ n: number }>(db, 'select count(*)::int as n from listings where market_id = ?', [
    market.id,
  ]))!;
  if (n > mostAtOnce) return { refreshed: 0, job: await refreshLater(db, market) };
  await refreshMarket(db, await loadMarketById(db, market.id), () => Promise.resolve());
  return { refreshed: n, job: null };
}
