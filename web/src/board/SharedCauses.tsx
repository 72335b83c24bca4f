import { listSharedCauses } from '@basileus/contract';
import { queryOptions, useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { LevelMark } from '../ui/demand';
import { Loading, Refused } from '../ui/faces';
import { count, say } from '../ui/text';
import { useFields } from '../own/fields';
import { wordAtSource } from '../words/findings';
import { tell } from '../ui/tell';

const sharedQuery = queryOptions({ queryKey: ['listings', 'shared-causes'], queryFn: () => call(listSharedCauses) });
const mostShown = 8;

/** What one mend on the item settles on several markets, each line leading to the items in the catalog. */
export function SharedCauses() {
  const { markets } = useScope();
  const { data, error } = useQuery(sharedQuery);
  const { labelOf } = useFields();
  const nameOf = (key: string): string => markets.find((m) => m.key === key)?.name ?? key;
  if (error) return <Refused error={error} />;
  if (data?.rows.length === 0) return null;
  return (
    <section aria-label={say`Mended once, on the item`} className="panel xl:col-span-2">
      <header className="flex items-baseline gap-3 border-b border-base-300 px-4 py-2">
        <h2 className="text-lg">{say`Mended once, on the item`}</h2>
        <span className="quiet text-sm">
          {say`Several markets take the same field of ours; filling it there settles all of them.`}
        </span>
      </header>
      {data ? (
        <ul>
          {data.rows.slice(0, mostShown).map((c) => (
            <li key={`${c.check} ${c.message} ${c.source}`} className="border-b border-base-300 last:border-b-0">
              <Link
                className="flex items-baseline gap-3 px-4 py-1.5 hover:bg-base-200"
                to={`/all/gather?finding=${encodeURIComponent(`${c.check}.${c.message}.${c.source}`)}`}
              >
                <span className="num w-16 text-end font-semibold">{count(c.count)}</span>
                <span>
                  <LevelMark level={c.level} bare /> {wordAtSource(c.check, c.message, c.source, labelOf)}
                </span>
                <span className="quiet ms-auto text-sm">
                  {tell`settles ${c.markets.map((m) => say`${count(m.count)} on ${nameOf(m.market)}`).join(', ')}`}
                </span>
              </Link>
            </li>
          ))}
        </ul>
      ) : (
        <Loading />
      )}
    </section>
  );
}
