// The spreadsheet table: one focusable grid with real cells, rows and columns drawn as they are seen, every change a patch.
import type { Patch } from '@basileus/core/change';
import type { Value } from '@basileus/core/listing';
import { useVirtualizer } from '@tanstack/react-virtual';
import {
  type ClipboardEvent,
  type KeyboardEvent,
  memo,
  type ReactNode,
  useCallback,
  useEffect,
  useId,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import { toast } from 'sonner';
import { DemandNotch, toneOfLevel } from '../ui/demand';
import { type GridColumn, toCellText, toCellValue } from './columns';
import {
  type Bounds,
  fromClipboard,
  type Grid,
  isInRange,
  move,
  type PatchPlan,
  planClear,
  planFillDown,
  planPaste,
  type Range,
  type Selection,
  sizeOfRange,
  startAt,
  toClipboard,
  toRange,
} from './model';

export interface GridRow {
  id: string;
  valueOf: (key: string) => Value | null;
}
export interface CellFace {
  finding?: { level: 'blocker' | 'caution' | 'tip'; says: string } | undefined;
  unused?: boolean | undefined;
  origin?: string | undefined;
  lit?: boolean | undefined;
  lead?: ReactNode;
}
export interface DataGridProps {
  label: string;
  columns: readonly GridColumn[];
  frozen: number;
  rowCount: number;
  rowAt: (index: number) => GridRow | undefined;
  version: unknown;
  faceOf?: (row: GridRow, column: GridColumn) => CellFace | undefined;
  onSeen?: (first: number, last: number) => void;
  onPatch?: (patch: Patch) => Promise<void> | void;
  onUndo?: () => void;
  onOpen?: (row: GridRow) => void;
  sort?: { key: string; direction: 'up' | 'down' } | undefined;
  onSort?: (key: string) => void;
  onSelect?: (rowIds: string[]) => void;
  loadRows?: (first: number, last: number) => Promise<unknown>;
  empty?: ReactNode;
}

const rowHeight = 30,
  headHeight = 46,
  numberWidth = 46;
/** Browsers cap the height of an element; beyond this the scroll is mapped. */
const tallest = 15_000_000;

export function DataGrid(props: DataGridProps) {
  const { columns, frozen, rowCount, rowAt, faceOf, onSeen, onPatch, onUndo, onOpen, onSelect } = props;
  const id = useId(),
    box = useRef<HTMLDivElement>(null);
  const [selection, setSelection] = useState<Selection>(() => startAt(0, 0));
  const [editing, setEditing] = useState<{ row: number; column: number; text: string } | undefined>();
  const [widths, setWidths] = useState<Record<string, number>>({});
  const [hover, setHover] = useState<{ row: number; column: number } | undefined>();
  const isDragging = useRef(false);
  const widthOf = useCallback(
    (i: number) => {
      const c = columns[i];
      return c ? (widths[c.key] ?? c.width) : 100;
    },
    [columns, widths],
  );
  const frozenWidth = useMemo(
    () =>
      numberWidth +
      Array.from({ length: Math.min(frozen, columns.length) }, (_, i) => widthOf(i)).reduce((a, b) => a + b, 0),
    [columns.length, frozen, widthOf],
  );
  const rowSize = rowCount * rowHeight > tallest ? tallest / rowCount : rowHeight;
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
    count: columns.length,
    getScrollElement: () => box.current,
    estimateSize: widthOf,
    overscan: 3,
    scrollPaddingStart: frozenWidth,
    paddingStart: numberWidth,
  });
  useEffect(() => {
    cols.measure();
  }, [cols, columns, widths]);
  const seenRows = rows.getVirtualItems();
  const first = seenRows[0]?.index ?? 0,
    last = seenRows.at(-1)?.index ?? 0;
  useEffect(() => {
    onSeen?.(first, last);
  }, [first, last, onSeen]);
  const bounds: Bounds = {
    rows: rowCount,
    columns: columns.length,
    page: Math.max(1, Math.floor((box.current?.clientHeight ?? 600) / rowHeight) - 3),
  };
  const focus = {
    row: Math.min(selection.focus.row, Math.max(0, rowCount - 1)),
    column: Math.min(selection.focus.column, Math.max(0, columns.length - 1)),
  };
  const range = toRange({
    anchor: {
      row: Math.min(selection.anchor.row, Math.max(0, rowCount - 1)),
      column: Math.min(selection.anchor.column, columns.length - 1),
    },
    focus,
  });

  const go = (s: Selection) => {
    setSelection(s);
    rows.scrollToIndex(s.focus.row);
    if (s.focus.column >= frozen) cols.scrollToIndex(s.focus.column);
  };
  useEffect(() => {
    if (!onSelect) return;
    const ids: string[] = [];
    for (let r = range.top; r <= range.bottom && ids.length < 5000; r++) {
      const row = rowAt(r);
      if (row) ids.push(row.id);
    }
    onSelect(ids);
  }, [range.top, range.bottom, onSelect, rowAt]);

  const grid: Grid = {
    idOf: (r) => rowAt(r)?.id,
    keyOf: (c) => columns[c]?.key ?? '',
    valueOf: (r, c) => rowAt(r)?.valueOf(columns[c]?.key ?? '') ?? null,
    canEdit: (_, c) => onPatch !== undefined && columns[c]?.readOnly !== true,
    read: (c, text) => toCellValue(columns[c]!, text),
  };
  const apply = (plan: PatchPlan, what: string) => {
    if (plan.missing) {
      toast.error(`${plan.missing} cells are not loaded yet; try again in a moment.`);
      return;
    }
    if (plan.patch.length) {
      void onPatch?.(plan.patch);
      if (plan.patch.length > 1)
        toast(`${what} ${plan.patch.length} cells${plan.skipped ? `; ${plan.skipped} cannot be changed here` : ''}.`);
    } else if (plan.skipped) toast(`These cells cannot be changed here.`);
  };
  const withRows = async (r: Range, then: () => void) => {
    if (props.loadRows) await props.loadRows(r.top, r.bottom);
    then();
  };

  const startEdit = (text?: string) => {
    const column = columns[focus.column],
      row = rowAt(focus.row);
    if (!column || !row || !grid.canEdit(focus.row, focus.column)) {
      if (row && onOpen && text === undefined) onOpen(row);
      return;
    }
    setEditing({ ...focus, text: text ?? toCellText(column, row.valueOf(column.key)) });
  };
  const commit = (text: string, then?: Selection) => {
    if (!editing) return;
    const row = rowAt(editing.row),
      column = columns[editing.column]!;
    setEditing(undefined);
    if (row) {
      const before = row.valueOf(column.key),
        after = toCellValue(column, text);
      if (JSON.stringify(before) !== JSON.stringify(after))
        void onPatch?.([{ row: row.id, column: column.key, before, after }]);
    }
    if (then) go(then);
    box.current?.focus({ preventScroll: true });
  };

  const onKey = (e: KeyboardEvent) => {
    if (editing) return;
    const ctrl = e.ctrlKey || e.metaKey;
    const moved = move({ anchor: selection.anchor, focus }, e.key, e.shiftKey, ctrl, bounds);
    if (moved) {
      e.preventDefault();
      go(moved);
      return;
    }
    if (e.key === 'Tab' && !ctrl) {
      const next = move({ anchor: focus, focus }, e.shiftKey ? 'ArrowLeft' : 'ArrowRight', false, false, bounds)!;
      if (next.focus.column !== focus.column) {
        e.preventDefault();
        go(next);
      }
      return;
    }
    if (ctrl && e.key === 'a') {
      e.preventDefault();
      setSelection({ anchor: { row: 0, column: 0 }, focus: { row: rowCount - 1, column: columns.length - 1 } });
      return;
    }
    if (ctrl && e.key === 'd') {
      e.preventDefault();
      void withRows(range, () => {
        apply(planFillDown(grid, range), 'Filled');
      });
      return;
    }
    if (ctrl && e.key === 'z') {
      e.preventDefault();
      onUndo?.();
      return;
    }
    if (e.key === 'Delete' || e.key === 'Backspace') {
      e.preventDefault();
      void withRows(range, () => {
        apply(planClear(grid, range), 'Cleared');
      });
      return;
    }
    if (e.key === 'Enter' && ctrl) {
      const row = rowAt(focus.row);
      if (row) onOpen?.(row);
      return;
    }
    if (e.key === 'Enter' || e.key === 'F2') {
      e.preventDefault();
      startEdit();
      return;
    }
    if (e.key.length === 1 && !ctrl && !e.altKey && e.key !== '?') {
      e.preventDefault();
      startEdit(e.key);
    }
  };
  const onCopy = (e: ClipboardEvent) => {
    if (editing) return;
    e.preventDefault();
    const block: string[][] = [];
    for (let r = range.top; r <= range.bottom; r++) {
      const row = rowAt(r);
      if (!row) {
        toast.error('Some of these rows are not loaded yet; scroll through them first.');
        return;
      }
      block.push(columns.slice(range.left, range.right + 1).map((c) => toCellText(c, row.valueOf(c.key))));
    }
    e.clipboardData.setData('text/plain', toClipboard(block));
    if (e.type === 'cut') apply(planClear(grid, range), 'Cut');
  };
  const onPaste = (e: ClipboardEvent) => {
    if (editing) return;
    e.preventDefault();
    const block = fromClipboard(e.clipboardData.getData('text/plain'));
    const reach: Range = {
      ...range,
      bottom: Math.min(rowCount - 1, Math.max(range.bottom, range.top + block.length - 1)),
    };
    void withRows(reach, () => {
      apply(planPaste(grid, range, block, bounds), 'Pasted');
    });
  };

  const cellId = (r: number, c: number) => `${id}-${r}-${c}`;
  const seenCols = cols
    .getVirtualItems()
    .map((v) => v.index)
    .filter((i) => i >= frozen);
  const shownCols = [...Array.from({ length: Math.min(frozen, columns.length) }, (_, i) => i), ...seenCols];
  const leftOf = (i: number): number =>
    numberWidth + Array.from({ length: i }, (_, k) => widthOf(k)).reduce((a, b) => a + b, 0);
  const shownRows =
    seenRows.some((v) => v.index === focus.row) || focus.row >= rowCount
      ? seenRows
      : [...seenRows, { index: focus.row, start: headHeight + focus.row * rowSize }];
  const note = hover ?? (editing ? undefined : focus);
  const noteRow = note && rowAt(note.row),
    noteColumn = note && columns[note.column];
  const noteFace = noteRow && noteColumn ? faceOf?.(noteRow, noteColumn) : undefined;

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div
        ref={box}
        role="grid"
        aria-label={props.label}
        aria-rowcount={rowCount + 1}
        aria-colcount={columns.length}
        aria-activedescendant={rowCount ? cellId(focus.row, focus.column) : undefined}
        aria-multiselectable="true"
        tabIndex={0}
        onKeyDown={onKey}
        onCopy={onCopy}
        onCut={onCopy}
        onPaste={onPaste}
        onMouseUp={() => {
          isDragging.current = false;
        }}
        onMouseLeave={() => {
          setHover(undefined);
        }}
        className="relative min-h-0 flex-1 overflow-auto bg-base-100 outline-none focus-visible:outline-2 focus-visible:-outline-offset-2"
      >
        <div
          role="presentation"
          style={{
            height: Math.max(headHeight, rows.getTotalSize()),
            width: cols.getTotalSize(),
            position: 'relative',
          }}
        >
          <div
            role="row"
            aria-rowindex={1}
            className="sticky top-0 z-20 bg-base-200"
            style={{ height: headHeight, width: cols.getTotalSize() }}
          >
            <div
              role="columnheader"
              aria-label="Row"
              className="sticky left-0 z-10 inline-block h-full border-r border-b border-base-300 bg-base-200"
              style={{ width: numberWidth }}
            />
            {shownCols.map((i) => (
              <HeadCell
                key={columns[i]!.key}
                column={columns[i]!}
                index={i}
                left={leftOf(i)}
                width={widthOf(i)}
                isFrozen={i < frozen}
                sort={props.sort?.key === columns[i]!.key ? props.sort.direction : undefined}
                onSort={props.onSort}
                onWidth={(w) => {
                  setWidths((o) => ({ ...o, [columns[i]!.key]: w }));
                }}
              />
            ))}
          </div>
          {shownRows.map((v) => (
            <GridLine
              key={v.index}
              index={v.index}
              top={v.start}
              row={rowAt(v.index)}
              columns={columns}
              shown={shownCols}
              frozen={frozen}
              widthOf={widthOf}
              leftOf={leftOf}
              range={v.index >= range.top && v.index <= range.bottom ? range : undefined}
              focusColumn={v.index === focus.row ? focus.column : -1}
              faceOf={faceOf}
              cellId={cellId}
              total={cols.getTotalSize()}
              version={props.version}
              onDown={(c, shift) => {
                if (editing) return;
                setSelection((s) =>
                  shift ? { anchor: s.anchor, focus: { row: v.index, column: c } } : startAt(v.index, c),
                );
                isDragging.current = true;
              }}
              onOver={(c) => {
                if (isDragging.current) setSelection((s) => ({ anchor: s.anchor, focus: { row: v.index, column: c } }));
                setHover({ row: v.index, column: c });
              }}
              onEdit={() => {
                startEdit();
              }}
            />
          ))}
          {editing && (
            <CellEditor
              key={`${editing.row}-${editing.column}`}
              column={columns[editing.column]!}
              text={editing.text}
              top={headHeight + editing.row * rowSize}
              left={leftOf(editing.column)}
              width={widthOf(editing.column)}
              isFrozen={editing.column < frozen}
              onCommit={(text, key) => {
                commit(text, key ? move(startAt(editing.row, editing.column), key, false, false, bounds) : undefined);
              }}
              onCancel={() => {
                setEditing(undefined);
                box.current?.focus({ preventScroll: true });
              }}
            />
          )}
        </div>
        {rowCount === 0 && props.empty}
      </div>
      <div
        className="flex min-h-7 items-center gap-3 border-t border-base-300 bg-base-200 px-3 py-1 text-[13px]"
        aria-live="polite"
      >
        {noteFace?.finding ? (
          <span className={toneOfLevel(noteFace.finding.level)}>{noteFace.finding.says}</span>
        ) : noteFace?.unused ? (
          <span className="quiet">{noteColumn?.title} is not used in this row’s category.</span>
        ) : noteFace?.origin ? (
          <span className="quiet">{noteFace.origin}</span>
        ) : (
          <span className="quiet">{noteColumn?.help ?? ''}</span>
        )}
        <span className="num ml-auto quiet">
          {sizeOfRange(range) > 1 && `${range.bottom - range.top + 1} × ${range.right - range.left + 1} selected`}
        </span>
      </div>
    </div>
  );
}

