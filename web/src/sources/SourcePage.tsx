import { changeSource, fetchSource, removeSource, type SourceRun, type SourceShape } from '@basileus/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { call } from '../api/call';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { ScheduleField } from '../ui/ScheduleField';
import { SearchBox } from '../ui/SearchBox';
import { plural, when } from '../ui/text';
import { useQuiet } from '../ui/useQuiet';
import { FormedRows } from './FormedRows';
import { sourceQuery, triedQuery } from './queries';
import { findRulesFault, RulesForm } from './RulesForm';
import { isBusy, wordRun } from './words';

const toDraft = ({ name, way, address, decimalSign, sinceParam, rules, mode, schedule, holdPercent }: SourceShape) => ({
  name,
  way,
  address,
  decimalSign,
  sinceParam,
  rules,
  mode,
  schedule,
  holdPercent,
});

/** One business system: what its rows become, shown on them, and when they are brought in. */
export function SourcePage({ id }: { id: number }) {
  const known = useQuery(sourceQuery(id));
  if (known.isLoading) return <Loading />;
  if (known.error || !known.data) return <Refused error={known.error} />;
  // What is kept anew elsewhere, or guessed at the first fetch, is shown anew.
  const { source, runs } = known.data;
  return <System key={JSON.stringify([source.rules, source.columns.length > 0])} source={source} runs={runs} />;
}

function System({ source, runs }: { source: SourceShape; runs: readonly SourceRun[] }) {
  const client = useQueryClient(),
    navigate = useNavigate();
  const [draft, setDraft] = useState(() => toDraft(source)),
    [key, setKey] = useState(''),
    [sought, setSought] = useState('');
  const refresh = () => client.invalidateQueries({ queryKey: ['sources'] });
  const isChanged = key !== '' || JSON.stringify(draft) !== JSON.stringify(toDraft(source));
  const hasColumns = source.columns.length > 0;
  const isRight = !hasColumns || findRulesFault(draft.rules, source.columns) === undefined;
  const quiet = useQuiet(draft.rules, 350),
    words = useQuiet(sought, 250);
  const tried = useQuery(triedQuery(source.id, quiet, words, source.fetchedAt, hasColumns && isRight));
  const last = runs[0];
  const busy = last !== undefined && isBusy(last);
  const keep = useMutation({
    mutationFn: () =>
      call(changeSource, { params: { id: source.id }, body: { ...draft, ...(key === '' ? {} : { key }) } }),
    onSuccess: () => {
      setKey('');
      toast.success('Kept.');
      return refresh();
    },
  });
  const ask = useMutation({
    mutationFn: (then: 'look' | 'bring') => call(fetchSource, { params: { id: source.id }, body: { then } }),
    onSuccess: refresh,
    onError: (e) => toast.error(e.message),
  });
  const remove = useMutation({
    mutationFn: () => call(removeSource, { params: { id: source.id } }),
    onSuccess: async () => {
      toast.success(`${source.name} is connected no more; what came of it stays.`);
      await refresh();
      await navigate('/all/gather/sources');
    },
  });
  return (
    <>
      <PageHead
        title={source.name}
        about={
          source.fetchedAt === null
            ? 'Not looked at yet'
            : `${plural(source.rows, 'row', 'rows')} fetched ${when(source.fetchedAt)}`
        }
      >
        <Link className="btn btn-sm btn-ghost" to="/all/gather/sources">
          All systems
        </Link>
        <button
          type="button"
          className="btn btn-sm"
          disabled={busy || ask.isPending}
          onClick={() => {
            ask.mutate('look');
          }}
        >
          {hasColumns ? 'Fetch the rows again' : 'Fetch the rows'}
        </button>
        <button
          type="button"
          className="btn btn-sm"
          disabled={!isChanged || !isRight || keep.isPending}
          onClick={() => {
            keep.mutate();
          }}
        >
          Keep the changes
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={busy || isChanged || !hasColumns || ask.isPending}
          title={isChanged ? 'Keep the changes first' : 'Fetches the rows and shows what they would change'}
          onClick={() => {
            ask.mutate('bring');
          }}
        >
          Bring in …
        </button>
      </PageHead>
      <div className="flex min-h-0 flex-1 border-t border-base-300">
        <div className="flex w-[20rem] shrink-0 flex-col gap-4 overflow-auto border-r border-base-300 p-4 lg:w-[24rem]">
          {keep.error && <Refused error={keep.error} />}
          {hasColumns && (
            <RulesForm
              rules={draft.rules}
              columns={source.columns}
              onChange={(rules) => {
                setDraft({ ...draft, rules });
              }}
            />
          )}
          <When draft={draft} source={source} onChange={setDraft} />
          <section className="flex flex-col gap-2">
            <h2 className="text-lg">Connection</h2>
            <Line
              label="Name"
              value={draft.name}
              onChange={(name) => {
                setDraft({ ...draft, name });
              }}
            />
            <Line
              label="Address"
              value={draft.address}
              onChange={(address) => {
                setDraft({ ...draft, address });
              }}
            />
            {draft.way === 'pages' && (
              <Line
                label="Parameter that asks for what has changed since"
                value={draft.sinceParam}
                placeholder="none: all rows each time"
                onChange={(sinceParam) => {
                  setDraft({ ...draft, sinceParam });
                }}
              />
            )}
            <label className="block">
              <span className="quiet text-xs">
                {source.hasKey ? 'Another key; the one that is kept is not shown' : 'Key'}
              </span>
              <input
                className="input input-sm num w-full"
                type="password"
                autoComplete="off"
                value={key}
                onChange={(e) => {
                  setKey(e.target.value);
                }}
              />
            </label>
            <button
              type="button"
              className="btn btn-sm btn-ghost self-start text-error"
              disabled={remove.isPending}
              onClick={() => {
                remove.mutate();
              }}
            >
              Connect it no more
            </button>
          </section>
        </div>
        <div className="flex min-w-0 flex-1 flex-col gap-3 overflow-auto p-4">
          {last && <LastRuns runs={runs} />}
          {!hasColumns ? (
            <Empty title="Its rows are not here yet.">
              Fetch them: what they become is said then, and shown on them before anything comes in.
            </Empty>
          ) : !isRight ? (
            <p className="text-error">The rules on the left cannot be worked out yet.</p>
          ) : tried.error ? (
            <Refused error={tried.error} />
          ) : tried.data?.ok ? (
            <>
              <div className="shrink-0">
                <SearchBox
                  label="Find a row"
                  placeholder="Find a row"
                  width="w-60"
                  value={sought}
                  onChange={setSought}
                />
              </div>
              <FormedRows tried={tried.data} rules={quiet} isOld={quiet !== draft.rules || tried.isPlaceholderData} />
            </>
          ) : (
            <Loading what="Forming the rows" />
          )}
        </div>
      </div>
    </>
  );
}

