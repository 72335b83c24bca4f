import { countValues, type ListedProduct, listProducts, productLacks } from '@basileus/contract';
import { everyItem, isFieldClause, narrow, type Which, wordWhich } from '@basileus/core/choose';
import type { Value } from '@basileus/core/listing';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useDeferredValue, useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { call } from '../api/call';
import { toClauses } from '../choose/clause';
import { useChoice } from '../choose/useChoice';
import { TakeOut } from '../exports/TakeOut';
import { useScope } from '../frame/scope';
import { useStandings } from '../frame/standings';
import { DataGrid } from '../table/DataGrid';
import type { Suggest } from '../table/CellEditor';
import { useColumns } from '../table/useColumns';
import { useEdits } from '../table/useEdits';
import { type ItemRow, useGridRows } from '../table/useGridRows';
import { usePages } from '../table/usePages';
import { Empty, PageHead, Refused } from '../ui/faces';
import { count, say } from '../ui/text';
import { oneOf, useUrlValue } from '../ui/url';
import { AddItem } from './AddItem';
import { ItemsMenu } from './ItemsMenu';
import { listWanted } from './catalog-columns';
import { CatalogFilters } from './CatalogFilters';
import { ChangeButton } from './ChangeButton';
import { ColumnFilter } from './ColumnFilter';
import { toViewAddress, ViewsMenu } from './ViewsMenu';
import { viewsQuery } from './queries';
import { startRewrite } from '../bulk/operation';
import { useCatalogDeeds } from './useCatalogDeeds';
import { useCatalogFace } from './useCatalogFace';
import { useCatalogFields } from './useCatalogFields';
import { facetsQuery } from '../frame/queries';

type Row = ItemRow<ListedProduct>;
/** Values that stand in a field of the catalog already. */
const suggest: Suggest = async (field, search) =>
  (await call(countValues, { body: { which: everyItem, field, search } })).values.map((v) => v.value);
const getStored = (product: ListedProduct, key: string): Value | null =>
  (product.fields[key] as Value | undefined) ?? null;

