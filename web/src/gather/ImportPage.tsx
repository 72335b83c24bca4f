import { addressOf, call } from '../api/call';
import {
  applyImport,
  changeImport,
  discardImport,
  downloadRefused,
  type ImportReadingShape,
  type ImportShape,
  listImportRows,
  readImport,
} from '@basileus/contract';
import { getFieldLabel, productFields } from '@basileus/core/sheet';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from 'react-router';
import { useScope } from '../frame/scope';
import { Loading, PageHead, Refused, Views } from '../ui/faces';
import { count, plural, shown, sizeOf } from '../ui/text';
import { useUrlValue } from '../ui/url';
import { stateWords } from './ImportsPage';

export function ImportPage() {
  const { id = '0' } = useParams();
  const { scope } = useScope();
  const client = useQueryClient(),
    navigate = useNavigate();
  const params = { id: Number(id) };
  const { data, error, isLoading } = useQuery({
    queryKey: ['imports', Number(id)],
    queryFn: () => call(readImport, { params }),
  });
  const put = (next: ImportShape) => {
    client.setQueryData(['imports', Number(id)], next);
    void client.invalidateQueries({ queryKey: ['imports'] });
  };
  const change = useMutation({
    mutationFn: (body: ImportReadingShape) => call(changeImport, { params, body }),
    onSuccess: put,
  });
  const apply = useMutation({
    mutationFn: () => call(applyImport, { params }),
    onSettled: () => void client.invalidateQueries({ queryKey: ['imports'] }),
  });
  const discard = useMutation({
    mutationFn: () => call(discardImport, { params }),
    onSuccess: () => void navigate(`/${scope}/gather/imports`),
  });
  if (isLoading) return <Loading />;
  if (error || !data) return <Refused error={error} />;
  const isOpen = data.state === 'planned' || data.state === 'planning' || data.state === 'failed';
  const { reading, counts } = data;
  const set = (part: Partial<ImportReadingShape>) => {
    change.mutate({ ...reading, ...part });
  };
  const writes = counts.create + counts.update;
  return (
    <>
      <PageHead
        title={data.name}
        about={
          <>
            {sizeOf(data.size)} · <span role="status">{stateWords[data.state]}</span>
          </>
        }
      >
        {counts.refuse > 0 && (
          <a className="btn btn-sm" href={addressOf(downloadRefused, { params })}>
            Refused rows as a file
          </a>
        )}
        {isOpen && (
          <button
            type="button"
            className="btn btn-sm"
            onClick={() => {
              discard.mutate();
            }}
          >
            Discard
          </button>
        )}
        {data.state === 'planned' && (
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={writes === 0 || apply.isPending || reading.decimalSign === 'undetermined'}
            onClick={() => {
              apply.mutate();
            }}
          >
            {writes === 0 ? 'Nothing to write' : `Write ${plural(writes, 'row', 'rows')}`}
          </button>
        )}
        {data.state === 'applied' && (
          <Link className="btn btn-sm btn-primary" to={`/${scope}/gather`}>
            See the catalog
          </Link>
        )}
      </PageHead>
      {(change.error ?? apply.error) && <Refused error={change.error ?? apply.error} />}
      {data.fault && (
        <div role="alert" className="mx-5 mb-3 border-l-4 border-error bg-base-100 px-4 py-2">
          {data.fault}
        </div>
      )}
      {reading.decimalSign === 'undetermined' && (
        <div role="alert" className="mx-5 mb-3 border-l-4 border-warning bg-base-100 px-4 py-2">
          The prices of this file can be read in two ways. Say which decimal sign it uses before it is written.
        </div>
      )}
      <div className="grid gap-4 px-5 pb-3 xl:grid-cols-2">
        {isOpen && <Understood data={data} set={set} isBusy={change.isPending} />}
        <div className={`flex min-w-0 flex-col gap-4 ${isOpen ? '' : 'xl:col-span-2'}`}>
          <Totals data={data} />
          <Rows data={data} />
        </div>
      </div>
    </>
  );
}

