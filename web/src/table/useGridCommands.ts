// What keys and the clipboard do in the table. Every change goes out as one patch.
import type { Patch } from '@basileus/core/change';
import type { Value } from '@basileus/core/listing';
import type { ClipboardEvent, KeyboardEvent, RefObject } from 'react';
import { useState } from 'react';
import { toast } from 'sonner';
import { plural } from '../ui/text';
import { type GridColumn, toCellText, toCellValue } from './columns';
import type { GridRow } from './GridLine';
import { toCommand } from './keys';
import {
  type Bounds,
  type Cell,
  fromClipboard,
  type Grid,
  move,
  type PatchPlan,
  planClear,
  planFillDown,
  planPaste,
  type Range,
  type Selection,
  startAt,
  toClipboard,
  toRange,
} from './model';

export interface GridCommandsOptions {
  box: RefObject<HTMLDivElement | null>;
  columns: readonly GridColumn[];
  bounds: Bounds;
  selection: Selection;
  rowAt: (index: number) => GridRow | undefined;
  choose: (s: Selection) => void;
  /** Chooses and brings into sight. */
  go: (s: Selection) => void;
  loadRows: ((first: number, last: number) => Promise<unknown>) | undefined;
  onPatch: ((patch: Patch) => Promise<void> | void) | undefined;
  onUndo: (() => void) | undefined;
  onOpen: ((row: GridRow) => void) | undefined;
}

/** A cell being edited: the item and the value that it began with, whatever others change meanwhile. */
interface Editing extends Cell {
  id: string;
  before: Value | null;
  text: string;
}

export function useGridCommands(options: GridCommandsOptions) {
  const { box, columns, bounds, selection, rowAt, choose, go, loadRows, onPatch, onUndo, onOpen } = options;
  const [editing, setEditing] = useState<Editing | undefined>();
  const { focus } = selection;
  const range = toRange(selection);

  const grid: Grid = {
    idOf: (r) => rowAt(r)?.id,
    keyOf: (c) => columns[c]?.key ?? '',
    valueOf: (r, c) => rowAt(r)?.valueOf(columns[c]?.key ?? '') ?? null,
    canEdit: (_, c) => onPatch !== undefined && columns[c]?.readOnly !== true,
    read: (c, text) => toCellValue(columns[c]!, text),
  };
  const apply = (plan: PatchPlan, what: string) => {
    const { patch, skipped, missing } = plan;
    if (missing) {
      toast.error(`${plural(missing, 'cell is', 'cells are')} not loaded yet; try again in a moment.`);
      return;
    }
    if (patch.length) void onPatch?.(patch);
    if (patch.length > 1)
      toast(
        `${what} ${plural(patch.length, 'cell', 'cells')}${skipped ? `; ${plural(skipped, 'cannot', 'cannot')} be changed here` : ''}.`,
      );
    else if (patch.length === 0 && skipped) toast('These cells cannot be changed here.');
  };
  /** Rows are fetched before they are changed: one that is not loaded must never read as blank. */
  const changeRows = async (r: Range, plan: () => PatchPlan, what: string) => {
    await loadRows?.(r.top, r.bottom);
    apply(plan(), what);
  };

  const open = () => {
    const row = rowAt(focus.row);
    if (row) onOpen?.(row);
  };
  const startEdit = (typed?: string) => {
    const column = columns[focus.column],
      row = rowAt(focus.row);
    if (!column || !row) return;
    if (grid.canEdit(focus.row, focus.column))
      setEditing({
        ...focus,
        id: row.id,
        before: row.valueOf(column.key),
        text: typed ?? toCellText(column, row.valueOf(column.key)),
      });
    else if (typed === undefined) open();
  };
  const stopEdit = () => {
    setEditing(undefined);
    box.current?.focus({ preventScroll: true });
  };
  /** `isLeaving`: the focus has gone elsewhere and is not to be fetched back. */
  const commit = (cell: Editing, text: string, key: string | undefined, isLeaving: boolean) => {
    const column = columns[cell.column]!;
    const { id, before } = cell,
      after = toCellValue(column, text);
    if (JSON.stringify(before) !== JSON.stringify(after))
      void onPatch?.([{ row: id, column: column.key, before, after, at: cell.row + 1 }]);
    const next = key && move(startAt(cell.row, cell.column), key, false, false, bounds);
    if (next) go(next);
    if (isLeaving) setEditing(undefined);
    else stopEdit();
  };

  const onKey = (e: KeyboardEvent) => {
    const command =
      !editing && toCommand({ key: e.key, isCtrl: e.ctrlKey || e.metaKey, isShift: e.shiftKey, isAlt: e.altKey });
    if (!command) return;
    if (command.do === 'step') {
      const next = move({ anchor: focus, focus }, command.key, false, false, bounds);
      // At the edge the key leaves the table.
      if (!next || next.focus.column === focus.column) return;
      e.preventDefault();
      go(next);
      return;
    }
    e.preventDefault();
    switch (command.do) {
      case 'move':
        return go(move(selection, command.key, command.isExtending, command.isFar, bounds) ?? selection);
      case 'select-all':
        return choose({ anchor: { row: 0, column: 0 }, focus: { row: bounds.rows - 1, column: bounds.columns - 1 } });
      case 'fill-down':
        return void changeRows(range, () => planFillDown(grid, range), 'Filled');
      case 'clear':
        return void changeRows(range, () => planClear(grid, range), 'Cleared');
      case 'undo':
        return onUndo?.();
      case 'open':
        return open();
      case 'edit':
        return startEdit();
      case 'type':
        return startEdit(command.text);
    }
  };
  const onCopy = (e: ClipboardEvent) => {
    if (editing) return;
    e.preventDefault();
    const shown = columns.slice(range.left, range.right + 1);
    const block: string[][] = [];
    for (let r = range.top; r <= range.bottom; r++) {
      const row = rowAt(r);
      if (!row) {
        toast.error('Some of these rows are not loaded yet; scroll through them first.');
        return;
      }
      block.push(shown.map((c) => toCellText(c, row.valueOf(c.key))));
    }
    e.clipboardData.setData('text/plain', toClipboard(block));
    if (e.type === 'cut') apply(planClear(grid, range), 'Cut');
  };
  const onPaste = (e: ClipboardEvent) => {
    if (editing) return;
    e.preventDefault();
    const block = fromClipboard(e.clipboardData.getData('text/plain'));
    const bottom = Math.min(bounds.rows - 1, Math.max(range.bottom, range.top + block.length - 1));
    void changeRows({ ...range, bottom }, () => planPaste(grid, range, block, bounds), 'Pasted');
  };

  return { editing, startEdit, stopEdit, commit, onKey, onCopy, onPaste };
}
