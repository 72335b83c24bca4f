import { applyRemedies, type Cause, listCauses } from '@basileus/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { call } from '../api/call';
import { rulebookQuery, useScope } from '../frame/scope';
import { columnsFor, toGridColumn } from '../prepare/columns';
import { ListingEditor } from '../prepare/ListingEditor';
import { ListingsTable } from '../prepare/ListingsTable';
import { type GridColumn, toCellValue } from '../table/columns';
import { LevelMark } from '../ui/demand';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { count, plural, shown } from '../ui/text';
import { useUrlValue } from '../ui/url';

const keyOf = (c: Pick<Cause, 'check' | 'message' | 'field'>) => `${c.check}.${c.message}.${c.field}`;

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
        <input
          type="search"
          className="input input-sm w-52"
          aria-label="Find in findings"
          placeholder="Find in findings"
          value={search}
          onChange={(e) => {
            setSearch(e.target.value);
          }}
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

function CausePane({ cause, market }: { cause: Cause; market: string }) {
  const client = useQueryClient();
  const rulebook = useQuery(rulebookQuery(market)).data;
  const [asked, setAsked] = useState(false),
    [openId, setOpenId] = useState<number | undefined>(),
    [fill, setFill] = useState('');
  const attribute = rulebook?.attributes.find((a) => a.key === cause.field);
  const column = rulebook && attribute ? toGridColumn(rulebook, attribute, undefined) : undefined;
  const columns = useMemo<GridColumn[]>(() => {
    if (!rulebook) return [];
    const all = columnsFor(
      rulebook,
      rulebook.tree.filter((n) => n.leaf).map((n) => n.key),
      'all',
    );
    const near = relatedFields[cause.check] ?? [];
    const keys = [cause.field, ...near, 'title'];
    return keys
      .flatMap((k, i) => (keys.indexOf(k) === i ? all.filter((c) => c.key === k) : []))
      .map((c) => ({ ...c, level: undefined }));
  }, [rulebook, cause.field, cause.check]);
  const query = useMemo(
    () => ({ check: cause.check, message: cause.message, field: cause.field }),
    [cause.check, cause.message, cause.field],
  );
  const done = (r: { changed: number; left: number }) => {
    toast.success(`${plural(r.changed, 'listing', 'listings')} mended${r.left ? `; ${r.left} need a look each` : ''}.`);
    setAsked(false);
    void client.invalidateQueries({ queryKey: ['listings'] });
    void client.invalidateQueries({ queryKey: ['overview'] });
  };
  const mend = useMutation({
    mutationFn: (v: { fill?: string | string[]; includeUnsafe?: boolean }) =>
      call(applyRemedies, { params: { market }, body: { ...query, ...v } }),
    onSuccess: done,
    onError: (e) => toast.error(e.message),
  });
  const fillAll = () => {
    if (!column) return;
    const value = toCellValue(column, fill);
    if (value !== null) mend.mutate({ fill: typeof value === 'string' ? value : [...value] });
  };
  const canFill =
    column && !['identifier', 'links'].includes(attribute?.type ?? '') && cause.check !== 'identifier-twice';
  return (
    <section aria-label={cause.title} className="flex min-h-96 min-w-0 flex-col">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 px-4 py-3">
        <div className="min-w-0 flex-[1_1_20rem]">
          <h2 className="text-base">{cause.title}</h2>
          <p className="text-[13px]">{cause.example}</p>
          <p className="text-[12.5px] quiet">
            {cause.why}
            {cause.source && ` (${cause.source})`}
          </p>
        </div>
        {canFill && (
          <form
            className="flex items-center gap-1"
            onSubmit={(e) => {
              e.preventDefault();
              fillAll();
            }}
          >
            {column.options && (column.kind === 'choice' || column.kind === 'yes-no') ? (
              <select
                className="select select-sm w-44"
                aria-label={`${column.title} for all`}
                value={fill}
                onChange={(e) => {
                  setFill(e.target.value);
                }}
              >
                <option value="">choose …</option>
                {column.options.map((o) => (
                  <option key={o.code} value={o.code}>
                    {o.label}
                  </option>
                ))}
              </select>
            ) : (
              <input
                className="input input-sm w-52"
                aria-label={`${column.title} for all`}
                placeholder={attribute?.example ?? (column.kind === 'choices' ? 'one | another' : column.title)}
                list="fill-options"
                value={fill}
                onChange={(e) => {
                  setFill(e.target.value);
                }}
              />
            )}
            {column.kind === 'choices' && (
              <datalist id="fill-options">
                {column.options?.map((o) => (
                  <option key={o.code} value={o.label} />
                ))}
              </datalist>
            )}
            <button type="submit" className="btn btn-sm" disabled={fill.trim() === '' || mend.isPending}>
              Fill {count(cause.count)}
            </button>
          </form>
        )}
        {(cause.safe > 0 || hasMechanical(cause)) && (
          <button
            type="button"
            className="btn btn-sm btn-primary"
            onClick={() => {
              setAsked(true);
            }}
          >
            Remedy …
          </button>
        )}
        {cause.check === 'category-missing' && (
          <Link className="btn btn-sm btn-primary" to={`/${market}/prepare?view=categories`}>
            Choose categories
          </Link>
        )}
      </div>
      <div className="flex min-h-64 flex-1 flex-col border-t border-base-300">
        <ListingsTable
          market={market}
          query={query}
          columns={columns}
          label={cause.title}
          onOpen={(l) => {
            setOpenId(l.id);
          }}
          empty={<Empty title="Settled." />}
        />
      </div>
      {asked && (
        <RemedyPreview
          cause={cause}
          market={market}
          onClose={() => {
            setAsked(false);
          }}
          onApply={(includeUnsafe) => {
            mend.mutate({ includeUnsafe });
          }}
          isBusy={mend.isPending}
        />
      )}
      {openId !== undefined && rulebook && (
        <ListingEditor
          market={market}
          id={openId}
          rulebook={rulebook}
          onClose={() => {
            setOpenId(undefined);
          }}
        />
      )}
    </section>
  );
}

