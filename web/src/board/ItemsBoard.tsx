import { listProducts, type Product } from '@basileus/contract';
import { wordFinding } from '@basileus/core/checks';
import type { ListingState } from '@basileus/core/rulebook';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useDeferredValue, useMemo, useState } from 'react';
import { call } from '../api/call';
import { facetsQuery } from '../frame/queries';
import { useRulebooks, useScope } from '../frame/scope';
import { type Standing, useStandings } from '../frame/standings';
import { ListingEditor } from '../prepare/ListingEditor';
import type { GridColumn } from '../table/columns';
import { DataGrid } from '../table/DataGrid';
import type { GridRow } from '../table/GridLine';
import { type ItemRow, useGridRows } from '../table/useGridRows';
import { usePages } from '../table/usePages';
import { Choice } from '../ui/Choice';
import { Empty, Refused } from '../ui/faces';
import { Seal } from '../ui/Seal';
import { SearchBox } from '../ui/SearchBox';
import { states } from '../ui/state';
import { count, say } from '../ui/text';
import { oneOf, useUrlValue } from '../ui/url';
import { useWordings } from '../words/findings';
import { stateNames } from '../ui/terms';

const itemColumns: GridColumn[] = [
  { key: 'sku', title: 'SKU', width: 180, kind: 'text', readOnly: true, mono: true, sortable: true },
  { key: 'title', title: say`Title`, width: 250, kind: 'text', readOnly: true, sortable: true },
];
const marketWidth = 122;
/** Columns of markets are told from those of items by what begins their keys. */
const on = say`on `;
const noEdits = {
  valueOf: (_id: string, _key: string, stored: string | readonly string[] | null) => stored,
  isUnsaved: () => false,
  version: '',
};

/** Items against markets: how each stands, for how much, and what keeps it; Enter opens the listing without leaving. */
/** How an entry stands on a market, with its number there and what its price leaves. */
function wordStanding({ state, number, margin }: Standing, market: string): string {
  const stands = say`${stateNames[state]} on ${market}${number === null ? '' : `, ${number}`}`;
  return margin === null ? stands : say`${stands}; its price leaves ${(margin / 10).toFixed(1)} %`;
}

