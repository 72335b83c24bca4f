// One row of the table. It is drawn again only when something of its own has changed.
import type { Value } from '@basileus/core/listing';
import { memo, type ReactNode } from 'react';
import { Thumb } from '../ui/Thumb';
import { toneOfLevel } from '../ui/demand';
import { inLanguage } from '../ui/language';
import { type GridColumn, toCellText } from './columns';
import { type ColumnGeometry, numberWidth, rowHeight } from './geometry';
import { isInRange, type Range } from './model';
import { say } from '../ui/text';

export interface GridRow {
  id: string;
  valueOf: (key: string) => Value | null;
  /** True where what the cell shows has not reached the server. */
  isUnsaved?: (key: string) => boolean;
}

/** What stands in a cell beside its value. */
export interface CellFace {
  finding?: { level: 'blocker' | 'caution' | 'tip'; says: string } | undefined;
  unused?: boolean | undefined;
  origin?: string | undefined;
  lit?: boolean | undefined;
  lead?: ReactNode;
  /** Stands at the end of the cell. */
  tail?: ReactNode;
  /** Drawn quietly: it needs nothing any more. */
  faded?: boolean;
}
export type FaceOf = (row: GridRow, column: GridColumn) => CellFace | undefined;

export const toCellId = (grid: string, row: number, column: number): string => `${grid}-${row}-${column}`;

/** The cell under a mouse event; cells carry no handlers of their own. */
export function findCell(target: EventTarget): { row: number; column: number } | undefined {
  const cell = target instanceof Element ? target.closest<HTMLElement>('[role=gridcell]') : null;
  return cell ? { row: Number(cell.dataset['row']), column: Number(cell.dataset['column']) } : undefined;
}

export interface GridLineProps {
  grid: string;
  index: number;
  top: number;
  width: number;
  row: GridRow | undefined;
  columns: readonly GridColumn[];
  shown: readonly number[];
  frozen: number;
  place: ColumnGeometry;
  /** The selection, where it reaches this row. */
  range: Range | undefined;
  /** Column of the active cell, or -1 where it is in another row. */
  focusColumn: number;
  faceOf: FaceOf | undefined;
  version: unknown;
}

const isSameSpan = (a: Range | undefined, b: Range | undefined): boolean =>
  (a === undefined) === (b === undefined) && a?.left === b?.left && a?.right === b?.right;
const isSameList = (a: readonly number[], b: readonly number[]): boolean =>
  a === b || (a.length === b.length && a.every((v, i) => v === b[i]));
const isSameLine = (a: GridLineProps, b: GridLineProps): boolean =>
  a.row === b.row &&
  a.version === b.version &&
  a.top === b.top &&
  a.width === b.width &&
  a.focusColumn === b.focusColumn &&
  isSameSpan(a.range, b.range) &&
  isSameList(a.shown, b.shown) &&
  a.place === b.place &&
  a.faceOf === b.faceOf &&
  a.columns === b.columns;

export const GridLine = memo(function GridLine(p: GridLineProps) {
  return (
    <div
      role="row"
      aria-rowindex={p.index + 2}
      style={{ position: 'absolute', top: p.top, height: rowHeight, width: p.width, insetInlineStart: 0 }}
    >
      <div
        role="rowheader"
        className="num sticky start-0 z-10 inline-flex h-full items-center justify-end border-e border-b border-base-300 bg-base-200 pe-2 align-top text-xs quiet"
        style={{ width: numberWidth }}
      >
        {p.index + 1}
      </div>
      {p.shown.map((c) => (
        <GridCell key={p.columns[c]!.key} line={p} column={p.columns[c]!} at={c} />
      ))}
    </div>
  );
}, isSameLine);

const base =
  'top-0 inline-flex h-full items-center gap-1.5 overflow-hidden border-e border-b border-base-300 px-2 align-top whitespace-nowrap select-none';

function GridCell({ line, column, at }: { line: GridLineProps; column: GridColumn; at: number }) {
  const { row, index, place } = line;
  const isFrozen = at < line.frozen;
  const face = row && line.faceOf?.(row, column);
  const isLate = row?.isUnsaved?.(column.key) === true;
  const isSelected = line.range !== undefined && isInRange(line.range, index, at);
  const looks = [
    base,
    isFrozen && 'z-[5] bg-base-100',
    column.kind === 'number' && 'justify-end',
    (column.mono || column.kind === 'number') && 'num',
    face?.unused && 'hatch',
    face?.lit && 'bg-error/10',
    face?.faded && 'quiet italic opacity-60',
    isLate && 'border-b-2 border-b-warning border-dashed italic',
    isSelected && 'picked',
    line.focusColumn === at && 'outline-2 -outline-offset-2 outline-primary',
  ];
  return (
    <div
      id={toCellId(line.grid, index, at)}
      role="gridcell"
      data-row={index}
      data-column={at}
      aria-colindex={at + 1}
      aria-selected={isSelected}
      aria-readonly={column.readOnly ? true : undefined}
      aria-invalid={face?.finding?.level === 'blocker' ? true : undefined}
      style={{
        insetInlineStart: place.leftOf(at),
        width: place.widthOf(at),
        position: isFrozen ? 'sticky' : 'absolute',
      }}
      className={looks.filter(Boolean).join(' ')}
    >
      {face?.lead}
      {column.shape === 'pictures' && <Pictures value={row?.valueOf(column.key)} />}
      <span
        className={`overflow-hidden text-ellipsis ${column.language ? 'flex-1 text-start' : ''}`}
        {...inLanguage(column.language)}
      >
        {row ? (
          toCellText(column, row.valueOf(column.key))
        ) : (
          <span className="inline-block h-2 w-16 rounded bg-base-300" />
        )}
      </span>
      {face?.tail}
      {isLate && <span className="sr-only">{say`not saved yet`}</span>}
      {face?.finding && (
        <span className={`fold ${toneOfLevel(face.finding.level)}`}>
          <span className="sr-only">
            {face.finding.level}: {face.finding.says}
          </span>
        </span>
      )}
    </div>
  );
}

/** Small pictures that fit before the text of a cell. */
const mostPictures = 4;
const Pictures = ({ value }: { value: Value | null | undefined }) =>
  Array.isArray(value)
    ? value
        .slice(0, mostPictures)
        .map((link, i) => <Thumb key={`${i}-${link}`} link={link} className="h-[24px] w-[24px]" bare />)
    : null;
