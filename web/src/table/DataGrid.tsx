// The spreadsheet table: one focusable grid with real cells, rows and columns drawn as they are seen, every change a patch.
import type { Patch } from '@basileus/core/change';
import { type MouseEvent, type ReactNode, useEffect, useId, useRef, useState } from 'react';
import { CellEditor, type Suggest } from './CellEditor';
import type { GridColumn } from './columns';
import { headHeight, numberWidth } from './geometry';
import { type FaceOf, findCell, GridLine, type GridRow, toCellId } from './GridLine';
import { HeadCell } from './HeadCell';
import { type Bounds, type Cell, clampSelection, type Selection, startAt, toRange } from './model';
import { NoteBar } from './NoteBar';
import { type AskSums, RangeSums } from './RangeSums';
import { useGridCommands } from './useGridCommands';
import { useGridView } from './useGridView';
import { say } from '../ui/text';

export interface DataGridProps {
  label: string;
  columns: readonly GridColumn[];
  /** So many columns from the left stay in sight, as far as the window is wide enough. */
  frozen: number;
  /** How the columns are laid out, where that is kept; without it widths last as long as the page. */
  layout?: ColumnLayout;
  /** Columns may still come. */
  isBusy?: boolean;
  rowCount: number;
  rowAt: (index: number) => GridRow | undefined;
  version: unknown;
  faceOf?: FaceOf;
  onSeen?: (first: number, last: number) => void;
  onPatch?: (patch: Patch) => Promise<void> | void;
  onTurn?: (how: 'undo' | 'redo') => void;
  onOverflow?: (rows: string[][], left: number) => void;
  /** A change of the marked rows that is asked for by a key: any, or find and replace. */
  onBulk?: (how: 'change' | 'replace', column: GridColumn, rows: { top: number; bottom: number }) => void;
  onOpen?: (row: GridRow, column: GridColumn | undefined) => void;
  sort?: { key: string; direction: 'up' | 'down' } | undefined;
  onSort?: (key: string) => void;
  /** The rows that are marked, as far as they are loaded, and from which to which they are. */
  onSelect?: (rowIds: string[], range: { top: number; bottom: number }) => void;
  /** What a selection adds up to, where not all of its rows are here. */
  askSums?: AskSums | undefined;
  /** Values that stand in a column already and hold what is typed, the most frequent first. */
  suggest?: Suggest | undefined;
  loadRows?: (first: number, last: number) => Promise<unknown>;
  empty?: ReactNode;
}

export interface ColumnLayout {
  widths: Readonly<Record<string, number>>;
  onWidth: (key: string, width: number) => void;
  /** A column is put before another one, or last. */
  onMove: (key: string, before: string | null) => void;
  /** What can be done with a column, asked for at its head. */
  onMenu: (key: string, head: HTMLElement) => void;
  /** Columns by which the rows are narrowed. */
  filtered?: ReadonlySet<string>;
}

/** Most rows that a selection is passed on with; a whole filtered list is a matter for the server. */
const mostSelected = 5000;

