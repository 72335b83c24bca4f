import { assignCategory, setWanted } from '@basileus/contract';
import type { Rulebook } from '@basileus/core/rulebook';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { toast } from '../ui/messages';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { Empty, Loading, Refused } from '../ui/faces';
import { count, plural, say } from '../ui/text';
import { wordWanted } from '../ui/wanted';
import { CategoryPicker } from './CategoryPicker';
import { listLeafPaths } from './tree';
import { groupsQuery } from './queries';
import { tell } from '../ui/tell';

/** Own categories against the market's tree: what waits first, proposals with reasons, one choice for all items. */
export function CategoriesView({ rulebook }: { rulebook: Rulebook }) {
  const { market, scope, name } = useScope();
  const client = useQueryClient();
  const { data, error, isLoading } = useQuery(groupsQuery(market));
  const [picking, setPicking] = useState<string | undefined>();
  const assign = useMutation({
    mutationFn: (v: { ownCategory: string; category: string; onlyEmpty: boolean }) =>
      call(assignCategory, { params: { market }, body: v }),
    onSuccess: (r, v) => {
      toast.success(
        say`${plural(r.changed, 'item', 'items')} of “${v.ownCategory}” put into their category; later ones follow by themselves.`,
      );
      void client.invalidateQueries({ queryKey: ['listings'] });
      void client.invalidateQueries({ queryKey: ['overview'] });
    },
    onError: (e) => toast.error(e.message),
  });
  const want = useMutation({
    mutationFn: (v: { own: string; wanted: boolean }) =>
      call(setWanted, { params: { market }, body: { ids: [], products: [], ...v } }),
    onSuccess: (r, { wanted }) => {
      toast.success(`${wordWanted(name, wanted, r)}${wanted ? '' : say` What is added to it later is left out too.`}`);
      void client.invalidateQueries({ queryKey: ['listings'] });
      void client.invalidateQueries({ queryKey: ['overview'] });
    },
    onError: (e) => toast.error(e.message),
  });
  const takeAll = useMutation({
    mutationFn: async (rows: readonly { ownCategory: string; category: string }[]) => {
      let items = 0;
      for (const [i, r] of rows.entries()) {
        toast(say`Placing “${r.ownCategory}”, ${i + 1} of ${rows.length} …`);
        items += (await call(assignCategory, { params: { market }, body: { ...r, onlyEmpty: true } })).changed;
      }
      return items;
    },
    onSuccess: (items) => toast.success(say`${plural(items, 'item', 'items')} put into the proposed categories.`),
    onError: (e) => toast.error(e.message),
    onSettled: () => {
      void client.invalidateQueries({ queryKey: ['listings'] });
      void client.invalidateQueries({ queryKey: ['overview'] });
    },
  });
  const paths = useMemo(() => new Map(listLeafPaths(rulebook).map((l) => [l.key, l.path])), [rulebook]);
  if (isLoading) return <Loading />;
  if (error || !data) return <Refused error={error} />;
  const picked = data.rows.find((r) => r.ownCategory === picking);
  const proposed = data.rows.flatMap((r) => {
    const best = r.proposals[0];
    return r.waiting > 0 && best ? [{ ownCategory: r.ownCategory, category: best.key }] : [];
  });
  return (
    <div className="min-h-0 flex-1 overflow-auto p-5">
      {proposed.length > 1 && (
        <div className="mb-3 flex items-center gap-3">
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={takeAll.isPending || assign.isPending}
            onClick={() => {
              takeAll.mutate(proposed);
            }}
          >
            {tell`Take all ${count(proposed.length)} proposals`}
          </button>
          <span className="quiet">{say`Each can be changed, and taken back in the change history.`}</span>
        </div>
      )}
      {data.rows.length === 0 ? (
        <Empty title={say`There are no items yet.`}>{say`Bring some in under Gather.`}</Empty>
      ) : (
        <table className="plain-table panel">
          <thead>
            <tr>
              <th>{say`Our category`}</th>
              <th className="text-end">{say`Items`}</th>
              <th className="text-end">{say`Placed`}</th>
              <th>{tell`Category on ${name}`}</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {data.rows.map((r) => {
              const best = r.proposals[0];
              const isWaiting = r.waiting > 0;
              return (
                <tr key={r.ownCategory}>
                  <td>
                    <Link
                      className="underline decoration-base-300 underline-offset-2"
                      to={`/${scope}/prepare?own=${encodeURIComponent(r.ownCategory)}`}
                    >
                      {r.ownCategory || '(none)'}
                    </Link>
                    {r.above.length > 0 && <div className="text-xs quiet">{r.above.join(' › ')}</div>}
                  </td>
                  <td className="num text-end">{count(r.items)}</td>
                  <td className={`num text-end ${isWaiting ? 'text-error' : ''}`}>{count(r.placed)}</td>
                  <td>
                    {r.chosen.map((c) => (
                      <div key={c.key}>
                        {paths.get(c.key)} <span className="num quiet">{c.count}</span>
                      </div>
                    ))}
                    {r.rule !== null && (r.ruleOf !== null || r.items === 0) && (
                      <div className="quiet">
                        {r.ruleOf === null ? say`What is under it:` : say`As for ${r.ruleOf}:`} {paths.get(r.rule)}
                      </div>
                    )}
                    {isWaiting && best && (
                      <div>
                        <span className="quiet">{say`Proposed:`}</span> {best.path.join(' › ')}{' '}
                        <span className="block text-xs quiet">{best.reason}</span>
                      </div>
                    )}
                    {r.leftOut > 0 && (
                      <div className="quiet">
                        {r.leftOut === r.items ? say`Left out` : say`${count(r.leftOut)} left out`}
                      </div>
                    )}
                    {isWaiting && !best && <span className="quiet">{say`No proposal; choose one.`}</span>}
                  </td>
                  <td className="text-end whitespace-nowrap">
                    {isWaiting && best && (
                      <button
                        type="button"
                        className="btn btn-sm btn-primary me-2"
                        disabled={assign.isPending}
                        onClick={() => {
                          assign.mutate({ ownCategory: r.ownCategory, category: best.key, onlyEmpty: true });
                        }}
                      >
                        {say`Take the proposal`}
                      </button>
                    )}
                    {(isWaiting || r.leftOut > 0) && (
                      <button
                        type="button"
                        className="btn btn-sm me-2"
                        aria-label={`${isWaiting ? say`Leave out` : say`Want again`} ${r.ownCategory || '(none)'}`}
                        disabled={want.isPending}
                        onClick={() => {
                          want.mutate({ own: r.ownCategory, wanted: !isWaiting });
                        }}
                      >
                        {isWaiting ? say`Leave out` : say`Want again`}
                      </button>
                    )}
                    <button
                      type="button"
                      className="btn btn-sm"
                      onClick={() => {
                        setPicking(r.ownCategory);
                      }}
                    >
                      {say`Choose …`}
                    </button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {picked && (
        <CategoryPicker
          rulebook={rulebook}
          title={say`Category for “${picked.ownCategory}”`}
          proposals={picked.proposals}
          recent={data.recent}
          onClose={() => {
            setPicking(undefined);
          }}
          onChoose={(category) => {
            setPicking(undefined);
            assign.mutate({ ownCategory: picked.ownCategory, category, onlyEmpty: picked.waiting > 0 });
          }}
        />
      )}
    </div>
  );
}
