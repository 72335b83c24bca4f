// What keys and the clipboard do in the table. Every change goes out as one patch.
import type { Patch } from '@basileus/core/change';
import type { Value } from '@basileus/core/listing';
import type { ClipboardEvent, KeyboardEvent, RefObject } from 'react';
import { useState } from 'react';
import { toast } from '../ui/messages';
import { isRightToLeft } from '../ui/language';
import { count, plural, say } from '../ui/text';
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
  go: (s: Selection, isToBeginning?: boolean) => void;
  loadRows: ((first: number, last: number) => Promise<unknown>) | undefined;
  onPatch: ((patch: Patch) => Promise<void> | void) | undefined;
  onTurn: ((how: 'undo' | 'redo') => void) | undefined;
  /** Takes the rows of a paste for which the table has no place, from the column on that they begin in. */
  onOverflow: ((rows: string[][], left: number) => void) | undefined;
  onOpen: ((row: GridRow, column: GridColumn | undefined) => void) | undefined;
  onBulk: ((how: 'change' | 'replace', column: GridColumn, rows: { top: number; bottom: number }) => void) | undefined;
  onMenu: ((key: string, head: HTMLElement) => void) | undefined;
}

/** Rows that are fetched in one go for the clipboard. */
const rowsAtOnce = 2000;

/** A cell being edited: the item and the value that it began with, whatever others change meanwhile. */
interface Editing extends Cell {
  id: string;
  before: Value | null;
  text: string;
}