export function ItemsBoard() {
  const { markets } = useScope();
  const [q, setQ] = useUrlValue('q'),
    [category, setCategory] = useUrlValue('category'),
    [brand, setBrand] = useUrlValue('brand'),
    [at, setAt] = useUrlValue('on'),
    [state, setState] = useUrlValue('state'),
    [sort, setSort] = useUrlValue('sort', 'sku.up');
  const [open, setOpen] = useState<{ market: string; listing: number }>();
  const facets = useQuery(facetsQuery).data;
  const books = useRulebooks(),
    wordings = useWordings();
  const search = useDeferredValue(q);
  const [sortKey = '', direction = ''] = sort.split('.');
  const query = {
    search,
    category,
    brand,
    on: at,
    state: oneOf(['', ...states], state) as ListingState | '',
    sort: oneOf(['sku', 'title'], sortKey),
    direction: oneOf(['up', 'down'], direction),
    open: 'all',
  };
  const pages = usePages<Product>(['products', 'board', query], (offset, limit) =>
    call(listProducts, { query: { ...query, offset, limit } }),
  );
  const { standingOf, stamp } = useStandings(pages.seenRows.map((p) => p.id));
  const columns = useMemo(
    () => [
      ...itemColumns,
      ...markets.map((m): GridColumn => ({
        key: on + m.key,
        title: m.name,
        width: marketWidth,
        kind: 'number',
        readOnly: true,
        unit: m.sites[0]?.currency,
      })),
    ],
    [markets],
  );
  const storedOf = useCallback(
    (p: Product, key: string) =>
      key.startsWith(on)
        ? (standingOf(p.id, key.slice(on.length))?.price ?? null)
        : ((p.fields[key] as string | undefined) ?? null),
    [standingOf],
  );
  const rowAt = useGridRows(pages.rowAt, storedOf, noEdits);
  const faceOf = useCallback(
    (row: GridRow, column: GridColumn) => {
      const { item } = row as ItemRow<Product>;
      if (!column.key.startsWith(on))
        return column.key === 'sku' && item.kind === 'variant'
          ? { lead: <span className="ms-2 h-3 w-2 border-b border-s border-base-content/40" aria-hidden="true" /> }
          : undefined;
      const market = column.key.slice(on.length);
      const s = standingOf(item.id, market);
      if (!s) return { unused: true, origin: say`${column.title} has no entry of a family by itself.` };
      const wording = wordings.get(market);
      return {
        lead: (
          <span className="me-auto flex">
            <Seal state={s.state} bare />
          </span>
        ),
        origin: wordStanding(s, column.title),
        faded: s.state === 'left out',
        finding: s.finding && wording ? { level: s.finding.level, says: wordFinding(s.finding, wording) } : undefined,
      };
    },
    [standingOf, wordings],
  );
  const isNarrowed = q || category || brand || state;
  const named = (list: readonly { name: string; count: number }[] | undefined) =>
    (list ?? []).map((c) => [c.name, `${c.name} (${c.count})`] as const);
  return (
    <>
      <div className="flex items-center gap-2 overflow-x-auto px-5 py-3">
        <SearchBox
          label={say`Find items`}
          placeholder={say`Find SKU, title, barcode`}
          width="w-56"
          value={q}
          onChange={setQ}
        />
        <Choice
          label={say`Own category`}
          all={say`Every category`}
          options={named(facets?.categories)}
          width="w-40"
          value={category}
          onChoose={setCategory}
        />
        <Choice
          label={say`Brand`}
          all={say`Every brand`}
          options={named(facets?.brands)}
          width="w-40"
          value={brand}
          onChoose={setBrand}
        />
        <Choice
          label={say`Market`}
          all={say`On any market`}
          options={markets.map((m) => [m.key, say`On ${m.name}`] as const)}
          width="w-36"
          value={at}
          onChoose={setAt}
        />
        <Choice
          label={say`State`}
          all={say`Every state`}
          options={states.map((s) => [s, stateNames[s]] as const)}
          width="w-32"
          value={state}
          onChoose={setState}
        />
        <span className="quiet ms-auto shrink-0 text-sm" role="status">
          {pages.isLoading ? say`Counting …` : `${count(pages.total)} ${isNarrowed ? say`found` : say`items`}`}
        </span>
      </div>
      {pages.error ? (
        <Refused error={pages.error} again={pages.refetch} />
      ) : (
        <div className="flex min-h-0 flex-1 flex-col border-t border-base-300">
          <DataGrid
            label={say`Items on all markets`}
            columns={columns}
            frozen={2}
            rowCount={pages.total}
            rowAt={rowAt}
            version={`${pages.stamp} ${stamp}`}
            faceOf={faceOf}
            onSeen={pages.onSeen}
            loadRows={pages.loadRows}
            onOpen={(row, column) => {
              const { item } = row as ItemRow<Product>;
              const market = column?.key.startsWith(on) ? column.key.slice(on.length) : markets[0]!.key;
              const s = standingOf(item.id, market);
              if (s) setOpen({ market, listing: s.listing });
            }}
            sort={{ key: query.sort, direction: query.direction }}
            onSort={(key) => {
              setSort(`${key}.${query.sort === key && query.direction === 'up' ? 'down' : 'up'}`);
            }}
            empty={
              pages.isLoading ? null : isNarrowed ? (
                <Empty title={say`Nothing matches these filters.`}>{say`Clear one of them to see more.`}</Empty>
              ) : (
                <Empty title={say`The catalog is empty.`}>{say`Bring items in under Gather.`}</Empty>
              )
            }
          />
        </div>
      )}
      {open && books.get(open.market) && (
        <ListingEditor
          key={open.listing}
          market={open.market}
          id={open.listing}
          rulebook={books.get(open.market)!}
          onClose={() => {
            setOpen(undefined);
          }}
        />
      )}
    </>
  );
}
