import { assignCategory, setWanted } from '@basileus/contract';
import type { Rulebook } from '@basileus/core/rulebook';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { toast } from '../ui/messages';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { Empty, Loading, Refused } from '../ui/faces';
import { count, plural, say } from '../ui/text';
import { oneOf, useUrlValue } from '../ui/url';
import { wordWanted } from '../ui/wanted';
import { CategoryPicker } from './CategoryPicker';
import { listLeafPaths } from './tree';
import { ItemPlacing } from './ItemPlacing';
import { wordLeafReason } from './leaf-reason';
import { groupsQuery } from './queries';
import { tell } from '../ui/tell';

const ways = ['own', 'item'] as const;
const wayNames: Record<(typeof ways)[number], string> = {
  own: say`By our categories`,
  item: say`Item by item`,
};

/** Items against the market's tree: all of one of our categories at once, or each by itself. */
export function CategoriesView({ rulebook }: { rulebook: Rulebook }) {
  const [said, setWay] = useUrlValue('by', 'own');
  const [of, setOf] = useUrlValue('of', anyOwn);
  const way = oneOf(ways, said);
  return (
    <>
      <div className="flex flex-wrap items-center gap-3 px-5 pt-3">
        <span className="join" role="group" aria-label={say`Place`}>
          {ways.map((w) => (
            <button
              key={w}
              type="button"
              aria-pressed={w === way}
              className={`btn btn-sm join-item ${w === way ? 'btn-primary' : ''}`}
              onClick={() => {
                setOf(anyOwn);
                setWay(w);
              }}
            >
              {wayNames[w]}
            </button>
          ))}
        </span>
        {way === 'item' && of !== anyOwn && (
          <button
            type="button"
            className="btn btn-sm"
            onClick={() => {
              setOf(anyOwn);
            }}
          >
            {say`Only “${of || say`(none)`}”`} <X size={14} aria-label={say`Show all`} />
          </button>
        )}
      </div>
      {way === 'item' ? (
        <ItemPlacing key={of} rulebook={rulebook} own={of === anyOwn ? undefined : of} />
      ) : (
        <OwnPlacing
          rulebook={rulebook}
          onItems={(own) => {
            setOf(own);
            setWay('item');
          }}
        />
      )}
    </>
  );
}
/** In the address: not one of our categories alone. The empty text stands for items that have none. */
const anyOwn = '*';

/** Own categories against the market's tree: what waits first, proposals with reasons, one choice for all items. */
function OwnPlacing({ rulebook, onItems }: { rulebook: Rulebook; onItems: (own: string) => void }) {
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
    return r.waiting > 0 && best?.sureness === 'sure' ? [{ ownCategory: r.ownCategory, category: best.key }] : [];
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
            {tell`Take the ${count(proposed.length)} sure proposals`}
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
                      {r.ownCategory || say`(none)`}
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
                        <span className="quiet">{best.sureness === 'unsure' ? say`A guess:` : say`Proposed:`}</span>{' '}
                        {best.path.join(' › ')}{' '}
                        <span className="block text-xs quiet">{wordLeafReason(best.reason, r.ownCategory)}</span>
                      </div>
                    )}
                    {r.leftOut > 0 && (
                      <div className="quiet">
                        {r.leftOut === r.items ? say`Left out` : say`${count(r.leftOut)} left out`}
                      </div>
                    )}
                    {isWaiting && !best && (
                      <span className="quiet">
                        {r.ownCategory === '' ? say`Nothing in common; place each.` : say`No proposal; choose one.`}
                      </span>
                    )}
                  </td>
                  <td className="text-end whitespace-nowrap">
                    {isWaiting && best && (
                      <button
                        type="button"
                        className={`btn btn-sm me-2 ${best.sureness === 'unsure' ? '' : 'btn-primary'}`}
                        disabled={assign.isPending}
                        onClick={() => {
                          assign.mutate({ ownCategory: r.ownCategory, category: best.key, onlyEmpty: true });
                        }}
                      >
                        {say`Take the proposal`}
                      </button>
                    )}
                    {isWaiting && (
                      <button
                        type="button"
                        className={`btn btn-sm me-2 ${best ? 'btn-ghost' : 'btn-primary'}`}
                        aria-label={say`Item by item: ${r.ownCategory || say`(none)`}`}
                        onClick={() => {
                          onItems(r.ownCategory);
                        }}
                      >
                        {say`Item by item`}
                      </button>
                    )}
                    {(isWaiting || r.leftOut > 0) && (
                      <button
                        type="button"
                        className="btn btn-sm btn-ghost me-2"
                        aria-label={`${isWaiting ? say`Leave out` : say`Want again`} ${r.ownCategory || '(none)'}`}
                        disabled={want.isPending}
                        onClick={() => {
                          want.mutate({ own: r.ownCategory, wanted: !isWaiting });
                        }}
                      >
                        {isWaiting ? say`Leave out` : say`Want again`}
                      </button>
                    )}
                    {r.ownCategory !== '' && (
                      <button
                        type="button"
                        className="btn btn-sm"
                        onClick={() => {
                          setPicking(r.ownCategory);
                        }}
                      >
                        {say`Choose …`}
                      </button>
                    )}
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
          proposals={picked.proposals.map((p) => ({ ...p, reason: wordLeafReason(p.reason, picked.ownCategory) }))}
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
