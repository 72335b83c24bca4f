import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { count, plural, say } from '../ui/text';
import type { GridColumn } from './columns';
import { toCellText } from './columns';
import type { GridRow } from './GridLine';
import { type Range, sizeOfRange } from './model';
import { type ColumnSums, getMean, noSums, sumTexts } from './sums';
import { tell } from '../ui/tell';

/** How a list is asked what columns add up to over rows of it. */
export interface AskSums {
  key: readonly unknown[];
  ask: (range: Range, columns: readonly string[]) => Promise<Map<string, ColumnSums>>;
}

/** Cells up to which they are added up here. */
const mostHere = 20_000;
/** Columns whose sums are told side by side. */
const mostTold = 3;
/** Columns of which a list is asked at once. */
const mostAsked = 60;

/** How large a selection is, how much of it is filled, and what its numbers add up to. */
export function RangeSums({
  range,
  columns,
  rowAt,
  version,
  ask,
}: {
  range: Range;
  columns: readonly GridColumn[];
  rowAt: (index: number) => GridRow | undefined;
  version: unknown;
  ask: AskSums | undefined;
}) {
  const size = sizeOfRange(range);
  const { top, bottom, left, right } = range;
  const chosen = useMemo(() => columns.slice(left, right + 1), [columns, left, right]);
  const here = useMemo(() => {
    if (size < 2 || size > mostHere) return undefined;
    const texts: string[][] = chosen.map(() => []);
    for (let r = top; r <= bottom; r++) {
      const row = rowAt(r);
      if (!row) return undefined;
      for (const [i, c] of chosen.entries()) texts[i]!.push(toCellText(c, row.valueOf(c.key)));
    }
    return chosen.map((c, i) => sumTexts(texts[i]!, c.kind === 'number'));
    // What the rows hold is not seen by the rows themselves: `version` speaks for it.
  }, [size, chosen, top, bottom, rowAt, version]);
  const isFar = size > 1 && here === undefined && chosen.length <= mostAsked && ask !== undefined;
  const asked = useQuery({
    queryKey: [...(ask?.key ?? ['no-sums']), range],
    queryFn: async () => {
      const sums = await ask!.ask(
        range,
        chosen.map((c) => c.key),
      );
      return chosen.map((c) => sums.get(c.key) ?? noSums);
    },
    enabled: isFar,
    staleTime: 10_000,
  });
  if (size < 2) return null;
  const sums = here ?? (isFar ? asked.data : undefined);
  return (
    <span>
      {tell`${count(bottom - top + 1)} × ${count(right - left + 1)} selected${isFar && !sums && say`, adding up …`}${sums && wordSums(chosen, sums, size)}`}
    </span>
  );
}

function wordSums(columns: readonly GridColumn[], sums: readonly ColumnSums[], size: number): string {
  const filled = sums.reduce((n, s) => n + s.filled, 0);
  const parts = [filled === size ? say`all filled` : say`${count(filled)} filled`];
  const unit = (s: ColumnSums): string => (s.unit === '' ? '' : ` ${s.unit}`);
  const added = sums.flatMap((s, i) => (s.sum === null ? [] : [{ s, title: columns[i]!.title }]));
  if (columns.length === 1 && added[0]) {
    const { s } = added[0];
    parts.push(
      say`sum ${s.sum ?? 0}${unit(s)}`,
      say`mean ${getMean(s) ?? 0}${unit(s)}`,
      say`from ${s.least ?? 0} to ${s.most ?? 0}${unit(s)}`,
    );
  } else {
    parts.push(...added.slice(0, mostTold).map(({ s, title }) => `${title} ${s.sum}${unit(s)}`));
    if (added.length > mostTold) parts.push(plural(added.length - mostTold, 'more column', 'more columns'));
  }
  return ` · ${parts.join(' · ')}`;
}