function HeadCell({
  column,
  index,
  left,
  width,
  isFrozen,
  sort,
  onSort,
  onWidth,
}: {
  column: GridColumn;
  index: number;
  left: number;
  width: number;
  isFrozen: boolean;
  sort: 'up' | 'down' | undefined;
  onSort: ((key: string) => void) | undefined;
  onWidth: (w: number) => void;
}) {
  const drag = (e: React.PointerEvent) => {
    e.preventDefault();
    e.stopPropagation();
    const start = e.clientX;
    const moveTo = (m: PointerEvent) => {
      onWidth(Math.max(50, width + m.clientX - start));
    };
    const up = () => {
      window.removeEventListener('pointermove', moveTo);
      window.removeEventListener('pointerup', up);
    };
    window.addEventListener('pointermove', moveTo);
    window.addEventListener('pointerup', up);
  };
  const inner = (
    <span className="flex min-w-0 items-start gap-1.5">
      <DemandNotch level={column.level} />
      <span className="line-clamp-2 leading-[1.15]">
        {column.title}
        {column.unit && <span className="quiet font-normal"> {column.unit}</span>}
        {sort && <span aria-hidden="true"> {sort === 'up' ? '▴' : '▾'}</span>}
      </span>
    </span>
  );
  return (
    <div
      role="columnheader"
      aria-colindex={index + 1}
      aria-sort={sort === 'up' ? 'ascending' : sort === 'down' ? 'descending' : undefined}
      style={isFrozen ? { left, width, position: 'sticky', marginLeft: 0 } : { left, width, position: 'absolute' }}
      className={`top-0 inline-block h-full overflow-hidden border-r border-b border-base-300 bg-base-200 px-2 py-1.5 align-top text-[12.5px] font-semibold ${isFrozen ? 'z-10' : ''} ${column.kind === 'number' ? 'text-right' : ''}`}
    >
      {onSort && column.sortable ? (
        <button
          type="button"
          tabIndex={-1}
          className="max-w-full text-left"
          onClick={() => {
            onSort(column.key);
          }}
        >
          {inner}
        </button>
      ) : (
        inner
      )}
      <span aria-hidden="true" onPointerDown={drag} className="absolute top-0 right-0 h-full w-1.5 cursor-col-resize" />
    </div>
  );
}

