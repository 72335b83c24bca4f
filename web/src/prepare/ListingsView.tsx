import { assignCategory, type ListingRow, setWanted, setWish } from '@basileus/contract';
import type { Rulebook, Site } from '@basileus/core/rulebook';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useDeferredValue, useMemo, useRef, useState } from 'react';
import { toast } from '../ui/messages';
import { call } from '../api/call';
import { useScope } from '../frame/scope';
import { Empty } from '../ui/faces';
import { plural, say } from '../ui/text';
import { SearchBox } from '../ui/SearchBox';
import { states } from '../ui/state';
import { oneOf, useUrlValue } from '../ui/url';
import { ListingsPicker } from './ListingsPicker';
import { addMargin, columnsFor } from './columns';
import { wordSite, wordWanted } from '../ui/wanted';
import { ListingActions } from './ListingActions';
import { ListingEditor } from './ListingEditor';
import { ListingsTable, type Neighbour } from './ListingsTable';
import { listLeafPaths } from './tree';
import { useToBulk } from './useToBulk';
import { WithdrawAsk } from './WithdrawAsk';
import { groupsQuery } from './queries';
import { tell } from '../ui/tell';
import { stateNames } from '../ui/terms';

const wishWords = {
  withdraw: (what: string) => say`${what} will be taken down with the next sending; until then Keep takes it back.`,
  restore: (what: string) => say`${what} will be put back with the next sending; until then Keep takes it back.`,
  keep: (what: string) => say`${what} kept as it is.`,
};