export function DataGrid(props: DataGridProps) {
  const { columns, layout, rowCount, rowAt, faceOf, onSeen, onSelect, loadRows } = props;
  const { onPatch, onTurn, onOverflow, onOpen, onBulk } = props;
  const id = useId(),
    box = useRef<HTMLDivElement>(null),
    isDragging = useRef(false);
  const [chosen, setChosen] = useState<Selection>(() => startAt(0, 0));
  const [hover, setHover] = useState<Cell | undefined>();
  const [drawn, setDrawn] = useState<Record<string, number>>({});
  const view = useGridView({
    box,
    columns,
    widths: layout?.widths ?? drawn,
    frozen: props.frozen,
    rowCount,
    onSeen,
  });
  const { frozen } = view;
  const bounds: Bounds = {
    rows: rowCount,
    columns: columns.length,
    page: view.page,
  };
  // The list may have become shorter since the cell was chosen.
  const selection = clampSelection(chosen, bounds);
  const { anchor: active } = selection;
  const range = toRange(selection);
  const go = (s: Selection, isToBeginning = false) => {
    setChosen(s);
    view.scrollTo(s.focus, isToBeginning);
  };
  useEffect(() => {
    if (!onSelect) return;
    const ids: string[] = [];
    for (let r = range.top; r <= range.bottom && ids.length < mostSelected; r++) {
      const row = rowAt(r);
      if (row) ids.push(row.id);
    }
    onSelect(ids, { top: range.top, bottom: range.bottom });
  }, [range.top, range.bottom, onSelect, rowAt]);

  const { editing, startEdit, stopEdit, commit, onKey, onCopy, onPaste } = useGridCommands({
    box,
    columns,
    bounds,
    selection,
    rowAt,
    choose: setChosen,
    go,
    loadRows,
    onPatch,
    onTurn,
    onOverflow,
    onOpen,
    onBulk,
    onMenu: layout?.onMenu,
  });
  const onMouseDown = (e: MouseEvent) => {
    const cell = e.button === 0 ? findCell(e.target) : undefined;
    if (!cell) return;
    setChosen((s) => (e.shiftKey ? { anchor: s.anchor, focus: cell } : startAt(cell.row, cell.column)));
    isDragging.current = true;
  };
  const onMouseOver = (e: MouseEvent) => {
    const cell = findCell(e.target);
    if (!cell || (hover?.row === cell.row && hover.column === cell.column)) return;
    if (isDragging.current) setChosen((s) => ({ anchor: s.anchor, focus: cell }));
    setHover(cell);
  };

  const noted = hover ?? (editing ? undefined : active);
  const notedRow = noted && rowAt(noted.row),
    notedColumn = noted && columns[noted.column];
  const { place, width } = view;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div
        ref={box}
        role="grid"
        aria-label={props.label}
        aria-rowcount={rowCount + 1}
        aria-colcount={columns.length}
        aria-busy={props.isBusy}
        aria-activedescendant={rowCount ? toCellId(id, active.row, active.column) : undefined}
        aria-multiselectable="true"
        tabIndex={0}
        onKeyDown={onKey}
        onCopy={onCopy}
        onCut={onCopy}
        onPaste={onPaste}
        onMouseDown={onMouseDown}
        onMouseOver={onMouseOver}
        onMouseUp={() => {
          isDragging.current = false;
        }}
        onMouseLeave={() => {
          setHover(undefined);
        }}
        onDoubleClick={(e) => {
          if (findCell(e.target)) startEdit();
        }}
        className="relative min-h-0 flex-1 overflow-auto bg-base-100 outline-none focus-visible:outline-2 focus-visible:-outline-offset-2"
      >
        <div role="presentation" style={{ height: view.height, width, position: 'relative' }}>
          <div
            role="row"
            aria-rowindex={1}
            className="sticky top-0 z-20 bg-base-200"
            style={{ height: headHeight, width }}
          >
            <div
              role="columnheader"
              aria-label={say`Row`}
              className="sticky start-0 z-10 inline-block h-full border-e border-b border-base-300 bg-base-200"
              style={{ width: numberWidth }}
            />
            {view.shownColumns.map((i) => (
              <HeadCell
                key={columns[i]!.key}
                column={columns[i]!}
                index={i}
                left={place.leftOf(i)}
                width={place.widthOf(i)}
                isFrozen={i < frozen}
                sort={props.sort?.key === columns[i]!.key ? props.sort.direction : undefined}
                isFiltered={layout?.filtered?.has(columns[i]!.key) === true}
                onSort={props.onSort}
                onWidth={(w) => {
                  if (layout) layout.onWidth(columns[i]!.key, w);
                  else setDrawn((o) => ({ ...o, [columns[i]!.key]: w }));
                }}
                onDrop={
                  layout &&
                  ((key, edge) => {
                    layout.onMove(key, columns[edge === 'before' ? i : i + 1]?.key ?? null);
                  })
                }
                onMenu={layout?.onMenu}
              />
            ))}
          </div>
          {view.listShownRows(active.row).map((v) => (
            <GridLine
              key={v.index}
              grid={id}
              index={v.index}
              top={v.start}
              width={width}
              row={rowAt(v.index)}
              columns={columns}
              shown={view.shownColumns}
              frozen={frozen}
              place={place}
              range={v.index >= range.top && v.index <= range.bottom ? range : undefined}
              focusColumn={v.index === active.row ? active.column : -1}
              faceOf={faceOf}
              version={props.version}
            />
          ))}
          {editing && (
            <CellEditor
              key={`${editing.row}-${editing.column}`}
              column={columns[editing.column]!}
              suggest={props.suggest}
              text={editing.text}
              top={view.topOf(editing.row)}
              left={place.leftOf(editing.column)}
              width={place.widthOf(editing.column)}
              isFrozen={editing.column < frozen}
              onCommit={(text, key, isLeaving) => {
                commit(editing, text, key, isLeaving);
              }}
              onCancel={stopEdit}
            />
          )}
        </div>
        {rowCount === 0 && props.empty}
      </div>
      <NoteBar face={notedRow && notedColumn ? faceOf?.(notedRow, notedColumn) : undefined} column={notedColumn}>
        <RangeSums range={range} columns={columns} rowAt={rowAt} version={props.version} ask={props.askSums} />
      </NoteBar>
    </div>
  );
}