interface LineProps {
  index: number;
  top: number;
  row: GridRow | undefined;
  columns: readonly GridColumn[];
  shown: number[];
  frozen: number;
  widthOf: (i: number) => number;
  leftOf: (i: number) => number;
  range: Range | undefined;
  focusColumn: number;
  faceOf: DataGridProps['faceOf'] | undefined;
  cellId: (r: number, c: number) => string;
  total: number;
  version: unknown;
  onDown: (c: number, shift: boolean) => void;
  onOver: (c: number) => void;
  onEdit: () => void;
}

const GridLine = memo(
  function GridLine(p: LineProps) {
    const { row, columns, index } = p;
    return (
      <div
        role="row"
        aria-rowindex={index + 2}
        style={{ position: 'absolute', top: p.top, height: rowHeight, width: p.total, left: 0 }}
      >
        <div
          role="rowheader"
          className="num sticky left-0 z-10 inline-flex h-full items-center justify-end border-r border-b border-base-300 bg-base-200 pr-2 align-top text-[11px] quiet"
          style={{ width: numberWidth }}
        >
          {index + 1}
        </div>
        {p.shown.map((c) => {
          const column = columns[c]!;
          const isFrozen = c < p.frozen;
          const face = row && p.faceOf?.(row, column);
          const text = row ? toCellText(column, row.valueOf(column.key)) : '';
          const isSelected = p.range !== undefined && isInRange(p.range, index, c);
          return (
            <div
              key={column.key}
              id={p.cellId(index, c)}
              role="gridcell"
              aria-colindex={c + 1}
              aria-selected={isSelected}
              aria-readonly={column.readOnly ? true : undefined}
              aria-invalid={face?.finding?.level === 'blocker' ? true : undefined}
              onMouseDown={(e) => {
                if (e.button === 0) p.onDown(c, e.shiftKey);
              }}
              onMouseEnter={() => {
                p.onOver(c);
              }}
              onDoubleClick={p.onEdit}
              style={
                isFrozen
                  ? { left: p.leftOf(c), width: p.widthOf(c), position: 'sticky' }
                  : { left: p.leftOf(c), width: p.widthOf(c), position: 'absolute' }
              }
              className={`top-0 inline-flex h-full items-center gap-1.5 overflow-hidden border-r border-b border-base-300 px-2 align-top whitespace-nowrap select-none ${isFrozen ? 'z-[5] bg-base-100' : ''} ${column.kind === 'number' ? 'justify-end' : ''} ${column.mono || column.kind === 'number' ? 'num' : ''} ${face?.unused ? 'hatch' : ''} ${face?.lit ? 'bg-error/10' : ''} ${isSelected ? '!bg-primary/12' : ''} ${p.focusColumn === c ? 'outline-2 -outline-offset-2 outline-primary' : ''}`}
            >
              {isSelected && isFrozen && <span className="absolute inset-0 -z-10 bg-base-100" />}
              {face?.lead}
              <span className="overflow-hidden text-ellipsis">
                {row ? text : <span className="inline-block h-2 w-16 rounded bg-base-300" />}
              </span>
              {face?.finding && (
                <span className={`fold ${toneOfLevel(face.finding.level)}`}>
                  <span className="sr-only">
                    {face.finding.level}: {face.finding.says}
                  </span>
                </span>
              )}
            </div>
          );
        })}
      </div>
    );
  },
  (a, b) =>
    a.row === b.row &&
    a.version === b.version &&
    a.top === b.top &&
    a.focusColumn === b.focusColumn &&
    a.range?.left === b.range?.left &&
    a.range?.right === b.range?.right &&
    (a.range === undefined) === (b.range === undefined) &&
    a.shown.length === b.shown.length &&
    a.shown.every((v, i) => v === b.shown[i]) &&
    a.widthOf === b.widthOf &&
    a.faceOf === b.faceOf &&
    a.columns === b.columns,
);

