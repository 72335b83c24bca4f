import { assignCategory, lookForLeaves, surenesses, takePlacing, type Sureness } from '@basileus/contract';
import type { Rulebook } from '@basileus/core/rulebook';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Fragment, useState } from 'react';
import { call } from '../api/call';
import { jobsQuery } from '../frame/queries';
import { useScope } from '../frame/scope';
import { Empty, Loading, Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { tell } from '../ui/tell';
import { count, plural, say } from '../ui/text';
import { oneOf, useUrlValue } from '../ui/url';
import { surenessWords, wordLeafReason } from './leaf-reason';
import { PlacedItems } from './PlacedItems';
import { countAtLeast, listTakable, turn } from './placing';
import { placingQuery } from './queries';

const leastWords: Record<Sureness, string> = {
  sure: say`Only what is sure`,
  likely: say`What is likely too`,
  unsure: say`Guesses too`,
};

/** Items that have no category, each by itself: what they are thought to be and why, taken by category or one by one. */
export function ItemPlacing({ rulebook, own }: { rulebook: Rulebook; own: string | undefined }) {
  const { market, name } = useScope();
  const client = useQueryClient();
  const [said, setLeast] = useUrlValue('least', 'sure');
  const least = oneOf(surenesses, said);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [except, setExcept] = useState<ReadonlySet<number>>(new Set());
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  const { data, error, isLoading } = useQuery(placingQuery(market, own));
  const job = useQuery(jobsQuery).data?.rows.find((j) => j.id === data?.job);
  const refresh = () => {
    void client.invalidateQueries({ queryKey: ['listings'] });
    void client.invalidateQueries({ queryKey: ['overview'] });
  };
  const look = useMutation({
    mutationFn: () => call(lookForLeaves, { params: { market }, body: {} }),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ['jobs'] });
      refresh();
    },
    onError: (e) => toast.error(e.message),
  });
  const take = useMutation({
    mutationFn: (leaves: readonly string[]) =>
      call(takePlacing, {
        params: { market },
        body: { ...(own === undefined ? {} : { own }), leaves: [...leaves], least, except: [...except] },
      }),
    onSuccess: (r) => {
      const into = plural(r.leaves, 'category', 'categories');
      toast.success(
        r.job === null
          ? say`${plural(r.items, 'item', 'items')} put into ${into}; the change history takes it back as one.`
          : say`${plural(r.items, 'item is', 'items are')} being put into ${into}; that goes on when you close the window.`,
      );
      void client.invalidateQueries({ queryKey: ['jobs'] });
      setExcept(new Set());
      refresh();
    },
    onError: (e) => toast.error(e.message),
  });
  const assign = useMutation({
    mutationFn: (v: { listing: number; category: string }) =>
      call(assignCategory, {
        params: { market },
        body: { category: v.category, ids: [v.listing], onlyEmpty: true },
      }),
    onSuccess: (r) => {
      toast.success(say`${plural(r.changed, 'listing', 'listings')} put into the category, families whole.`);
      refresh();
    },
    onError: (e) => toast.error(e.message),
  });
  if (isLoading) return <Loading />;
  if (error || !data) return <Refused error={error} />;
  const isLooking = data.job !== null || look.isPending;
  const takable = listTakable(data.leaves, least),
    chosen = takable.filter((l) => !left.has(l.key));
  const items = chosen.reduce((n, l) => n + countAtLeast(l, least), 0);
  const lookButton = (label: string, isMain: boolean) => (
    <button
      type="button"
      className={`btn btn-sm ${isMain ? 'btn-primary' : ''}`}
      disabled={isLooking}
      onClick={() => {
        look.mutate();
      }}
    >
      {label}
    </button>
  );
  const waits = data.unseen + data.leaves.reduce((n, l) => n + countAtLeast(l, 'unsure'), 0);
  if (waits === 0)
    return <Empty title={say`Every item has a category.`}>{say`What comes later waits here again.`}</Empty>;
  if (data.leaves.length === 0)
    return (
      <Empty title={say`${plural(waits, 'item waits', 'items wait')} for a category.`}>
        <p>{say`What each is called, what you placed before and where it stands on other markets tell what it is. You decide.`}</p>
        <div className="mt-4">{isLooking ? <Looking job={job} /> : lookButton(say`Look at each item`, true)}</div>
      </Empty>
    );
  return (
    <div className="min-h-0 flex-1 overflow-auto p-5">
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <button
          type="button"
          className="btn btn-sm btn-primary"
          disabled={chosen.length === 0 || take.isPending || isLooking}
          onClick={() => {
            take.mutate(chosen.map((l) => l.key));
          }}
        >
          {except.size > 0
            ? tell`Put what is ticked into ${plural(chosen.length, 'category', 'categories')}`
            : tell`Put ${plural(items, 'item', 'items')} into ${plural(chosen.length, 'category', 'categories')}`}
        </button>
        <span className="join" role="group" aria-label={say`How sure`}>
          {surenesses.map((s) => (
            <button
              key={s}
              type="button"
              aria-pressed={s === least}
              className={`btn btn-sm join-item ${s === least ? 'btn-primary' : ''}`}
              onClick={() => {
                setLeast(s);
              }}
            >
              {leastWords[s]}
            </button>
          ))}
        </span>
        <span className="ms-auto flex items-center gap-3">
          {isLooking ? <Looking job={job} /> : lookButton(say`Look again`, data.unseen > 0)}
        </span>
      </div>
      <p className="mb-3 text-sm quiet">
        {data.tried > 0 &&
          tell`Of ${count(data.tried)} that you placed, ${count(data.same)} would have been placed the same. `}
        {data.unseen > 0 && tell`${plural(data.unseen, 'item has', 'items have')} come since. `}
      </p>
      <table className="plain-table panel">
        <thead>
          <tr>
            <th className="w-8" />
            <th>{tell`Category on ${name}`}</th>
            {surenesses.map((s) => (
              <th key={s} className="text-end">
                {surenessWords[s]}
              </th>
            ))}
            <th>{say`Why, and which`}</th>
          </tr>
        </thead>
        <tbody>
          {data.leaves.map((l) => {
            const isTakable = takable.includes(l),
              path = l.path.join(' › ') || (l.key === '' ? say`Nothing is known of what they are called` : l.key);
            const isOpen = open.has(l.key);
            return (
              <Fragment key={l.key}>
                <tr>
                  <td>
                    <input
                      type="checkbox"
                      className="checkbox checkbox-sm"
                      aria-label={path}
                      disabled={!isTakable}
                      checked={isTakable && !left.has(l.key)}
                      onChange={() => {
                        setLeft(turn(left, l.key));
                      }}
                    />
                  </td>
                  <td>
                    <button
                      type="button"
                      className="text-start underline decoration-base-300 underline-offset-2 hover:decoration-current"
                      aria-expanded={isOpen}
                      onClick={() => {
                        setOpen(turn(open, l.key));
                      }}
                    >
                      {path}
                    </button>
                  </td>
                  {surenesses.map((s) => (
                    <td key={s} className={`num text-end ${l[s] === 0 ? 'quiet' : ''}`}>
                      {count(l[s])}
                    </td>
                  ))}
                  <td>
                    <span className="line-clamp-1">{l.examples.join(' · ')}</span>
                    {l.key !== '' && <span className="block text-xs quiet">{wordLeafReason(l.reason, own ?? '')}</span>}
                  </td>
                </tr>
                {isOpen && (
                  <tr>
                    <td />
                    <td colSpan={surenesses.length + 2} className="p-0">
                      <PlacedItems
                        rulebook={rulebook}
                        asked={{ market, own, leaf: l.key }}
                        least={least}
                        except={except}
                        onTurn={(id) => {
                          setExcept(turn(except, id));
                        }}
                        onChoose={(listing, category) => {
                          assign.mutate({ listing, category });
                        }}
                      />
                    </td>
                  </tr>
                )}
              </Fragment>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function Looking({ job }: { job: { done: number; total: number } | undefined }) {
  return (
    <span role="status" className="inline-flex items-center gap-2">
      <progress
        className="progress w-32"
        max={Math.max(1, job?.total ?? 1)}
        value={job?.total ? job.done : undefined}
      />
      <span className="quiet">
        {job?.total ? tell`${count(job.done)} of ${count(job.total)} looked at` : say`Learning from what is placed …`}
      </span>
    </span>
  );
}
