// Proposals for the market category of an own category: the machine proposes with its reasons, the person decides.
import type { ItemTold } from './clues';
import type { LeafModel, LeafProposal } from './leaf-model';

/**
 * The leaves that fit an own category best, told by one of its items. `used` counts how often each leaf was chosen for
 * items of it: what people chose before comes before what words say.
 */
export function proposeCategories(
  model: Pick<LeafModel, 'propose'>,
  item: ItemTold,
  used: ReadonlyMap<string, number> = new Map(),
  count = 5,
): LeafProposal[] {
  const all = [...used.values()].reduce((a, b) => a + b, 0);
  const told = new Map(model.propose(item, count + used.size).map((p) => [p.key, p]));
  const chosen = [...used]
    .sort(([a, m], [b, n]) => n - m || (a < b ? -1 : 1))
    .map(([key, times]): LeafProposal => {
      const share = times / all;
      return { words: [], elsewhere: [], ...told.get(key), key, share, sureness: 'sure', chosen: times };
    });
  return [...chosen, ...[...told.values()].filter((p) => !used.has(p.key))].slice(0, count);
}
