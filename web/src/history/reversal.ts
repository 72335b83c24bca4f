import type { ReversalCounts } from '@basileus/contract';
import { plural } from '../ui/text';

const cells = (n: number): string => plural(n, 'cell', 'cells');
const items = (n: number): string => plural(n, 'item', 'items');
const list = (...parts: readonly (readonly [number, string])[]): string[] =>
  parts.flatMap(([n, text]) => (n > 0 ? [text] : []));

/** What taking a change back does and what it leaves as it is, in clauses that are true before and after; only what there is. */
export const wordReversal = (c: ReversalCounts): { does: string[]; leaves: string[] } => ({
  does: list(
    [c.restored, `${cells(c.restored)} put back`],
    [c.removed, `${items(c.removed)} of its own removed`],
    [c.recreated, `${items(c.recreated)} added again`],
  ),
  leaves: list(
    [c.changed, `${cells(c.changed)} changed again since`],
    [c.stock, `${plural(c.stock, 'stock', 'stocks')}, because what was on hand then says nothing of now`],
    [c.gone, `${cells(c.gone)} of items that are gone`],
    [c.refused, `${cells(c.refused)} whose old value is no longer taken`],
    [c.keptSent, `${items(c.keptSent)} that a market has or is being sent`],
    [c.keptChanged, `${items(c.keptChanged)} changed since`],
    [c.keptFamily, `${plural(c.keptFamily, 'family', 'families')} whose variants stay`],
    [c.keptPart, `${items(c.keptPart)} that a bundle holds`],
    [c.keptTaken, `${items(c.keptTaken)} whose SKU is taken by now`],
  ),
});