function Totals({ data }: { data: ImportShape }) {
  const { counts } = data;
  const cells: [string, number, string][] = [
    ['rows read', counts.rows, ''],
    ['new', counts.create, 'text-success'],
    ['changed', counts.update, 'text-secondary'],
    ['the same', counts.same, ''],
    ['refused', counts.refuse, counts.refuse ? 'text-error' : ''],
    ['damaged by a spreadsheet', counts.damaged, counts.damaged ? 'text-warning' : ''],
  ];
  return (
    <section className="panel flex flex-wrap gap-x-8 gap-y-2 px-4 py-3" aria-label="Counts">
      {data.state === 'planning' ? (
        <Loading what="Comparing with the catalog" />
      ) : (
        cells.map(([name, n, tone]) => (
          <div key={name}>
            <div className={`num text-xl ${tone}`}>{count(n)}</div>
            <div className="quiet text-[12.5px]">{name}</div>
          </div>
        ))
      )}
      {(data.state === 'applying' || data.state === 'applied') && (
        <div className="basis-full">
          <progress
            className="progress progress-primary w-full"
            value={counts.applied}
            max={counts.create + counts.update || 1}
            aria-label="Written"
          />
          <span className="quiet">
            {count(counts.applied)} of {count(counts.create + counts.update)} written
          </span>
        </div>
      )}
    </section>
  );
}

const encodings = {
  'utf-8': 'UTF-8',
  'utf-16le': 'UTF-16 LE',
  'utf-16be': 'UTF-16 BE',
  'windows-1252': 'Windows-1252',
};
const delimiters = { '\t': 'tab', ';': 'semicolon', ',': 'comma', '|': 'pipe' };

