import { changeSource, fetchSource, removeSource, type SourceRun, type SourceShape } from '@basileus/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { call } from '../api/call';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { SearchBox } from '../ui/SearchBox';
import { plural, when, say } from '../ui/text';
import { useQuiet } from '../ui/useQuiet';
import { FormedRows } from './FormedRows';
import { sourceQuery, triedQuery } from './queries';
import { findRulesFault, RulesForm } from './RulesForm';
import { Connection, toDraft, When } from './SourceSettings';
import { LastRuns } from './LastRuns';
import { isBusy } from './words';

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
      toast.success(say`Kept.`);
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
      toast.success(say`${source.name} is connected no more; what came of it stays.`);
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
            ? say`Not looked at yet`
            : say`${plural(source.rows, 'row', 'rows')} fetched ${when(source.fetchedAt)}`
        }
      >
        <Link className="btn btn-sm btn-ghost" to="/all/gather/sources">
          {say`All systems`}
        </Link>
        <button
          type="button"
          className="btn btn-sm"
          disabled={busy || ask.isPending}
          onClick={() => {
            ask.mutate('look');
          }}
        >
          {hasColumns ? say`Fetch the rows again` : say`Fetch the rows`}
        </button>
        <button
          type="button"
          className="btn btn-sm"
          disabled={!isChanged || !isRight || keep.isPending}
          onClick={() => {
            keep.mutate();
          }}
        >
          {say`Keep the changes`}
        </button>
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={busy || isChanged || !hasColumns || ask.isPending}
          title={isChanged ? say`Keep the changes first` : say`Fetches the rows and shows what they would change`}
          onClick={() => {
            ask.mutate('bring');
          }}
        >
          {say`Bring in …`}
        </button>
      </PageHead>
      <div className="flex min-h-0 flex-1 border-t border-base-300">
        <div className="flex w-[20rem] shrink-0 flex-col gap-4 overflow-auto border-e border-base-300 p-4 lg:w-[24rem]">
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
          <Connection
            draft={draft}
            hasKey={source.hasKey}
            newKey={key}
            onChange={setDraft}
            onKey={setKey}
            onRemove={() => {
              remove.mutate();
            }}
          />
        </div>
        <div className="flex min-w-0 flex-1 flex-col gap-3 overflow-auto p-4">
          {last && <LastRuns runs={runs} />}
          {!hasColumns ? (
            <Empty title={say`Its rows are not here yet.`}>
              {say`Fetch them: what they become is said then, and shown on them before anything comes in.`}
            </Empty>
          ) : !isRight ? (
            <p className="text-error">{say`The rules on the left cannot be worked out yet.`}</p>
          ) : tried.error ? (
            <Refused error={tried.error} />
          ) : tried.data?.ok ? (
            <>
              <div className="shrink-0">
                <SearchBox
                  label={say`Find a row`}
                  placeholder={say`Find a row`}
                  width="w-60"
                  value={sought}
                  onChange={setSought}
                />
              </div>
              <FormedRows tried={tried.data} rules={quiet} isOld={quiet !== draft.rules || tried.isPlaceholderData} />
            </>
          ) : (
            <Loading what={say`Forming the rows`} />
          )}
        </div>
      </div>
    </>
  );
}