export function CatalogPage() {
  const { scope, markets } = useScope();
  const [q, setQ] = useUrlValue('q'),
    [category] = useUrlValue('category'),
    [brand] = useUrlValue('brand'),
    [kind] = useUrlValue('kind'),
    [lacks] = useUrlValue('lacks'),
    [sort, setSort] = useUrlValue('sort', 'sku.up'),
    [open, setOpen] = useUrlValue('open'),
    [from] = useUrlValue('import'),
    [finding] = useUrlValue('finding'),
    [viewId] = useUrlValue('view'),
    [besideKeys, setBeside] = useUrlValue('with');
  const [address] = useSearchParams();
  const [isAdding, setAdding] = useState(false),
    [isTakingOut, setTakingOut] = useState(false),
    [range, setRange] = useState({ top: 0, bottom: 0 });
  const search = useDeferredValue(q);
  const choice = useChoice();
  const onSelect = useCallback((_: string[], rows: { top: number; bottom: number }) => {
    setRange(rows);
  }, []);
  const client = useQueryClient();
  const facets = useQuery(facetsQuery).data;
  const views = useQuery(viewsQuery).data?.rows ?? [];
  const view = views.find((v) => v.id === Number(viewId));
  // A name of a field has dots of its own.
  const dot = sort.lastIndexOf('.');
  const sortKey = sort.slice(0, dot),
    direction = sort.slice(dot + 1);
  const {
    fields,
    named,
    table: tableName,
    base,
    usual,
    all,
    seeAll,
    isTold,
  } = useCatalogFields({ view, category, sort: sortKey, beside: besideKeys });
  const beside = useMemo(() => besideKeys.split(',').filter(Boolean), [besideKeys]);
  const query = {
    search,
    category,
    brand,
    kind: oneOf(['', 'single', 'family', 'variant', 'bundle'], kind),
    lacks: oneOf(['', ...productLacks], lacks),
    sort: named(sortKey) ? sortKey : 'sku',
    direction: oneOf(['up', 'down'], direction),
    open,
    import: Number(from) || 0,
    finding,
    choice: choice.id,
  };
  /** All that is shown, as a choice. */
  const shownWhich = (): Which =>
    narrow(
      {
        ...choice.which,
        search: [choice.which.search, q].filter(Boolean).join(' '),
        rows: query.kind === '' ? choice.which.rows : query.kind,
      },
      toClauses({ category, brand, lacks, import: query.import, finding }, fields),
    );
  const table = useColumns({
    table: tableName,
    base,
    usual,
    all,
    beside,
    onKept: () => {
      setBeside('');
    },
    groupOf: (key) => fields.get(key)?.group ?? '',
    filtered: useMemo(
      () => new Set([...choice.which.clauses, ...choice.which.also].filter(isFieldClause).map((c) => c.field)),
      [choice.which],
    ),
    onChoose: seeAll,
    onSort: (key, to) => {
      setSort(`${key}.${to}`);
    },
    filterOf: (key, close) => {
      const field = fields.get(key);
      return field && <ColumnFilter field={field} choice={choice} meant={shownWhich()} onDone={close} />;
    },
  });
  const { columns } = table;
  const listed = listWanted(columns, fields);
  const pages = usePages<ListedProduct>(['products', 'list', query, listed], (offset, limit) =>
    call(listProducts, { query: { ...query, listed, offset, limit } }),
  );
  const { standingOf, stamp } = useStandings(pages.seenRows.map((p) => p.id));
  const edits = useEdits('products', fields.labelOf);
  const rowAt = useGridRows(pages.rowAt, getStored, edits);
  const openIds = useMemo(() => new Set(open.split(',').filter(Boolean)), [open]);
  const toggle = useCallback(
    (id: string) => {
      const next = new Set(openIds);
      if (next.has(id)) next.delete(id);
      else next.add(id);
      setOpen([...next].join(','));
    },
    [openIds, setOpen],
  );
  const faceOf = useCatalogFace({ fields, isWide: listed !== '', open, openIds, toggle, standingOf });
  const { addRows, loadMarked, markedWhich, tryChange, askSums } = useCatalogDeeds({
    pages,
    range,
    columns,
    query,
    shownWhich,
  });
  const marked = range.bottom - range.top + 1;
  const isNarrowed = q || category || brand || kind || lacks || from || finding || choice.id > 0;
  return (
    <>
      <PageHead
        title={say`Catalog`}
        about={
          pages.isLoading || !facets
            ? say`Counting …`
            : say`${count(pages.total)} ${isNarrowed ? say`found` : say`rows`} of ${count(facets.products)}`
        }
      >
        <ViewsMenu
          views={views}
          view={view}
          layout={table.layout}
          isChanged={table.isChanged || (view !== undefined && view.address !== toViewAddress(address))}
          onKept={table.reset}
        />
        <button
          type="button"
          className="btn btn-sm shrink-0"
          title={say`Which columns are shown, and in which order`}
          onClick={table.choose}
        >
          {say`Columns …`}
        </button>
        <ItemsMenu
          marked={pages.total === 0 ? 0 : marked}
          first={rowAt(range.top)?.item}
          idsOf={loadMarked}
          whichOf={markedWhich}
        />
        <ChangeButton
          marked={marked}
          shown={pages.total}
          isWhole={open === 'all' || Boolean(q || kind || lacks || from || finding) || choice.id > 0}
          onChange={tryChange}
        />
        <button
          type="button"
          className="btn btn-sm"
          disabled={pages.total === 0}
          title={say`What is shown, as a file to be worked on elsewhere and brought back`}
          onClick={() => {
            setTakingOut(true);
          }}
        >
          {say`Export …`}
        </button>
        <button
          type="button"
          className="btn btn-sm"
          onClick={() => {
            setAdding(true);
          }}
        >
          {say`Add an item`}
        </button>
        <Link className="btn btn-sm btn-primary" to={`/${scope}/gather/imports`}>
          {say`Import a file`}
        </Link>
      </PageHead>
      <CatalogFilters facets={facets} isNarrowed={Boolean(isNarrowed)} choice={choice} />
      {pages.error ? (
        <Refused error={pages.error} again={pages.refetch} />
      ) : (
        <div className="flex min-h-0 flex-1 flex-col border-t border-base-300">
          <DataGrid
            label={say`Catalog`}
            columns={columns}
            isBusy={!isTold}
            frozen={table.layout.frozen}
            layout={table.grid}
            askSums={askSums}
            suggest={suggest}
            onBulk={(how, column, rows) => {
              const field = how === 'replace' ? fields.get(column.key) : undefined;
              tryChange(rows.bottom > rows.top, field ? [startRewrite(field)] : [], rows);
            }}
            rowCount={pages.total}
            rowAt={rowAt}
            version={`${pages.stamp}${edits.version} ${stamp}`}
            faceOf={faceOf}
            onSeen={pages.onSeen}
            onPatch={edits.onPatch}
            onTurn={edits.onTurn}
            onOverflow={addRows}
            loadRows={pages.loadRows}
            onSelect={onSelect}
            onOpen={(row) => {
              const { item: product } = row as Row;
              if (product.kind === 'family') toggle(row.id);
            }}
            sort={{ key: query.sort, direction: query.direction }}
            onSort={(key) => {
              setSort(`${key}.${query.sort === key && query.direction === 'up' ? 'down' : 'up'}`);
            }}
            empty={
              pages.isLoading ? null : isNarrowed ? (
                <Empty title={say`Nothing matches these filters.`}>{say`Clear one of them to see more.`}</Empty>
              ) : (
                <Empty title={say`The catalog is empty.`}>
                  <Link className="underline" to={`/${scope}/gather/imports`}>
                    {say`Bring in a file`}
                  </Link>{' '}
                  {say`from your business system or a supplier.`}
                </Empty>
              )
            }
          />
        </div>
      )}
      {table.dialogs}
      {isTakingOut && (
        <TakeOut
          which={shownWhich()}
          words={wordWhich(shownWhich(), fields, (key) => markets.find((m) => m.key === key)?.name ?? key)}
          onClose={() => {
            setTakingOut(false);
          }}
        />
      )}
      {isAdding && (
        <AddItem
          onClose={() => {
            setAdding(false);
          }}
          onAdded={(sku) => {
            setAdding(false);
            setQ(sku);
            void client.invalidateQueries({ queryKey: ['products'] });
          }}
        />
      )}
    </>
  );
}
