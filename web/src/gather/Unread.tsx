import type { ImportReadingShape, ImportShape } from '@basileus/contract';
import { nameLine } from '@basileus/core/sheet';
import { plural, say } from '../ui/text';
import { tell } from '../ui/tell';

/** Cells that cannot be read wherever they stand: one answer is taken for all that say the same. */
export function Unread({
  data,
  set,
  isBusy,
}: {
  data: ImportShape;
  set: (part: Partial<ImportReadingShape>) => void;
  isBusy: boolean;
}) {
  const { unread, reading, starts } = data;
  if (unread.length === 0) return null;
  const readAs = (field: string, from: string, to: string) => {
    const others = reading.replacements.filter((r) => r.field !== field || r.from !== from);
    set({ replacements: [...others, { field, from, to }] });
  };
  return (
    <section className="panel px-4 py-3" aria-label={say`Cells that cannot be read`}>
      <h2 className="mb-1 text-lg">{say`Cells that cannot be read`}</h2>
      <ul className="flex max-h-56 flex-col gap-2 overflow-auto">
        {unread.map(({ field, value, says, rows, first }) => (
          <li key={`${field}/${value}/${says}`}>
            <p>
              <span className="text-error">{says}</span>{' '}
              {tell`So in ${plural(rows, 'row', 'rows')}, first in row ${(<span className="num">{nameLine(first, starts)}</span>)}.`}
            </p>
            <form
              className="mt-0.5 flex flex-wrap items-center gap-2"
              onSubmit={(e) => {
                e.preventDefault();
                const to = new FormData(e.currentTarget).get('to');
                if (typeof to === 'string' && to.trim() !== '') readAs(field, value, to.trim());
              }}
            >
              <input
                name="to"
                className="input input-xs num w-44"
                placeholder={say`read it as …`}
                aria-label={say`What “${value}” is read as in all of these rows`}
                disabled={isBusy}
              />
              <button type="submit" className="btn btn-xs" disabled={isBusy}>
                {say`In all of them`}
              </button>
              <button
                type="button"
                className="btn btn-xs"
                disabled={isBusy}
                onClick={() => {
                  readAs(field, value, '');
                }}
              >
                {say`Take it for blank`}
              </button>
            </form>
          </li>
        ))}
      </ul>
    </section>
  );
}