const relatedFields: Record<string, string[]> = {
  'price-rules': ['price', 'sale_price', 'sale_start', 'sale_end'],
  'identifier-wrong': ['maker_reference', 'brand'],
  'identifier-twice': ['brand'],
  'title-form': ['brand'],
  'family-rules': ['colour', 'size'],
  'category-missing': [],
};
const hasMechanical = (c: Cause): boolean =>
  [
    'identifier-wrong/checkDigit',
    'value-not-allowed/near',
    'price-rules/underCost',
    'price-rules/saleNotLower',
    'text-rules/promotion',
    'text-rules/phone',
    'text-rules/link',
    'text-rules/mail',
    'text-length/tooLong',
    'picture-rules/scheme',
    'family-rules/sharedDiffers',
    'identifier-twice/twice',
    'unit-not-accepted/missing',
  ].includes(`${c.check}/${c.message}`);

/** Before and after of every row, before anything is changed. */
function RemedyPreview({
  cause,
  market,
  onClose,
  onApply,
  isBusy,
}: {
  cause: Cause;
  market: string;
  onClose: () => void;
  onApply: (includeUnsafe: boolean) => void;
  isBusy: boolean;
}) {
  const [unsafe, setUnsafe] = useState(cause.safe === 0);
  const plan = useQuery({
    queryKey: ['listings', 'remedy', market, keyOf(cause), unsafe],
    queryFn: () =>
      call(applyRemedies, {
        params: { market },
        body: { check: cause.check, message: cause.message, field: cause.field, includeUnsafe: unsafe, dryRun: true },
      }),
  });
  return (
    <Modal title={`Remedy: ${cause.title}`} onClose={onClose} wide>
      {plan.isLoading ? (
        <Loading />
      ) : plan.error || !plan.data ? (
        <Refused error={plan.error} />
      ) : (
        <div className="flex flex-col gap-3 p-5">
          <div className="flex flex-wrap items-center gap-4">
            <span>
              {plural(plan.data.changed, 'row', 'rows')} would change
              {plan.data.left > 0 && `; ${plan.data.left} have no ready remedy`}.
            </span>
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={unsafe}
                onChange={(e) => {
                  setUnsafe(e.target.checked);
                }}
              />
              Also remedies that are only likely; look at each row below
            </label>
            <button
              type="button"
              className="btn btn-sm btn-primary ml-auto"
              disabled={plan.data.changed === 0 || isBusy}
              onClick={() => {
                onApply(unsafe);
              }}
            >
              Mend {count(plan.data.changed)}
            </button>
          </div>
          <div className="max-h-[55vh] overflow-auto">
            <table className="plain-table">
              <thead>
                <tr>
                  <th>SKU</th>
                  <th>Before</th>
                  <th>After</th>
                </tr>
              </thead>
              <tbody>
                {plan.data.rows.map((r) => (
                  <tr key={r.id}>
                    <td className="num whitespace-nowrap">{r.sku}</td>
                    <td>
                      <del className="quiet">{shown(r.before) || '(empty)'}</del>
                    </td>
                    <td>{shown(r.after) || '(empty)'}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </div>
      )}
    </Modal>
  );
}
