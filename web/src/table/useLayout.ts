import { type TableLayout, tableLayout } from '@basileus/contract';
import { useMemo, useState } from 'react';
import { isSameLayout } from './layout';

const nameOf = (table: string): string => `basileus-table:${table}`;

/** The layout that this browser keeps for a table; what cannot be read is forgotten. */
function read(table: string): TableLayout | undefined {
  try {
    const kept = localStorage.getItem(nameOf(table));
    return kept === null ? undefined : tableLayout.parse(JSON.parse(kept));
  } catch {
    return undefined;
  }
}

/** How a table is laid out here: as `base` says, or as it was changed in this browser since, which outlives the window. */
export function useLayout(
  table: string,
  base: TableLayout,
): { layout: TableLayout; isChanged: boolean; setLayout: (layout: TableLayout) => void; reset: () => void } {
  const [turn, setTurn] = useState(0);
  // What is kept is read again when the table is another one or something was written.
  const own = useMemo(() => read(table), [table, turn]);
  const reset = (): void => {
    localStorage.removeItem(nameOf(table));
    setTurn((n) => n + 1);
  };
  return {
    layout: own ?? base,
    isChanged: own !== undefined,
    setLayout: (layout) => {
      if (isSameLayout(layout, base)) {
        reset();
        return;
      }
      localStorage.setItem(nameOf(table), JSON.stringify(layout));
      setTurn((n) => n + 1);
    },
    reset,
  };
}
