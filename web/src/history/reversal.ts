import type { ReversalCounts } from '@basileus/contract';
import { plural, say } from '../ui/text';

const cells = (n: number): string => plural(n, 'cell', 'cells');
const items = (n: number): string => plural(n, 'item', 'items');
const list = (...parts: readonly (readonly [number, string])[]): string[] =>
  parts.flatMap(([n, text]) => (n > 0 ? [text] : []));

/** What taking a change back does and what it leaves as it is, in clauses that are true before and after; only what there is. */
export const wordReversal = (c: ReversalCounts): { does: string[]; leaves: string[] } => ({
  does: list(
    [c.restored, say`${cells(c.restored)} put back`],
    [c.removed, say`${items(c.removed)} of its own removed`],
    [c.recreated, say`${items(c.recreated)} added again`],
  ),
  leaves: list(
    [c.changed, say`${cells(c.changed)} changed again since`],
    [c.stock, say`${plural(c.stock, 'stock', 'stocks')}, because what was on hand then says nothing of now`],
    [c.gone, say`${cells(c.gone)} of items that are gone`],
    [c.refused, say`${cells(c.refused)} whose old value is no longer taken`],
    [c.keptSent, say`${items(c.keptSent)} that a market has or is being sent`],
    [c.keptChanged, say`${items(c.keptChanged)} changed since`],
    [c.keptFamily, say`${plural(c.keptFamily, 'family', 'families')} whose variants stay`],
    [c.keptPart, say`${items(c.keptPart)} that a bundle holds`],
    [c.keptTaken, say`${items(c.keptTaken)} whose SKU is taken by now`],
  ),
});
