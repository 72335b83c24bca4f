import { toneOfLevel } from '../ui/demand';
import type { ReactNode } from 'react';
import type { GridColumn } from './columns';
import type { CellFace } from './GridLine';
import { say } from '../ui/text';

/** The line under the table: what there is to say of the cell that is active or pointed at, and of the selection. */
export function NoteBar({
  face,
  column,
  children,
}: {
  face: CellFace | undefined;
  column: GridColumn | undefined;
  children: ReactNode;
}) {
  return (
    <div
      className="flex min-h-7 items-center gap-3 border-t border-base-300 bg-base-200 px-3 py-1 text-sm"
      aria-live="polite"
    >
      {face?.finding ? (
        <span className={toneOfLevel(face.finding.level)}>{face.finding.says}</span>
      ) : (
        <span className="quiet">
          {face?.unused
            ? say`${column?.title ?? ''} is not used in this row’s category.`
            : (face?.origin ?? column?.help ?? '')}
        </span>
      )}
      <span className="num ms-auto shrink-0 quiet">{children}</span>
    </div>
  );
}
