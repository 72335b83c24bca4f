import type { ImportRowShape } from '@basileus/contract';
import { useFieldsOfFile } from '../choose/wideFields';
import { toSpoken } from '@basileus/core/product';
import { Difference } from '../ui/Difference';
import { shown, say } from '../ui/text';
import { tell } from '../ui/tell';

const reasons = {
  changed: say`Changed by somebody else since the file was read.`,
  added: say`Added by somebody else since the file was read.`,
  removed: say`Removed since the file was read; there is nothing to write into.`,
};

/** Values that somebody else changed meanwhile, beside what the file says, and the decision between them. */
export function RowConflict({
  row,
  columns,
  decide,
  isBusy,
}: {
  row: ImportRowShape;
  /** Columns of the file as they are read. */
  columns: readonly { field: string | null }[];
  decide: (take: 'file' | 'ours', row: number) => void;
  isBusy: boolean;
}) {
  const { get, labelOf } = useFieldsOfFile(columns);
  if (!row.clash) return null;
  return (
    <div className="border-s-4 border-warning ps-3">
      <p className="text-warning">{reasons[row.clash]}</p>
      {row.clash !== 'removed' && (
        <dl className="grid grid-cols-[auto_1fr] gap-x-3">
          {row.conflicts.map((c) => (
            <div key={c.field} className="contents">
              <dt className="quiet">{labelOf(c.field)}</dt>
              <dd>
                <Difference before={toSpoken(get(c.field), c.theirs)} after={toSpoken(get(c.field), c.ours)} />
                {c.base !== null && (
                  <span className="quiet">{tell` (was “${shown(toSpoken(get(c.field), c.base))}”)`}</span>
                )}
              </dd>
            </div>
          ))}
        </dl>
      )}
      <div className="mt-1 flex gap-2">
        {row.clash !== 'removed' && (
          <button
            type="button"
            className="btn btn-xs"
            disabled={isBusy}
            onClick={() => {
              decide('file', row.row);
            }}
          >
            {say`Write the file’s`}
          </button>
        )}
        <button
          type="button"
          className="btn btn-xs"
          disabled={isBusy}
          onClick={() => {
            decide('ours', row.row);
          }}
        >
          {say`Keep what stands there`}
        </button>
      </div>
    </div>
  );
}