type Draft = ReturnType<typeof toDraft>;

/** When it is asked, what of it is taken, and when somebody has to look first. */
function When({ draft, source, onChange }: { draft: Draft; source: SourceShape; onChange: (d: Draft) => void }) {
  return (
    <section className="flex flex-col gap-2">
      <h2 className="text-lg">When</h2>
      <ScheduleField
        schedule={draft.schedule}
        what="brought in"
        onChange={(schedule) => {
          onChange({ ...draft, schedule });
        }}
      />
      {source.nextAt && <p className="quiet text-xs">next {when(source.nextAt)}</p>}
      {draft.schedule && (
        <label className="flex flex-wrap items-center gap-2">
          Waits for a look where more than
          <input
            className="input input-sm num w-16"
            type="number"
            min={0}
            max={100}
            value={draft.holdPercent}
            onChange={(e) => {
              onChange({ ...draft, holdPercent: Math.min(100, Math.max(0, Number(e.target.value) || 0)) });
            }}
          />
          % of the rows change something
        </label>
      )}
      <select
        className="select select-sm"
        aria-label="What is taken"
        value={draft.mode}
        onChange={(e) => {
          onChange({ ...draft, mode: e.target.value as Draft['mode'] });
        }}
      >
        <option value="both">new items, and changes of those we have</option>
        <option value="update">only changes of items we have</option>
        <option value="create">only new items</option>
      </select>
    </section>
  );
}

const Line = ({
  label,
  value,
  placeholder,
  onChange,
}: {
  label: string;
  value: string;
  placeholder?: string;
  onChange: (value: string) => void;
}) => (
  <label className="block">
    <span className="quiet text-xs">{label}</span>
    <input
      className="input input-sm w-full"
      value={value}
      placeholder={placeholder}
      onChange={(e) => {
        onChange(e.target.value);
      }}
    />
  </label>
);

/** The last times that it was asked, with the import of each. */
function LastRuns({ runs }: { runs: readonly SourceRun[] }) {
  const [isAll, setAll] = useState(false);
  return (
    <section aria-label="The last times" className="panel px-3 py-2">
      <ul className="flex flex-col gap-1">
        {runs.slice(0, isAll ? runs.length : 1).map((r) => (
          <li key={r.id} className="flex flex-wrap gap-x-3">
            <span className="quiet whitespace-nowrap">
              {when(r.at)} {r.how === 'clock' ? 'by the clock' : `by ${r.actor}`}
            </span>
            <span className={r.state === 'failed' ? 'text-error' : r.state === 'held' ? 'text-warning' : ''}>
              {wordRun(r)}
            </span>
            {r.import !== null && (
              <Link className="underline underline-offset-2" to={`/all/gather/imports/${r.import}`}>
                {r.state === 'planned' || r.state === 'held' ? 'Look and decide' : 'See the import'}
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
          {isAll ? 'Only the last' : plural(runs.length - 1, 'time before', 'times before')}
        </button>
      )}
    </section>
  );
}
