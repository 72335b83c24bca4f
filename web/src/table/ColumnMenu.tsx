import type { TableLayout } from '@basileus/contract';
import type { ReactNode } from 'react';
import { Popover } from '../ui/Popover';
import type { GridColumn } from './columns';
import { hideColumn } from './layout';
import { say } from '../ui/text';

const orders: Record<'number' | 'date' | 'text', [up: string, down: string]> = {
  number: [say`Smallest first`, say`Largest first`],
  date: [say`Earliest first`, say`Latest first`],
  text: [say`A first`, say`Z first`],
};

/** What can be done with one column: its order, what it is narrowed to, whether it stays in sight or is shown at all. */
export function ColumnMenu({
  column,
  shown,
  head,
  layout,
  onLayout,
  onSort,
  onColumns,
  onClose,
  children,
}: {
  column: GridColumn;
  /** Keys of the columns from left to right. */
  shown: readonly string[];
  head: HTMLElement;
  layout: TableLayout;
  onLayout: (layout: TableLayout) => void;
  onSort?: ((direction: 'up' | 'down') => void) | undefined;
  onColumns: () => void;
  onClose: () => void;
  /** How it is narrowed. */
  children?: ReactNode;
}) {
  const at = shown.indexOf(column.key);
  const isLastInSight = layout.frozen === at + 1;
  const [up, down] = orders[column.kind === 'number' || column.kind === 'date' ? column.kind : 'text'];
  const item = (label: string, run: () => void, isOff = false) => (
    <button
      type="button"
      className="px-3 py-1 text-start hover:bg-primary/10 focus-visible:bg-primary/10 disabled:opacity-50"
      disabled={isOff}
      onClick={() => {
        run();
        onClose();
      }}
    >
      {label}
    </button>
  );
  return (
    <Popover under={head} label={say`The column ${column.title}`} onClose={onClose}>
      <div className="border-b border-base-300 px-3 py-1.5 font-semibold">{column.title}</div>
      {onSort && column.sortable && (
        <div className="flex flex-col border-b border-base-300 py-1">
          {item(up, () => {
            onSort('up');
          })}
          {item(down, () => {
            onSort('down');
          })}
        </div>
      )}
      {children}
      <div className="flex flex-col py-1">
        {item(
          isLastInSight ? say`Let all columns scroll` : say`Keep in sight up to this column`,
          () => {
            onLayout({ ...layout, frozen: isLastInSight ? 0 : at + 1 });
          },
          at + 1 > mostFrozen,
        )}
        {item(
          say`Hide this column`,
          () => {
            onLayout(hideColumn(layout, shown, column.key));
          },
          shown.length < 2,
        )}
        {item(say`Columns …`, onColumns)}
      </div>
    </Popover>
  );
}
/** Columns that may be kept in sight; with more nothing would be left to scroll. */
const mostFrozen = 10;
