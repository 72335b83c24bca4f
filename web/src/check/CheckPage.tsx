import { useQuery } from '@tanstack/react-query';
import { useMemo, useRef } from 'react';
import { Link } from 'react-router';
import { RowFilters } from '../frame/RowFilters';
import { rulebookQuery, useScope } from '../frame/scope';
import { listLeafPaths } from '../prepare/tree';
import { Choice } from '../ui/Choice';
import { LevelMark } from '../ui/demand';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { SearchBox } from '../ui/SearchBox';
import { count, plural, say } from '../ui/text';
import { useUrlValue } from '../ui/url';
import { useWording } from '../words/findings';
import { isFoundBy, keyOf, toWorded, type WordedCause } from './cause';
import { CausePane } from './CausePane';
import { causesQuery } from './queries';
import { tell } from '../ui/tell';

/** Findings grouped by cause; one cause, one table of just its rows and columns, one mend for all of them. */
export function CheckPage() {
  const { market, name } = useScope();
  const [chosen, setChosen] = useUrlValue('cause'),
    [search, setSearch] = useUrlValue('q'),
    [tips, setTips] = useUrlValue('tips'),
    [brand, setBrand] = useUrlValue('brand'),
    [own, setOwn] = useUrlValue('own'),
    [category, setCategory] = useUrlValue('category'),
    [from, setFrom] = useUrlValue('import');
  const filter = useMemo(
    () => ({ search, brand, ownCategory: own, category, import: Number(from) || 0 }),
    [search, brand, own, category, from],
  );
  const wording = useWording(market);
  const rulebook = useQuery(rulebookQuery(market)).data;
  const leaves = useMemo(() => (rulebook ? listLeafPaths(rulebook) : []), [rulebook]);
  const { data, error, isLoading, refetch } = useQuery(causesQuery(market, filter));
  const causes = useMemo(() => data?.rows.map((c) => toWorded(c, wording)), [data, wording]);
  const lastShown = useRef<{ market: string; cause: WordedCause }>(undefined);
  if (error) return <Refused error={error} again={() => void refetch()} />;
  if (isLoading || !data || !causes) return <Loading what={say`Gathering the findings`} />;
  const found = causes.find((c) => keyOf(c) === chosen);
  // The last row of a cause is mended: its table stays until another one is chosen.
  if (found) lastShown.current = { market, cause: found };
  const last = lastShown.current;
  const cause =
    found ?? (last?.market === market && keyOf(last.cause) === chosen ? { ...last.cause, count: 0 } : undefined);
  const shownCauses = causes.filter((c) => isFoundBy(c, search) && (tips || c.level !== 'tip' || keyOf(c) === chosen));
  const setters = { brand: setBrand, own: setOwn, import: setFrom };
  return (
    <>
      <PageHead
        title={say`Check for ${name}`}
        about={
          <span role="status">
            <span className="num">{count(data.blockers)}</span>
            {tell` blockers, ${(<span className="num">{count(data.cautions)}</span>)} cautions, ${(<span className="num">{count(data.tips)}</span>)} tips on ${(<span className="num">{count(data.listings)}</span>)} listings; ${(<span className="num">{count(data.ready)}</span>)} are ready to go`}
          </span>
        }
      >
        <SearchBox label={say`Find in findings`} value={search} onChange={setSearch} width="w-40" />
        <RowFilters
          choice={{ brand, own, import: filter.import }}
          width="w-36"
          set={(field, value) => {
            setters[field](value);
          }}
        />
        <Choice
          width="w-36"
          label={say`Market category`}
          all={say`Every category`}
          value={category}
          options={leaves.map((l) => [l.key, l.label])}
          onChoose={setCategory}
        />
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={tips !== ''}
            onChange={(e) => {
              setTips(e.target.checked ? 'yes' : '');
            }}
          />
          {say`Tips too`}
        </label>
      </PageHead>
      <div className="grid min-h-0 flex-1 grid-rows-[minmax(8rem,30%)_1fr] border-t border-base-300 lg:grid-cols-[21rem_1fr] lg:grid-rows-1">
        <nav aria-label={say`Causes`} className="min-h-0 overflow-auto border-e border-base-300 bg-base-100">
          {shownCauses.length === 0 && (
            <Empty title={search ? say`No finding says that.` : say`Nothing to mend.`}>
              {search ? (
                say`Try another word.`
              ) : (
                <Link className="underline" to={`/${market}/send`}>
                  {say`See what is ready to send`}
                </Link>
              )}
            </Empty>
          )}
          {shownCauses.map((c) => (
            <CauseButton
              key={keyOf(c)}
              cause={c}
              isChosen={keyOf(c) === chosen}
              onChoose={() => {
                setChosen(keyOf(c));
              }}
            />
          ))}
        </nav>
        {cause ? (
          <CausePane key={keyOf(cause)} cause={cause} market={market} filter={filter} />
        ) : (
          <Empty title={chosen ? say`No listing has this finding.` : say`Choose a cause.`}>
            {chosen
              ? say`It is settled, or stands on items that are not shown here. Go on with the next one.`
              : say`It opens as a table of just its rows, with a mend for all of them.`}
          </Empty>
        )}
      </div>
    </>
  );
}

function CauseButton({ cause, isChosen, onChoose }: { cause: WordedCause; isChosen: boolean; onChoose: () => void }) {
  return (
    <button
      type="button"
      aria-current={isChosen ? 'true' : undefined}
      onClick={onChoose}
      className={`flex w-full items-baseline gap-3 border-b border-base-300 border-s-[3px] px-3 py-2 text-start ${isChosen ? 'border-s-primary bg-base-200' : 'border-s-transparent hover:bg-base-200'}`}
    >
      <span className="num w-9 shrink-0 text-end font-semibold">{count(cause.count)}</span>
      <span className="min-w-0 flex-1">
        {cause.title}
        {cause.safe > 0 && (
          <span className="block text-xs text-success">{tell`${plural(cause.safe, 'has', 'have')} a ready remedy`}</span>
        )}
      </span>
      <LevelMark level={cause.level} bare />
    </button>
  );
}
