// How a person keeps a table: which columns, in which order, how wide, how many in sight. Pure.
import type { TableLayout } from '@basileus/contract';

export const startLayout: TableLayout = { columns: null, widths: {}, frozen: 2 };

/** Columns that a layout shows, out of all that there are; what there is no more is left out. */
export function arrange<C extends { key: string }>(all: readonly C[], layout: TableLayout): C[] {
  if (layout.columns === null) return [...all];
  const byKey = new Map(all.map((c) => [c.key, c]));
  return layout.columns.flatMap((k) => byKey.get(k) ?? []);
}

/** Columns with some that are looked at for now right behind those that stay in sight, wherever these stand else. */
export function putBeside<C extends { key: string }>(
  shown: readonly C[],
  all: readonly C[],
  beside: readonly string[],
  frozen: number,
): C[] {
  const inSight = shown.slice(0, frozen);
  const more = beside.flatMap((key) =>
    inSight.some((c) => c.key === key) ? [] : (all.find((c) => c.key === key) ?? []),
  );
  return [...inSight, ...more, ...shown.slice(frozen).filter((c) => !beside.includes(c.key))];
}

/** A column put before another one, or last where there is none; `shown` are those that stand there now. */
export function moveColumn(
  layout: TableLayout,
  shown: readonly string[],
  key: string,
  before: string | null,
): TableLayout {
  if (key === before) return layout;
  const rest = shown.filter((k) => k !== key);
  const at = before === null ? rest.length : rest.indexOf(before);
  return { ...layout, columns: [...rest.slice(0, at), key, ...rest.slice(at)] };
}

/** A column one further to the left or right. */
export function stepColumn(layout: TableLayout, shown: readonly string[], key: string, by: -1 | 1): TableLayout {
  const at = shown.indexOf(key),
    to = at + by;
  if (at < 0 || to < 0 || to >= shown.length) return layout;
  return moveColumn(layout, shown, key, by < 0 ? shown[to]! : (shown[to + 1] ?? null));
}

/** Without a column; the last one stays, since a table of none cannot be used. */
export function hideColumn(layout: TableLayout, shown: readonly string[], key: string): TableLayout {
  const rest = shown.filter((k) => k !== key);
  if (rest.length === 0) return layout;
  const isFrozen = shown.indexOf(key) < layout.frozen;
  return { ...layout, columns: rest, frozen: isFrozen ? layout.frozen - 1 : layout.frozen };
}

/** With a column more, behind all others. */
export const showColumn = (layout: TableLayout, shown: readonly string[], key: string): TableLayout =>
  shown.includes(key) ? layout : { ...layout, columns: [...shown, key] };

export const isSameLayout = (a: TableLayout, b: TableLayout): boolean =>
  a.frozen === b.frozen &&
  JSON.stringify(a.columns) === JSON.stringify(b.columns) &&
  JSON.stringify(Object.entries(a.widths).sort()) === JSON.stringify(Object.entries(b.widths).sort());