function Understood({
  data,
  set,
  isBusy,
}: {
  data: ImportShape;
  set: (part: Partial<ImportReadingShape>) => void;
  isBusy: boolean;
}) {
  const { reading } = data;
  const field = 'flex flex-col gap-0.5 text-[12.5px]';
  return (
    <section className="panel flex flex-col" aria-label="What was understood">
      <div className="grid grid-cols-2 gap-3 border-b border-base-300 p-4 sm:grid-cols-3" aria-busy={isBusy}>
        <label className={field}>
          This import may
          <select
            className="select select-sm"
            value={reading.mode}
            onChange={(e) => {
              set({ mode: e.target.value as ImportReadingShape['mode'] });
            }}
          >
            <option value="update">update known only</option>
            <option value="create">create new only</option>
            <option value="both">do both</option>
          </select>
        </label>
        <label className={field}>
          Decimal sign
          <select
            className="select select-sm"
            value={reading.decimalSign}
            onChange={(e) => {
              set({ decimalSign: e.target.value as ',' });
            }}
          >
            {reading.decimalSign === 'undetermined' && <option value="undetermined">choose …</option>}
            <option value=".">point, 12.50</option>
            <option value=",">comma, 12,50</option>
          </select>
        </label>
        <label className={field}>
          A blank cell
          <select
            className="select select-sm"
            value={reading.blankClears ? 'clears' : 'keeps'}
            onChange={(e) => {
              set({ blankClears: e.target.value === 'clears' });
            }}
          >
            <option value="keeps">keeps ours</option>
            <option value="clears">empties it</option>
          </select>
        </label>
        {data.kind === 'text' ? (
          <>
            <label className={field}>
              Encoding
              <select
                className="select select-sm"
                value={reading.encoding}
                onChange={(e) => {
                  set({ encoding: e.target.value as 'utf-8' });
                }}
              >
                {Object.entries(encodings).map(([k, l]) => (
                  <option key={k} value={k}>
                    {l}
                  </option>
                ))}
              </select>
            </label>
            <label className={field}>
              Delimiter
              <select
                className="select select-sm"
                value={reading.delimiter}
                onChange={(e) => {
                  set({ delimiter: e.target.value as ',' });
                }}
              >
                {Object.entries(delimiters).map(([k, l]) => (
                  <option key={k} value={k}>
                    {l}
                  </option>
                ))}
              </select>
            </label>
          </>
        ) : (
          <label className={field}>
            Sheet
            <select
              className="select select-sm"
              value={reading.sheet ?? ''}
              onChange={(e) => {
                set({ sheet: e.target.value });
              }}
            >
              {data.sheets.map((s) => (
                <option key={s}>{s}</option>
              ))}
            </select>
          </label>
        )}
        <label className={field}>
          Header in row
          <input
            type="number"
            min={1}
            max={30}
            className="input input-sm num"
            key={reading.headerRow}
            defaultValue={reading.headerRow + 1}
            onBlur={(e) => {
              const n = Number(e.target.value) - 1;
              if (n >= 0 && n !== reading.headerRow) set({ headerRow: n });
            }}
          />
        </label>
        <label className="col-span-full flex items-center gap-2 text-[12.5px]">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={reading.acceptMended}
            onChange={(e) => {
              set({ acceptMended: e.target.checked });
            }}
          />
          Take what could be mended and proven; otherwise refuse the row
        </label>
        {data.titleLines.length > 0 && (
          <p className="col-span-full quiet">Over the header: “{data.titleLines.join(' / ')}”</p>
        )}
      </div>
      <div className="overflow-auto">
        <table className="plain-table">
          <thead>
            <tr>
              <th>Column in the file</th>
              <th>Field of ours</th>
              <th>Why, and what it holds</th>
            </tr>
          </thead>
          <tbody>
            {reading.columns.map((c) => (
              <tr key={c.index}>
                <td className="font-semibold">{c.name}</td>
                <td>
                  <select
                    className="select select-sm w-40"
                    aria-label={`Field for ${c.name}`}
                    value={c.field ?? ''}
                    onChange={(e) => {
                      const field = e.target.value || null;
                      set({
                        columns: reading.columns.map((o) =>
                          o.index === c.index
                            ? { ...o, field, reason: field ? 'chosen by you' : 'left out by you' }
                            : o.field === field && field !== null
                              ? { ...o, field: null, reason: 'given to another column' }
                              : o,
                        ),
                      });
                    }}
                  >
                    <option value="">leave out</option>
                    {productFields.map((f) => (
                      <option key={f.key} value={f.key}>
                        {f.label}
                      </option>
                    ))}
                  </select>
                </td>
                <td>
                  <span className="quiet">{c.reason}</span>
                  <div className="num line-clamp-2 text-[12px] break-all">{c.samples.slice(0, 3).join(' · ')}</div>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function Rows({ data }: { data: ImportShape }) {
  const [view, setView] = useUrlValue('rows', '');
  const rows = useQuery({
    queryKey: ['imports', data.id, 'rows', view, data.state, data.counts],
    queryFn: () => call(listImportRows, { params: { id: data.id }, query: { action: view as '', limit: 200 } }),
    enabled: data.state !== 'planning',
  });
  return (
    <section className="panel flex min-w-0 flex-col" aria-label="Rows">
      <Views
        label="Rows by what would happen"
        now={view}
        onChoose={setView}
        views={[
          { key: '', label: 'All', count: data.counts.rows },
          { key: 'create', label: 'New', count: data.counts.create },
          { key: 'update', label: 'Changed', count: data.counts.update },
          { key: 'same', label: 'The same', count: data.counts.same },
          { key: 'refuse', label: 'Refused', count: data.counts.refuse },
          { key: 'damaged', label: 'With remarks' },
        ]}
      />
      {rows.isLoading ? (
        <Loading />
      ) : (
        <div className="max-h-[60vh] overflow-auto">
          <table className="plain-table">
            <thead>
              <tr>
                <th>Row</th>
                <th>SKU</th>
                <th>What would happen</th>
              </tr>
            </thead>
            <tbody>
              {rows.data?.rows.map((r) => (
                <tr key={r.row}>
                  <td className="num quiet">{r.row}</td>
                  <td className="num whitespace-nowrap">{r.sku || '(none)'}</td>
                  <td>
                    {r.problems.map((p, i) => (
                      <p key={i} className={p.level === 'blocker' ? 'text-error' : 'text-warning'}>
                        {p.says}
                        {p.mended !== undefined && p.level !== 'blocker' && (
                          <>
                            {' '}
                            Taken as <span className="num">{p.mended}</span>.
                          </>
                        )}
                      </p>
                    ))}
                    {r.action === 'create' && (
                      <p className="text-success">
                        New, with {plural(r.changes.length, 'field', 'fields')}:{' '}
                        {r.changes
                          .slice(0, 4)
                          .map((c) => `${getFieldLabel(c.field)} “${shown(c.after).slice(0, 40)}”`)
                          .join(', ')}
                        {r.changes.length > 4 && ' …'}
                      </p>
                    )}
                    {r.action === 'update' && (
                      <dl className="grid grid-cols-[auto_1fr] gap-x-3">
                        {r.changes.map((c) => (
                          <div key={c.field} className="contents">
                            <dt className="quiet">{getFieldLabel(c.field)}</dt>
                            <dd>
                              <del className="quiet">{shown(c.before).slice(0, 60) || '(empty)'}</del> →{' '}
                              <ins className="no-underline">{shown(c.after).slice(0, 60) || '(empty)'}</ins>
                            </dd>
                          </div>
                        ))}
                      </dl>
                    )}
                    {r.action === 'same' && <span className="quiet">Already so.</span>}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {(rows.data?.total ?? 0) > 200 && (
            <p className="p-3 quiet">The first 200 of {count(rows.data!.total)} rows are shown.</p>
          )}
        </div>
      )}
    </section>
  );
}