function CellEditor({
  column,
  text,
  top,
  left,
  width,
  isFrozen,
  onCommit,
  onCancel,
}: {
  column: GridColumn;
  text: string;
  top: number;
  left: number;
  width: number;
  isFrozen: boolean;
  onCommit: (text: string, key?: string) => void;
  onCancel: () => void;
}) {
  const ref = useRef<HTMLInputElement>(null),
    listId = useId(),
    isOver = useRef(false);
  useLayoutEffect(() => {
    ref.current?.focus({ preventScroll: true });
    if (text.length > 1) ref.current?.select();
  }, [text.length]);
  const done = (key?: string) => {
    if (isOver.current) return;
    isOver.current = true;
    onCommit(ref.current?.value ?? '', key);
  };
  return (
    <>
      <input
        ref={ref}
        defaultValue={text}
        list={column.options ? listId : undefined}
        aria-label={`${column.title}, editing`}
        autoComplete="off"
        onKeyDown={(e) => {
          e.stopPropagation();
          if (e.key === 'Enter') {
            e.preventDefault();
            done(e.shiftKey ? 'ArrowUp' : 'ArrowDown');
          } else if (e.key === 'Tab') {
            e.preventDefault();
            done(e.shiftKey ? 'ArrowLeft' : 'ArrowRight');
          } else if (e.key === 'Escape') {
            e.preventDefault();
            isOver.current = true;
            onCancel();
          }
        }}
        onBlur={() => {
          done();
        }}
        onCopy={(e) => {
          e.stopPropagation();
        }}
        onPaste={(e) => {
          e.stopPropagation();
        }}
        style={{ position: 'absolute', top, left, width: Math.max(width, 160), height: rowHeight }}
        className={`z-30 border-2 border-primary bg-base-100 px-1.5 outline-none ${isFrozen ? 'z-40' : ''} ${column.kind === 'number' ? 'num text-right' : ''}`}
      />
      {column.options && (
        <datalist id={listId}>
          {column.options.map((o) => (
            <option key={o.code} value={o.label} />
          ))}
        </datalist>
      )}
    </>
  );
}
