import type { SourceRun } from '@basileus/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { plural, when, say } from '../ui/text';
import { wordRun } from './words';

/** The last times that it was asked, with the import of each. */
export function LastRuns({ runs }: { runs: readonly SourceRun[] }) {
  const [isAll, setAll] = useState(false);
  return (
    <section aria-label={say`The last times`} className="panel px-3 py-2">
      <ul className="flex flex-col gap-1">
        {runs.slice(0, isAll ? runs.length : 1).map((r) => (
          <li key={r.id} className="flex flex-wrap gap-x-3">
            <span className="quiet whitespace-nowrap">
              {when(r.at)} {r.how === 'clock' ? say`by the clock` : say`by ${r.actor}`}
            </span>
            <span className={r.state === 'failed' ? 'text-error' : r.state === 'held' ? 'text-warning' : ''}>
              {wordRun(r)}
            </span>
            {r.import !== null && (
              <Link className="underline underline-offset-2" to={`/all/gather/imports/${r.import}`}>
                {r.state === 'planned' || r.state === 'held' ? say`Look and decide` : say`See the import`}
              </Link>
            )}
          </li>
        ))}
      </ul>
      {runs.length > 1 && (
        <button
          type="button"
          className="text-xs underline decoration-base-300 underline-offset-2"
          onClick={() => {
            setAll(!isAll);
          }}
        >
          {isAll ? say`Only the last` : plural(runs.length - 1, 'time before', 'times before')}
        </button>
      )}
    </section>
  );
}
