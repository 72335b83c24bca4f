import {
  attachClosestEdge,
  extractClosestEdge,
  type Edge,
} from '@atlaskit/pragmatic-drag-and-drop-hitbox/closest-edge';
import { combine } from '@atlaskit/pragmatic-drag-and-drop/combine';
import { draggable, dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
import { ChevronDown, ChevronUp, Filter } from 'lucide-react';
import { type PointerEvent as ReactPointerEvent, useEffect, useRef, useState } from 'react';
import { DemandNotch } from '../ui/demand';
import type { GridColumn } from './columns';
import { isRightToLeft } from '../ui/language';
import { say } from '../ui/text';

export interface HeadCellProps {
  column: GridColumn;
  index: number;
  left: number;
  width: number;
  isFrozen: boolean;
  sort: 'up' | 'down' | undefined;
  isFiltered: boolean;
  onSort: ((key: string) => void) | undefined;
  onWidth: (width: number) => void;
  /** A column that was dropped before this one, or behind it. */
  onDrop: ((key: string, edge: 'before' | 'behind') => void) | undefined;
  /** What can be done with the column, asked for at its head. */
  onMenu: ((key: string, head: HTMLElement) => void) | undefined;
}

const narrowest = 50;
const isColumn = (data: Record<string | symbol, unknown>): data is { column: string } =>
  typeof data['column'] === 'string';

/** The head of a column: its level of demand, name and unit, how it is sorted; drawn to another place, or wider by its edge. */
export function HeadCell(props: HeadCellProps) {
  const { column, index, left, width, isFrozen, sort, isFiltered, onSort, onWidth, onDrop, onMenu } = props;
  const ref = useRef<HTMLDivElement>(null),
    drop = useRef(onDrop);
  drop.current = onDrop;
  const [edge, setEdge] = useState<Edge | null>(null);
  const canMove = onDrop !== undefined;
  useEffect(() => {
    const element = ref.current;
    if (!element || !canMove) return;
    return combine(
      draggable({ element, getInitialData: () => ({ column: column.key }) }),
      dropTargetForElements({
        element,
        canDrop: ({ source }) => isColumn(source.data) && source.data.column !== column.key,
        getData: ({ input }) => attachClosestEdge({}, { element, input, allowedEdges: ['left', 'right'] }),
        onDrag: ({ self }) => {
          setEdge(extractClosestEdge(self.data));
        },
        onDragLeave: () => {
          setEdge(null);
        },
        onDrop: ({ self, source }) => {
          setEdge(null);
          const at = extractClosestEdge(self.data);
          if (isColumn(source.data) && (at === 'left' || at === 'right'))
            drop.current?.(source.data.column, (at === 'left') === isRightToLeft() ? 'behind' : 'before');
        },
      }),
    );
  }, [column.key, canMove]);
  const startWidth = (e: ReactPointerEvent) => {
    e.preventDefault();
    e.stopPropagation();
    const start = e.clientX;
    const moveTo = (m: PointerEvent) => {
      const by = m.clientX - start;
      onWidth(Math.round(Math.max(narrowest, width + (isRightToLeft() ? -by : by))));
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
      ref={ref}
      role="columnheader"
      aria-colindex={index + 1}
      aria-sort={sort === 'up' ? 'ascending' : sort === 'down' ? 'descending' : undefined}
      style={{ insetInlineStart: left, width, position: isFrozen ? 'sticky' : 'absolute' }}
      className={`group top-0 inline-block h-full overflow-hidden border-e border-b border-base-300 bg-base-200 px-2 align-top text-xs leading-[30px] font-semibold ${isFrozen ? 'z-10' : ''} ${column.kind === 'number' ? 'text-end' : ''} ${isFiltered ? 'pe-6' : ''} ${edge === 'left' ? 'shadow-[inset_3px_0_0_var(--color-primary)]' : edge === 'right' ? 'shadow-[inset_-3px_0_0_var(--color-primary)]' : ''}`}
    >
      {onSort && column.sortable ? (
        <button
          type="button"
          tabIndex={-1}
          className={`flex h-full w-full items-center ${column.kind === 'number' ? 'justify-end' : 'text-start'}`}
          title={say`Put in order by ${column.title}`}
          onClick={() => {
            onSort(column.key);
          }}
        >
          {inner}
        </button>
      ) : (
        inner
      )}
      {onMenu && (
        <button
          type="button"
          tabIndex={-1}
          aria-hidden="true"
          title={isFiltered ? say`Narrowed by ${column.title}` : say`Narrow by ${column.title}, and more (Alt ↓)`}
          className={`absolute top-0 end-1.5 flex h-full w-5 items-center justify-center bg-base-200 ${isFiltered ? 'text-primary' : 'quiet opacity-0 group-hover:opacity-100 focus-visible:opacity-100'}`}
          onClick={() => {
            if (ref.current) onMenu(column.key, ref.current);
          }}
        >
          <Filter size={12} fill={isFiltered ? 'currentColor' : 'none'} />
        </button>
      )}
      <span
        aria-hidden="true"
        onPointerDown={startWidth}
        draggable
        onDragStart={(e) => {
          e.preventDefault();
          e.stopPropagation();
        }}
        className="absolute top-0 end-0 h-full w-1.5 cursor-col-resize"
      />
    </div>
  );
}
