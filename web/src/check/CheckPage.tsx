import { listCauses } from '@basileus/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { LevelMark } from '../ui/demand';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { count, plural } from '../ui/text';
import { SearchBox } from '../ui/SearchBox';
import { useUrlValue } from '../ui/url';
import { keyOf } from './cause';
import { CausePane } from './CausePane';

/** Findings grouped by cause; one cause, one table of just its rows and columns, one mend for all of them. */
export function CheckPage() {
  const { market, name } = useScope();
  const [chosen, setChosen] = useUrlValue('cause'),
    [search, setSearch] = useUrlValue('q'),
    [tips, setTips] = useUrlValue('tips');
  const { data, error, isLoading, refetch } = useQuery({
    queryKey: ['listings', 'causes', market, search],
    queryFn: () => call(listCauses, { params: { market }, query: { search } }),
  });
  if (isLoading) return <Loading what="Gathering the findings" />;
  if (error || !data) return <Refused error={error} again={() => void refetch()} />;
  const cause = data.rows.find((c) => keyOf(c) === chosen);
  const shownCauses = data.rows.filter((c) => tips || c.level !== 'tip' || keyOf(c) === chosen);
  return (
    <>
      <PageHead
        title={`Check for ${name}`}
        about={
          <span role="status">
            <span className="num">{count(data.blockers)}</span> blockers,{' '}
            <span className="num">{count(data.cautions)}</span> cautions,{' '}
            <span className="num">{count(data.tips)}</span> tips on <span className="num">{count(data.listings)}</span>{' '}
            listings; <span className="num">{count(data.ready)}</span> are ready to go
          </span>
        }
      >
        <SearchBox label="Find in findings" value={search} onChange={setSearch} />
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={tips !== ''}
            onChange={(e) => {
              setTips(e.target.checked ? 'yes' : '');
            }}
          />
          Tips too
        </label>
      </PageHead>
      <div className="grid min-h-0 flex-1 border-t border-base-300 lg:grid-cols-[21rem_1fr]">
        <nav aria-label="Causes" className="min-h-32 overflow-auto border-r border-base-300 bg-base-100">
          {shownCauses.length === 0 && (
            <Empty title={search ? 'No finding says that.' : 'Nothing to mend.'}>
              {search ? (
                'Try another word.'
              ) : (
                <Link className="underline" to={`/${market}/send`}>
                  See what is ready to send
                </Link>
              )}
            </Empty>
          )}
          {shownCauses.map((c) => (
            <button
              key={keyOf(c)}
              type="button"
              aria-current={keyOf(c) === chosen ? 'true' : undefined}
              onClick={() => {
                setChosen(keyOf(c));
              }}
              className={`flex w-full items-baseline gap-3 border-b border-base-300 border-l-[3px] px-3 py-2 text-left ${keyOf(c) === chosen ? 'border-l-primary bg-base-200' : 'border-l-transparent hover:bg-base-200'}`}
            >
              <span className="num w-9 shrink-0 text-right font-semibold">{count(c.count)}</span>
              <span className="min-w-0 flex-1">
                {c.title}
                {c.safe > 0 && (
                  <span className="block text-[12px] text-success">{plural(c.safe, 'has', 'have')} a ready remedy</span>
                )}
              </span>
              <LevelMark level={c.level} bare />
            </button>
          ))}
        </nav>
        {cause ? (
          <CausePane key={keyOf(cause)} cause={cause} market={market} />
        ) : (
          <Empty title={chosen ? 'This cause is settled.' : 'Choose a cause.'}>
            {chosen
              ? 'No listing has it any more. Go on with the next one.'
              : 'It opens as a table of just its rows, with a mend for all of them.'}
          </Empty>
        )}
      </div>
    </>
  );
}
