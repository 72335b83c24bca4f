import {
  downloadExport,
  type ExportSet,
  type ExportShape,
  keepExportSet,
  removeExport,
  startExport,
} from '@basileus/contract';
import { wordSchedule } from '@basileus/core/change';
import { wordWhich } from '@basileus/core/choose';
import { readMarketKey } from '@basileus/core/product';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { addressOf, call } from '../api/call';
import { useScope } from '../frame/scope';
import { asksListings, useWideFields } from '../choose/wideFields';
import { Empty, Loading, PageHead, Refused } from '../ui/faces';
import { toast } from '../ui/messages';
import { count, plural, sizeOf, when, say } from '../ui/text';
import { exportSetsQuery, exportsQuery } from './queries';
import { tell } from '../ui/tell';

/** Files of the catalog that went out: what they hold, who made them, and what came back of them. */
export function ExportsPage() {
  const { scope } = useScope();
  const files = useQuery(exportsQuery);
  return (
    <>
      <PageHead title={say`Files that went out`} about={say`Brought back, only what was changed in them is written`}>
        <Link className="btn btn-sm" to={`/${scope}/gather`}>
          {say`Catalog`}
        </Link>
        <Link className="btn btn-sm btn-primary" to={`/${scope}/gather/imports`}>
          {say`Bring one back`}
        </Link>
      </PageHead>
      <div className="min-h-0 flex-1 overflow-auto border-t border-base-300 p-5">
        <Standing />
        {files.isLoading ? (
          <Loading />
        ) : files.error || !files.data ? (
          <Refused error={files.error} again={() => void files.refetch()} />
        ) : files.data.rows.length === 0 ? (
          <Empty title={say`No file went out yet.`}>
            {tell`In the ${(
              <Link className="underline" to={`/${scope}/gather`}>
                {say`catalog`}
              </Link>
            )}, choose the items and take them out as a file.`}
          </Empty>
        ) : (
          <table className="plain-table panel">
            <thead>
              <tr>
                <th>{say`File`}</th>
                <th className="text-end">{say`Rows`}</th>
                <th className="text-end">{say`Size`}</th>
                <th>{say`Who, when`}</th>
                <th>{say`Came back`}</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {files.data.rows.map((f) => (
                <FileRow key={f.id} file={f} />
              ))}
            </tbody>
          </table>
        )}
      </div>
    </>
  );
}

/** Files that are made by the clock, and when next. */
function Standing() {
  const sets = (useQuery(exportSetsQuery).data?.rows ?? []).filter((s) => s.schedule !== null);
  const client = useQueryClient();
  const stop = useMutation({
    mutationFn: (s: ExportSet) =>
      call(keepExportSet, {
        body: { name: s.name, which: s.which, columns: s.columns, format: s.format, schedule: null },
      }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['exports'] }),
    onError: (e) => toast.error(e.message),
  });
  if (sets.length === 0) return null;
  return (
    <ul className="mb-4 flex flex-col gap-1" aria-label={say`Made by the clock`}>
      {sets.map((s) => (
        <li key={s.id} className="flex flex-wrap items-center gap-2">
          <b>{s.name}</b>
          {tell` is made ${s.schedule && wordSchedule(s.schedule)}`}
          {s.nextAt && <span className="quiet">{tell`next ${when(s.nextAt)}`}</span>}
          <button
            type="button"
            className="btn btn-xs"
            disabled={stop.isPending}
            onClick={() => {
              stop.mutate(s);
            }}
          >
            {say`No more`}
          </button>
        </li>
      ))}
    </ul>
  );
}

function FileRow({ file: f }: { file: ExportShape }) {
  const book = useWideFields(asksListings(f.which) || f.columns.some((c) => readMarketKey(c) !== undefined)),
    { scope, markets } = useScope();
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ queryKey: ['exports'] });
  const again = useMutation({
    mutationFn: () =>
      call(startExport, {
        body: { name: f.name, which: f.which, columns: f.columns.filter((c) => book.get(c)), format: f.format },
      }),
    onSuccess: () => {
      toast.success(say`It is being made anew, as things are now.`);
      void refresh();
    },
    onError: (e) => toast.error(e.message),
  });
  const remove = useMutation({
    mutationFn: () => call(removeExport, { params: { id: f.id } }),
    onSuccess: () => {
      toast.success(say`The file is forgotten. Brought back, it would be read as any other.`);
      void refresh();
    },
    onError: (e) => toast.error(e.message),
  });
  const labels = f.columns.map(book.labelOf);
  return (
    <tr>
      <td className="align-top">
        <div className="font-semibold">
          {f.name} {f.id}
        </div>
        <div className="quiet text-xs">
          {wordWhich(f.which, book, (k) => markets.find((m) => m.key === k)?.name ?? k)}
        </div>
        <div className="quiet max-w-xl truncate text-xs" title={labels.join(', ')}>
          {plural(labels.length, 'column', 'columns')}: {labels.join(', ')}
        </div>
      </td>
      <td className="num text-end align-top">{f.state === 'ready' ? count(f.rows) : ''}</td>
      <td className="num text-end align-top whitespace-nowrap">{f.state === 'ready' ? sizeOf(f.size) : ''}</td>
      <td className="align-top whitespace-nowrap">
        {f.actor}
        <div className="quiet text-xs">{when(f.at)}</div>
      </td>
      <td className="align-top">
        {f.cameBack.length === 0 ? (
          <span className="quiet">{say`not yet`}</span>
        ) : (
          f.cameBack.map((i) => (
            <div key={i.id}>
              <Link
                className="underline decoration-base-300 underline-offset-2"
                to={`/${scope}/gather/imports/${i.id}`}
              >
                {i.name}
              </Link>
            </div>
          ))
        )}
      </td>
      <td className="text-end align-top whitespace-nowrap">
        {f.state === 'ready' ? (
          <a
            className="btn btn-xs btn-primary me-1"
            href={addressOf(downloadExport, { params: { id: f.id } })}
            download
          >
            {say`Download`}
          </a>
        ) : (
          <span className={`me-2 ${f.state === 'failed' ? 'text-error' : 'quiet'}`} role="status">
            {f.state === 'failed' ? say`could not be made` : say`being made …`}
          </span>
        )}
        <button
          type="button"
          className="btn btn-xs me-1"
          disabled={again.isPending}
          onClick={() => {
            again.mutate();
          }}
        >
          {say`Take out again`}
        </button>
        <button
          type="button"
          className="btn btn-xs"
          disabled={remove.isPending || f.state === 'making'}
          onClick={() => {
            remove.mutate();
          }}
        >
          {say`Remove`}
        </button>
      </td>
    </tr>
  );
}
