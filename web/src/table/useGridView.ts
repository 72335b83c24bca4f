// What of the table is drawn: rows and columns in sight, the frozen columns, and the active row wherever one scrolls.
import { useVirtualizer } from '@tanstack/react-virtual';
import { type RefObject, useEffect, useMemo } from 'react';
import type { GridColumn } from './columns';
import { countFrozen, getRowSize, headHeight, listShownColumns, numberWidth, placeColumns } from './geometry';
import { isRightToLeft } from '../ui/language';
import type { Cell } from './model';

export interface GridViewOptions {
  box: RefObject<HTMLDivElement | null>;
  columns: readonly GridColumn[];
  /** Widths that a person has set, by column. */
  widths: Readonly<Record<string, number>>;
  frozen: number;
  rowCount: number;
  onSeen: ((first: number, last: number) => void) | undefined;
}

export function useGridView({ box, columns, widths, frozen: wanted, rowCount, onSeen }: GridViewOptions) {
  const windowWidth = box.current?.clientWidth ?? Infinity;
  const frozen = useMemo(
    () => countFrozen(placeColumns(columns, widths, wanted), wanted, columns.length, windowWidth),
    [columns, widths, wanted, windowWidth],
  );
  const place = useMemo(() => placeColumns(columns, widths, frozen), [columns, widths, frozen]);
  const rowSize = getRowSize(rowCount);
  const rows = useVirtualizer({
    count: rowCount,
    getScrollElement: () => box.current,
    estimateSize: () => rowSize,
    overscan: 8,
    scrollPaddingStart: headHeight,
    paddingStart: headHeight,
  });
  const cols = useVirtualizer({
    horizontal: true,
    isRtl: isRightToLeft(),
    count: columns.length,
    getScrollElement: () => box.current,
    estimateSize: place.widthOf,
    overscan: 3,
    scrollPaddingStart: place.frozenWidth,
    paddingStart: numberWidth,
  });
  useEffect(() => {
    cols.measure();
  }, [cols, place]);

  const seenRows = rows.getVirtualItems();
  const first = seenRows[0]?.index ?? 0,
    last = seenRows.at(-1)?.index ?? 0;
  useEffect(() => {
    onSeen?.(first, last);
  }, [first, last, onSeen]);

  return {
    place,
    /** Columns that stay in sight; fewer than wanted where the window is narrow. */
    frozen,
    /** Height of the rows together with the head, and width of the columns, in pixels. */
    height: Math.max(headHeight, rows.getTotalSize()),
    width: cols.getTotalSize(),
    shownColumns: listShownColumns(
      cols.getVirtualItems().map((v) => v.index),
      frozen,
      columns.length,
    ),
    topOf: (row: number): number => headHeight + row * rowSize,
    /** Rows in sight, and the active one, since the grid's focus points at it. */
    listShownRows: (active: number): { index: number; start: number }[] =>
      active >= rowCount || seenRows.some((v) => v.index === active)
        ? seenRows
        : [...seenRows, { index: active, start: headHeight + active * rowSize }],
    /** Whole rows that fit, less some that stay in sight when paging. */
    page: Math.max(1, Math.floor((box.current?.clientHeight ?? 600) / rowSize) - 3),
    /** Brings a cell into sight; to the beginning of its row where that is meant, though its first columns are always seen. */
    scrollTo: (cell: Cell, isToBeginning = false): void => {
      rows.scrollToIndex(cell.row);
      if (isToBeginning) cols.scrollToOffset(0);
      else if (cell.column >= frozen) cols.scrollToIndex(cell.column);
    },
  };
}
