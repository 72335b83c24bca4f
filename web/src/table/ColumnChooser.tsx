import type { TableLayout } from '@basileus/contract';
import { attachClosestEdge, extractClosestEdge } from '@atlaskit/pragmatic-drag-and-drop-hitbox/closest-edge';
import { combine } from '@atlaskit/pragmatic-drag-and-drop/combine';
import { draggable, dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
import { GripVertical, X } from 'lucide-react';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { Modal } from '../ui/Modal';
import { count, say } from '../ui/text';
import { hideColumn, moveColumn, showColumn, startLayout, stepColumn } from './layout';
import { tell } from '../ui/tell';

export interface OfferedColumn {
  key: string;
  title: string;
  group: string;
}

/** Which columns a table shows, and in which order: those that are shown on the right, all that there are on the left. */
export function ColumnChooser({
  offered,
  shown,
  layout,
  onLayout,
  onClose,
}: {
  offered: readonly OfferedColumn[];
  /** Keys of the columns from left to right. */
  shown: readonly string[];
  layout: TableLayout;
  onLayout: (layout: TableLayout) => void;
  onClose: () => void;
}) {
  const [sought, setSought] = useState('');
  const titleOf = new Map(offered.map((c) => [c.key, c.title]));
  const isShown = new Set(shown);
  const words = sought.toLowerCase().split(/\s+/).filter(Boolean);
  const found = offered.filter((c) => words.every((w) => `${c.title} ${c.group}`.toLowerCase().includes(w)));
  const groups = [...new Set(found.map((c) => c.group))];
  const setAll = (is: boolean) => {
    const keys = found.map((c) => c.key);
    const next = is
      ? [...shown, ...keys.filter((k) => !isShown.has(k))]
      : shown.filter((k) => !keys.includes(k) || k === shown[0]);
    onLayout({ ...layout, columns: next });
  };
  return (
    <Modal title={say`Columns`} onClose={onClose} wide>
      <div className="grid h-[60vh] grid-cols-2">
        <div className="flex min-h-0 flex-col border-e border-base-300">
          <div className="flex items-center gap-2 p-3">
            <input
              data-first
              className="input input-sm flex-1"
              aria-label={say`Find a column`}
              placeholder={say`Find a column`}
              value={sought}
              onChange={(e) => {
                setSought(e.target.value);
              }}
            />
            <button
              type="button"
              className="btn btn-sm btn-ghost"
              onClick={() => {
                setAll(true);
              }}
            >
              {say`All`}
            </button>
            <button
              type="button"
              className="btn btn-sm btn-ghost"
              onClick={() => {
                setAll(false);
              }}
            >
              {say`None`}
            </button>
          </div>
          <div className="min-h-0 flex-1 overflow-auto px-3 pb-3">
            {groups.map((group) => (
              <fieldset key={group} className="mb-2">
                <legend className="quiet text-xs">{group}</legend>
                {found
                  .filter((c) => c.group === group)
                  .map((c) => (
                    <label key={c.key} className="flex items-center gap-2 py-0.5">
                      <input
                        type="checkbox"
                        className="checkbox checkbox-sm"
                        checked={isShown.has(c.key)}
                        disabled={isShown.has(c.key) && shown.length === 1}
                        onChange={(e) => {
                          onLayout((e.target.checked ? showColumn : hideColumn)(layout, shown, c.key));
                        }}
                      />
                      {c.title}
                    </label>
                  ))}
              </fieldset>
            ))}
            {found.length === 0 && <p className="quiet">{say`No column is called that.`}</p>}
          </div>
        </div>
        <div className="flex min-h-0 flex-col">
          <div className="flex items-center gap-2 p-3">
            <span>{tell`${count(shown.length)} shown`}</span>
            <label className="ms-auto flex items-center gap-2">
              {say`kept in sight`}
              <input
                type="number"
                min={0}
                max={10}
                className="input input-sm num w-16"
                value={layout.frozen}
                onChange={(e) => {
                  const n = e.target.valueAsNumber;
                  if (Number.isInteger(n) && n >= 0 && n <= 10) onLayout({ ...layout, frozen: n });
                }}
              />
            </label>
            <button
              type="button"
              className="btn btn-sm btn-ghost"
              title={say`Every column as it comes, in its usual width`}
              onClick={() => {
                onLayout(startLayout);
              }}
            >
              {say`As at first`}
            </button>
          </div>
          <ol className="min-h-0 flex-1 overflow-auto px-3 pb-3" aria-label={say`Columns from left to right`}>
            {shown.map((key, i) => (
              <ShownColumn
                key={key}
                column={key}
                title={titleOf.get(key) ?? key}
                isFrozen={i < layout.frozen}
                onStep={(by) => {
                  onLayout(stepColumn(layout, shown, key, by));
                }}
                onDropAt={(dragged, isAfter) => {
                  onLayout(moveColumn(layout, shown, dragged, isAfter ? (shown[i + 1] ?? null) : key));
                }}
                onHide={
                  shown.length > 1
                    ? () => {
                        onLayout(hideColumn(layout, shown, key));
                      }
                    : undefined
                }
              />
            ))}
          </ol>
        </div>
      </div>
    </Modal>
  );
}

function ShownColumn({
  column,
  title,
  isFrozen,
  onStep,
  onDropAt,
  onHide,
}: {
  column: string;
  title: string;
  isFrozen: boolean;
  onStep: (by: -1 | 1) => void;
  onDropAt: (column: string, isAfter: boolean) => void;
  onHide: (() => void) | undefined;
}) {
  const ref = useRef<HTMLLIElement>(null),
    drop = useRef(onDropAt);
  drop.current = onDropAt;
  const [edge, setEdge] = useState<string | null>(null);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    return combine(
      draggable({ element, getInitialData: () => ({ shown: column }) }),
      dropTargetForElements({
        element,
        canDrop: ({ source }) => typeof source.data['shown'] === 'string' && source.data['shown'] !== column,
        getData: ({ input }) => attachClosestEdge({}, { element, input, allowedEdges: ['top', 'bottom'] }),
        onDrag: ({ self }) => {
          setEdge(extractClosestEdge(self.data));
        },
        onDragLeave: () => {
          setEdge(null);
        },
        onDrop: ({ self, source }) => {
          setEdge(null);
          if (typeof source.data['shown'] === 'string')
            drop.current(source.data['shown'], extractClosestEdge(self.data) === 'bottom');
        },
      }),
    );
  }, [column]);
  const onKey = (e: KeyboardEvent) => {
    if (!e.altKey || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return;
    e.preventDefault();
    onStep(e.key === 'ArrowUp' ? -1 : 1);
  };
  return (
    <li
      ref={ref}
      tabIndex={0}
      onKeyDown={onKey}
      aria-keyshortcuts="Alt+ArrowUp Alt+ArrowDown"
      title={say`Draw it elsewhere, or Alt with ↑ and ↓`}
      className={`flex cursor-grab items-center gap-2 rounded px-1 py-0.5 hover:bg-base-200 ${edge === 'top' ? 'shadow-[0_-2px_0_var(--color-primary)]' : edge === 'bottom' ? 'shadow-[0_2px_0_var(--color-primary)]' : ''}`}
    >
      <GripVertical size={14} className="quiet shrink-0" aria-hidden="true" />
      <span className="truncate">{title}</span>
      {isFrozen && <span className="quiet text-xs">{say`stays in sight`}</span>}
      <button
        type="button"
        className="btn btn-ghost btn-xs btn-square ms-auto"
        aria-label={say`Hide ${title}`}
        disabled={!onHide}
        onClick={onHide}
      >
        <X size={12} />
      </button>
    </li>
  );
}
