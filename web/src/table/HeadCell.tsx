import type { PointerEvent as ReactPointerEvent } from 'react';
import { ChevronDown, ChevronUp } from 'lucide-react';
import { DemandNotch } from '../ui/demand';
import type { GridColumn } from './columns';

export interface HeadCellProps {
  column: GridColumn;
  index: number;
  left: number;
  width: number;
  isFrozen: boolean;
  sort: 'up' | 'down' | undefined;
  onSort: ((key: string) => void) | undefined;
  onWidth: (width: number) => void;
}

const narrowest = 50;

/** The head of a column: its level of demand, its name, its unit, how it is sorted, and an edge to draw it wider by. */
export function HeadCell({ column, index, left, width, isFrozen, sort, onSort, onWidth }: HeadCellProps) {
  const startDrag = (e: ReactPointerEvent) => {
    e.preventDefault();
    e.stopPropagation();
    const start = e.clientX;
    const moveTo = (m: PointerEvent) => {
      onWidth(Math.max(narrowest, width + m.clientX - start));
    };
    const stop = () => {
      window.removeEventListener('pointermove', moveTo);
      window.removeEventListener('pointerup', stop);
    };
    window.addEventListener('pointermove', moveTo);
    window.addEventListener('pointerup', stop);
  };
  const inner = (
    <span
      className="flex min-w-0 items-center gap-1.5"
      title={column.unit ? `${column.title}, ${column.unit}` : column.title}
    >
      <DemandNotch level={column.level} />
      <span className="truncate">
        {column.title}
        {column.unit && <span className="quiet font-normal"> {column.unit}</span>}
      </span>
      {sort &&
        (sort === 'up' ? (
          <ChevronUp className="chevron" aria-hidden="true" />
        ) : (
          <ChevronDown className="chevron" aria-hidden="true" />
        ))}
    </span>
  );
  return (
    <div
      role="columnheader"
      aria-colindex={index + 1}
      aria-sort={sort === 'up' ? 'ascending' : sort === 'down' ? 'descending' : undefined}
      style={{ left, width, position: isFrozen ? 'sticky' : 'absolute' }}
      className={`top-0 inline-block h-full overflow-hidden border-r border-b border-base-300 bg-base-200 px-2 align-top text-xs leading-[30px] font-semibold ${isFrozen ? 'z-10' : ''} ${column.kind === 'number' ? 'text-right' : ''}`}
    >
      {onSort && column.sortable ? (
        <button
          type="button"
          tabIndex={-1}
          className={`flex h-full w-full items-center ${column.kind === 'number' ? 'justify-end' : 'text-left'}`}
          title={`Put in order by ${column.title}`}
          onClick={() => {
            onSort(column.key);
          }}
        >
          {inner}
        </button>
      ) : (
        inner
      )}
      <span
        aria-hidden="true"
        onPointerDown={startDrag}
        className="absolute top-0 right-0 h-full w-1.5 cursor-col-resize"
      />
    </div>
  );
}
