import type { ImportReadingShape, ImportShape } from '@basileus/contract';
import { nameLine } from '@basileus/core/sheet';
import { useFieldsOfFile } from '../choose/wideFields';
import { count, plural, say } from '../ui/text';
import { tell } from '../ui/tell';

const wordNear = ({ near, by }: ImportShape['novelties'][number]): string => {
  if (near === null) return '';
  return by === null ? say`; “${near}” is there` : say`; on ${by} that is your “${near}”`;
};

/** Names that no item has yet, and SKUs that are nearly others: what is new is said, and what is mistyped is put right for the whole file at once. */
export function Novelties({
  data,
  set,
  isBusy,
}: {
  data: ImportShape;
  set: ((part: Partial<ImportReadingShape>) => void) | undefined;
  isBusy: boolean;
}) {
  const { novelties, reading, counts } = data;
  const { replacements, asTwins } = reading;
  const { labelOf } = useFieldsOfFile(reading.columns);
  if (novelties.length === 0 && replacements.length === 0 && counts.mistyped === 0) return null;
  const understood = novelties.filter((n) => n.by !== null);
  const readAs = (names: typeof novelties) => {
    const more = names.map((n) => ({ field: n.field, from: n.value, to: n.near! }));
    set?.({ replacements: [...replacements, ...more] });
  };
  return (
    <section className="panel px-4 py-3" aria-label={say`New names and SKUs`}>
      <div className="mb-1 flex flex-wrap items-baseline justify-between gap-2">
        <h2 className="text-lg">{say`New names and SKUs`}</h2>
        {set && understood.length > 1 && (
          <button
            type="button"
            className="btn btn-xs"
            disabled={isBusy}
            onClick={() => {
              readAs(understood);
            }}
          >
            {say`Write ours for all ${count(understood.length)} that markets know`}
          </button>
        )}
      </div>
      <ul className="flex max-h-56 flex-col gap-1 overflow-auto">
        {counts.mistyped > 0 && (
          <li className="flex flex-wrap items-center gap-x-3">
            <span>
              {asTwins
                ? say`${plural(counts.mistyped, 'SKU is read as one of the catalog that differs', 'SKUs are read as ones of the catalog that differ')} only in capitals or marks.`
                : say`${plural(counts.mistyped, 'SKU differs from one of the catalog', 'SKUs differ from ones of the catalog')} only in capitals or marks.`}
            </span>
            {set && (
              <button
                type="button"
                className="btn btn-xs"
                disabled={isBusy}
                onClick={() => {
                  set({ asTwins: !asTwins });
                }}
              >
                {asTwins ? say`Read them as written` : say`Read them as those of the catalog`}
              </button>
            )}
          </li>
        )}
        {replacements.map((r) => (
          <li key={`${r.field}/${r.from}`} className="flex flex-wrap items-center gap-x-3">
            <span>
              {r.to === ''
                ? tell`${labelOf(r.field)} “${r.from}” is taken for blank.`
                : tell`${labelOf(r.field)} “${r.from}” is read as “${r.to}”.`}
            </span>
            {set && (
              <button
                type="button"
                className="btn btn-xs"
                disabled={isBusy}
                onClick={() => {
                  set({ replacements: replacements.filter((x) => x !== r) });
                }}
              >
                {say`Read it as it is`}
              </button>
            )}
          </li>
        ))}
        {novelties.map((n) => (
          <li key={`${n.field}/${n.value}`} className="flex flex-wrap items-center gap-x-3">
            <span>
              {tell`${labelOf(n.field)} “${n.value}” is new, in ${plural(n.rows, 'row', 'rows')}, first in row ${(<span className="num">{nameLine(n.first, data.starts)}</span>)}${wordNear(n)}.`}
            </span>
            {set && n.near !== null && (
              <button
                type="button"
                className="btn btn-xs"
                disabled={isBusy}
                onClick={() => {
                  readAs([n]);
                }}
              >
                {tell`Write “${n.near}” instead`}
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