export function ListingsView({ rulebook }: { rulebook: Rulebook }) {
  const { market, name } = useScope();
  const client = useQueryClient();
  const [q, setQ] = useUrlValue('q'),
    [category, setCategory] = useUrlValue('category'),
    [own, setOwn] = useUrlValue('own'),
    [state, setState] = useUrlValue('state'),
    [fields, setFields] = useUrlValue('fields', 'all'),
    [openId, setOpenId] = useUrlValue('open'),
    [sort, setSort] = useUrlValue('sort', 'sku.up');
  const [selected, setSelected] = useState<string[]>([]),
    [products, setProducts] = useState<number[]>([]),
    [isPicking, setPicking] = useState(false),
    [isWithdrawing, setWithdrawing] = useState(false);
  const neighbour = useRef<Neighbour>(undefined);
  const step = (by: -1 | 1) => {
    void neighbour.current?.(Number(openId), by).then((next) => {
      if (next !== undefined) setOpenId(String(next));
    });
  };
  const search = useDeferredValue(q);
  const groups = useQuery(groupsQuery(market)).data;
  const leaves = useMemo(() => listLeafPaths(rulebook), [rulebook]);
  const inUse = useMemo(() => {
    const n = new Map<string, number>();
    for (const r of groups?.rows ?? []) for (const c of r.chosen) n.set(c.key, (n.get(c.key) ?? 0) + c.count);
    return n;
  }, [groups]);
  const columns = useMemo(() => {
    const chosen = own
      ? (groups?.rows.find((r) => r.ownCategory === own)?.chosen.map((c) => c.key) ?? [])
      : [...inUse.keys()];
    return addMargin(columnsFor(rulebook, category ? [category] : chosen, fields as 'all'), rulebook);
  }, [rulebook, category, own, inUse, groups, fields]);
  const query = useMemo(
    () => ({ search, category, ownCategory: own, state: state as '' }),
    [search, category, own, state],
  );
  const order = useMemo(() => {
    const at = sort.lastIndexOf('.');
    return { key: sort.slice(0, at), direction: oneOf(['up', 'down'], sort.slice(at + 1)) };
  }, [sort]);
  const select = useCallback((ids: string[], of: number[]) => {
    setSelected(ids);
    setProducts(of);
  }, []);
  const toBulk = useToBulk(market, products, query);
  const refresh = () => {
    void client.invalidateQueries({ queryKey: ['listings'] });
    void client.invalidateQueries({ queryKey: ['overview'] });
  };
  const assign = useMutation({
    mutationFn: (key: string) =>
      call(assignCategory, {
        params: { market },
        body: { category: key, ids: selected.map(Number), onlyEmpty: false },
      }),
    onSuccess: (r) => {
      toast.success(say`${plural(r.changed, 'listing', 'listings')} put into the category, families whole.`);
      refresh();
    },
    onError: (e) => toast.error(e.message),
  });
  const want = useMutation({
    mutationFn: ({ wanted, site }: { wanted: boolean; site?: Site }) =>
      call(setWanted, {
        params: { market },
        body: {
          ids: selected.map(Number),
          products: [],
          own: null,
          wanted,
          sites: site === undefined ? [] : [site.key],
        },
      }),
    onSuccess: (r, { wanted, site }) => {
      if (site !== undefined) toast.success(wordSite(site.name, wanted, r.changed));
      else if (!wanted || r.changed > 0) toast.success(wordWanted(name, wanted, r));
      refresh();
    },
    onError: (e) => toast.error(e.message),
  });
  const wish = useMutation({
    mutationFn: (w: 'withdraw' | 'restore' | 'keep') =>
      call(setWish, { params: { market }, body: { ids: selected.map(Number), wish: w } }),
    onSuccess: (r, w) => {
      setWithdrawing(false);
      const sent = r.onTheWay
        ? say` ${plural(r.onTheWay, 'is', 'are')} on the way to the market and stay as they are.`
        : '';
      toast.success(wishWords[w](plural(r.changed, 'listing', 'listings')) + sent);
      refresh();
    },
    onError: (e) => toast.error(e.message),
  });
  return (
    <>
      <div className="flex flex-wrap items-center gap-2 px-5 py-3">
        <SearchBox
          label={say`Find listings`}
          placeholder={say`Find SKU, title, barcode`}
          width="w-36"
          value={q}
          onChange={setQ}
        />
        <select
          className="select select-sm w-36"
          aria-label={say`Market category`}
          value={category}
          onChange={(e) => {
            setCategory(e.target.value);
          }}
        >
          <option value="">{say`Every category`}</option>
          {leaves
            .filter((l) => inUse.has(l.key) || l.key === category)
            .map((l) => (
              <option key={l.key} value={l.key} title={l.path}>
                {l.label}
                {groups && ` (${inUse.get(l.key) ?? 0})`}
              </option>
            ))}
        </select>
        <select
          className="select select-sm w-32"
          aria-label={say`State`}
          value={state}
          onChange={(e) => {
            setState(e.target.value);
          }}
        >
          <option value="">{say`Every state`}</option>
          {states.map((s) => (
            <option key={s} value={s}>
              {stateNames[s]}
            </option>
          ))}
        </select>
        {own && (
          <button
            type="button"
            className="btn btn-sm"
            onClick={() => {
              setOwn('');
            }}
          >
            {tell`Ours: ${own} ×`}
          </button>
        )}
        <div className="join" role="group" aria-label={say`Columns`}>
          <button
            type="button"
            aria-pressed={fields === 'must'}
            className={`btn btn-sm join-item ${fields === 'must' ? 'btn-primary' : ''}`}
            onClick={() => {
              setFields('must');
            }}
          >
            {say`Must only`}
          </button>
          <button
            type="button"
            aria-pressed={fields === 'all'}
            className={`btn btn-sm join-item ${fields === 'all' ? 'btn-primary' : ''}`}
            onClick={() => {
              setFields('all');
            }}
          >
            {say`All fields`}
          </button>
        </div>
        <ListingActions
          market={market}
          rulebook={rulebook}
          selected={selected}
          isBusy={wish.isPending || toBulk.isPending}
          onBulk={toBulk.mutate}
          onPick={() => {
            setPicking(true);
          }}
          onWithdraw={() => {
            setWithdrawing(true);
          }}
          onLeaveOut={() => {
            want.mutate({ wanted: false });
          }}
          onWish={(w) => {
            if (w === 'keep') want.mutate({ wanted: true });
            wish.mutate(w);
          }}
          onSite={(site, wanted) => {
            want.mutate({ wanted, site });
          }}
          onOpen={setOpenId}
        />
      </div>
      <div className="flex min-h-0 flex-1 flex-col border-t border-base-300">
        <ListingsTable
          market={market}
          query={query}
          columns={columns}
          label={say`Listings`}
          showsFinding
          sort={order}
          onSort={(key, direction) => {
            setSort(`${key}.${direction}`);
          }}
          quietTips
          onSelect={select}
          onOpen={(l: ListingRow, find) => {
            neighbour.current = find;
            setOpenId(String(l.id));
          }}
          empty={<Empty title={say`No listing matches.`}>{say`Clear a filter, or bring items in under Gather.`}</Empty>}
        />
      </div>
      {isPicking && (
        <ListingsPicker
          rulebook={rulebook}
          ids={selected.map(Number)}
          onClose={() => {
            setPicking(false);
          }}
          onChoose={(key) => {
            setPicking(false);
            assign.mutate(key);
          }}
        />
      )}
      {isWithdrawing && (
        <WithdrawAsk
          count={selected.length}
          rulebook={rulebook}
          isBusy={wish.isPending}
          onWithdraw={() => {
            wish.mutate('withdraw');
          }}
          onClose={() => {
            setWithdrawing(false);
          }}
        />
      )}
      {openId && (
        <ListingEditor
          market={market}
          key={openId}
          id={Number(openId)}
          rulebook={rulebook}
          {...(neighbour.current ? { onStep: step } : {})}
          onClose={() => {
            setOpenId('');
          }}
        />
      )}
    </>
  );
}
