import type { ImportShape } from '@basileus/contract';
import { Loading } from '../ui/faces';
import { count, plural, say, wordFor } from '../ui/text';
import { FileFacts } from './FileFacts';
import { tell } from '../ui/tell';

/** How many rows would be or were created, changed, left and refused, and how far the writing is. */
export function ImportTotals({ data }: { data: ImportShape }) {
  const { counts } = data;
  const cells: [string, number, string][] = [
    [say`rows read`, counts.rows, ''],
    ['new', counts.create, 'text-success'],
    ['changed', counts.update, 'text-secondary'],
    [say`the same`, counts.same, ''],
    ['refused', counts.refuse, counts.refuse ? 'text-error' : ''],
    [say`mended or unsure`, counts.damaged, counts.damaged ? 'text-warning' : ''],
  ];
  return (
    <section className="panel flex flex-wrap gap-x-7 gap-y-2 px-4 py-3" aria-label={say`Counts`}>
      {data.state === 'planning' ? (
        <Loading what={say`Comparing with the catalog`} />
      ) : (
        cells.map(([name, n, tone]) => (
          <div key={name}>
            <div className={`num text-xl ${tone}`}>{count(n)}</div>
            <div className="quiet text-xs">{name}</div>
          </div>
        ))
      )}
      {(data.state === 'applying' || data.state === 'applied') && (
        <div className="basis-full">
          {counts.conflicts > 0 && (
            <p role="alert" className="text-warning">
              {tell`${plural(counts.conflicts, 'row was', 'rows were')} changed by somebody else meanwhile and ${wordFor(counts.conflicts, 'waits', 'wait')} for your decision, under “To decide”.`}
            </p>
          )}
          <progress
            className="progress progress-primary w-full"
            value={counts.applied}
            max={counts.create + counts.update || 1}
            aria-label={say`Written`}
          />
          <span className="quiet">
            {tell`${count(counts.applied - counts.conflicts)} of ${count(counts.create + counts.update)} written`}
          </span>
        </div>
      )}
      <FileFacts data={data} />
    </section>
  );
}
