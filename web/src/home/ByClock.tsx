import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { clockWorkQuery } from '../frame/queries';
import { say, when } from '../ui/text';
import { wordClockWork } from './clock-work';

/** What was done by the clock in the last day, while nobody looked; nothing where nothing was. */
export function ByClock() {
  const rows = useQuery(clockWorkQuery).data?.rows ?? [];
  if (rows.length === 0) return null;
  return (
    <section className="panel mt-3 p-4" aria-label={say`Done by the clock`}>
      <h2 className="mb-1 text-lg">{say`Done by the clock in the last day`}</h2>
      <ul className="divide-y divide-base-300">
        {rows.map((work) => {
          const line = wordClockWork(work);
          return (
            <li key={line.key} className="flex items-baseline gap-4 py-1.5">
              <span className="num quiet w-28 shrink-0">{when(work.at)}</span>
              <span className="min-w-0">
                <Link className="font-semibold underline-offset-2 hover:underline" to={line.link}>
                  {line.title}
                </Link>{' '}
                <span className={line.isBad ? 'text-error' : 'quiet'}>{line.detail}</span>
              </span>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
