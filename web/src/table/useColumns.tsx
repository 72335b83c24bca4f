import type { TableLayout } from '@basileus/contract';
import { type ReactNode, useMemo, useState } from 'react';
import { ColumnChooser } from './ColumnChooser';
import { ColumnMenu } from './ColumnMenu';
import type { GridColumn } from './columns';
import type { ColumnLayout } from './DataGrid';
import { arrange, moveColumn, putBeside, startLayout } from './layout';
import { useLayout } from './useLayout';

export interface ColumnsOptions {
  /** Name under which this browser keeps how the table is laid out. */
  table: string;
  /** What is laid out so before anything was changed here. */
  base?: TableLayout;
  /** Columns as they come, where none were chosen. */
  usual: readonly GridColumn[];
  /** All that may be chosen. */
  all: readonly GridColumn[];
  /** Columns that are looked at for now, by their keys, whether or not they are kept. */
  beside?: readonly string[];
  /** What was looked at for now is kept like the others, or was put away. */
  onKept?: () => void;
  groupOf: (key: string) => string;
  filtered?: ReadonlySet<string>;
  /** Somebody chooses among all columns. */
  onChoose?: () => void;
  onSort?: (key: string, direction: 'up' | 'down') => void;
  /** How a column is narrowed, in its menu. */
  filterOf?: (key: string, close: () => void) => ReactNode;
}

const noKeys: readonly string[] = [];

/** The columns of a table as a person keeps them: shown, in order, as wide and as firmly in sight as was said, with the dialogs for it. */
export function useColumns(options: ColumnsOptions) {
  const {
    table,
    base = startLayout,
    usual,
    all,
    beside = noKeys,
    groupOf,
    filtered,
    onChoose,
    onSort,
    filterOf,
  } = options;
  const { layout, isChanged, setLayout: keepLayout, reset } = useLayout(table, base);
  const setLayout = (next: TableLayout) => {
    keepLayout(next);
    if (next.columns !== layout.columns) options.onKept?.();
  };
  const [menu, setMenu] = useState<{ key: string; head: HTMLElement }>();
  const [isChoosing, setChoosing] = useState(false);
  const columns = useMemo(
    () => putBeside(layout.columns === null ? usual : arrange(all, layout), all, beside, layout.frozen),
    [usual, all, beside, layout],
  );
  const shown = columns.map((c) => c.key);
  const grid: ColumnLayout = {
    widths: layout.widths,
    onWidth: (key, width) => {
      setLayout({ ...layout, widths: { ...layout.widths, [key]: width } });
    },
    onMove: (key, before) => {
      setLayout(moveColumn(layout, shown, key, before));
    },
    onMenu: (key, head) => {
      setMenu({ key, head });
    },
    ...(filtered ? { filtered } : {}),
  };
  const choose = () => {
    onChoose?.();
    setChoosing(true);
  };
  const chosen = menu && columns.find((c) => c.key === menu.key);
  const close = () => {
    setMenu(undefined);
  };
  const dialogs = (
    <>
      {menu && chosen && (
        <ColumnMenu
          key={menu.key}
          column={chosen}
          shown={shown}
          head={menu.head}
          layout={layout}
          onLayout={setLayout}
          onSort={
            onSort &&
            ((direction) => {
              onSort(menu.key, direction);
            })
          }
          onColumns={choose}
          onClose={close}
        >
          {filterOf?.(menu.key, close)}
        </ColumnMenu>
      )}
      {isChoosing && (
        <ColumnChooser
          offered={all.map((c) => ({ key: c.key, title: c.title, group: groupOf(c.key) }))}
          shown={shown}
          layout={layout}
          onLayout={setLayout}
          onClose={() => {
            setChoosing(false);
          }}
        />
      )}
    </>
  );
  return {
    columns,
    layout,
    isChanged,
    reset,
    grid,
    dialogs,
    choose,
  };
}