export function useGridCommands(options: GridCommandsOptions) {
  const { box, columns, bounds, selection, rowAt, choose, go, loadRows, onPatch, onTurn, onOverflow } = options;
  const { onOpen, onBulk, onMenu } = options;
  const [editing, setEditing] = useState<Editing | undefined>();
  /** The active cell stays where a selection began. */
  const { anchor: focus } = selection;
  const range = toRange(selection);

  const grid: Grid = {
    idOf: (r) => rowAt(r)?.id,
    keyOf: (c) => columns[c]?.key ?? '',
    valueOf: (r, c) => rowAt(r)?.valueOf(columns[c]?.key ?? '') ?? null,
    canEdit: (_, c) => onPatch !== undefined && columns[c]?.readOnly !== true,
    read: (c, text) => toCellValue(columns[c]!, text),
  };
  const apply = (plan: PatchPlan, what: string, block: readonly string[][] = []) => {
    const { patch, skipped, missing, overflow = { rows: 0, columns: 0 } } = plan;
    if (missing) {
      toast.error(say`${plural(missing, 'cell is', 'cells are')} not loaded yet; try again in a moment.`);
      return;
    }
    if (patch.length) void onPatch?.(patch);
    if (overflow.rows > 0 || overflow.columns > 0) {
      const left = [
        overflow.rows > 0 && plural(overflow.rows, 'row', 'rows'),
        overflow.columns > 0 && plural(overflow.columns, 'column', 'columns'),
      ].filter((t) => t !== false);
      const rest = block.slice(block.length - overflow.rows).map((r) => [...r]);
      toast.warning(
        say`${left.join(say` and `)} of what was pasted found no place at the edge of the table and were left out.`,
        onOverflow && overflow.rows > 0 && range.left === 0
          ? {
              label: say`Add them as new items`,
              run: () => {
                onOverflow(rest, range.left);
              },
            }
          : undefined,
      );
      return;
    }
    if (patch.length > 1)
      toast(
        `${what} ${plural(patch.length, 'cell', 'cells')}${skipped ? say`; ${count(skipped)} cannot be changed here` : ''}.`,
      );
    else if (patch.length === 0 && skipped) toast(say`These cells cannot be changed here.`);
  };
  /** Rows are fetched before they are changed: one that is not loaded must never read as blank. */
  const changeRows = async (r: Range, plan: () => PatchPlan, what: string, block?: readonly string[][]) => {
    await loadRows?.(r.top, r.bottom);
    apply(plan(), what, block);
  };

  const open = () => {
    const row = rowAt(focus.row);
    if (row) onOpen?.(row, columns[focus.column]);
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
      void onPatch?.([{ row: id, field: column.key, before, after, at: cell.row + 1 }]);
    const next = key && move(startAt(cell.row, cell.column), key, false, false, bounds);
    if (next) go(next);
    if (isLeaving) setEditing(undefined);
    else stopEdit();
  };

  const openMenu = () => {
    const head = box.current?.querySelector<HTMLElement>(`[role=columnheader][aria-colindex="${focus.column + 1}"]`);
    const column = columns[focus.column];
    if (head && column) onMenu?.(column.key, head);
  };
  const onKey = (e: KeyboardEvent) => {
    const command =
      !editing &&
      toCommand({
        key: e.key,
        isMirrored: isRightToLeft(),
        isCtrl: e.ctrlKey || e.metaKey,
        isShift: e.shiftKey,
        isAlt: e.altKey,
      });
    if (!command) return;
    if (command.do === 'step') {
      const next = move({ anchor: focus, focus }, command.key, false, false, bounds);
      // At the edge the key leaves the table.
      if (!next || next.focus.column === focus.column) return;
      e.preventDefault();
      go(next);
      return;
    }
    // What the table has no use for is left to the browser.
    if ((command.do === 'bulk' || command.do === 'replace') && !onBulk) return;
    e.preventDefault();
    switch (command.do) {
      case 'move':
        return go(
          move(selection, command.key, command.isExtending, command.isFar, bounds) ?? selection,
          command.key === 'Home',
        );
      case 'select-all':
        return choose({ anchor: { row: 0, column: 0 }, focus: { row: bounds.rows - 1, column: bounds.columns - 1 } });
      case 'fill-down':
        return void changeRows(range, () => planFillDown(grid, range), say`Filled`);
      case 'clear':
        return void changeRows(range, () => planClear(grid, range), say`Cleared`);
      case 'undo':
      case 'redo':
        return onTurn?.(command.do);
      case 'open':
        return open();
      case 'menu':
        return openMenu();
      case 'bulk':
      case 'replace': {
        const column = columns[focus.column];
        // With the rows as they are marked here: whoever listens may not have heard of the last of them.
        return column && onBulk?.(command.do === 'bulk' ? 'change' : 'replace', column, range);
      }
      case 'edit':
        return startEdit();
      case 'type':
        return startEdit(command.text);
    }
  };
  const writeBlock = (): string => {
    const shown = columns.slice(range.left, range.right + 1);
    const block: string[][] = [];
    for (let r = range.top; r <= range.bottom; r++) {
      const row = rowAt(r);
      block.push(shown.map((c) => (row ? toCellText(c, row.valueOf(c.key)) : '')));
    }
    return toClipboard(block);
  };
  const isLoaded = (): boolean => {
    for (let r = range.top; r <= range.bottom; r++) if (!rowAt(r)) return false;
    return true;
  };
  /** Rows that are not here yet are fetched, some thousand at a time, and then copied as a whole. */
  const copyFar = async (isCut: boolean) => {
    const rows = range.bottom - range.top + 1;
    try {
      for (let r = range.top; r <= range.bottom; r += rowsAtOnce) {
        toast(say`Fetching ${plural(rows, 'row', 'rows')} to copy: ${count(r - range.top)} are here.`);
        await loadRows?.(r, Math.min(range.bottom, r + rowsAtOnce - 1));
      }
      await navigator.clipboard.writeText(writeBlock());
      toast.success(say`${plural(rows, 'row', 'rows')} copied.`);
      if (isCut) apply(planClear(grid, range), 'Cut');
    } catch {
      toast.error(say`The rows could not be copied. Keep this window in front until they are, and try again.`);
    }
  };
  const onCopy = (e: ClipboardEvent) => {
    if (editing) return;
    e.preventDefault();
    if (!isLoaded()) return void copyFar(e.type === 'cut');
    e.clipboardData.setData('text/plain', writeBlock());
    if (e.type === 'cut') apply(planClear(grid, range), 'Cut');
  };
  const onPaste = (e: ClipboardEvent) => {
    if (editing) return;
    e.preventDefault();
    const block = fromClipboard(e.clipboardData.getData('text/plain'));
    const bottom = Math.min(bounds.rows - 1, Math.max(range.bottom, range.top + block.length - 1));
    void changeRows({ ...range, bottom }, () => planPaste(grid, range, block, bounds), say`Pasted`, block);
  };

  return { editing, startEdit, stopEdit, commit, onKey, onCopy, onPaste };
}
