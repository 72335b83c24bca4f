import {
  type DispatchLine,
  downloadDispatch,
  listDispatchLines,
  patchListings,
  readDispatch,
  resendMended,
  retryDispatch,
  uploadReceipt,
} from '@basileus/contract';
import type { Rulebook } from '@basileus/core/rulebook';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import { addressOf, call } from '../api/call';
import { rulebookQuery, useScope } from '../frame/scope';
import { toGridColumn } from '../prepare/columns';
import { ListingEditor } from '../prepare/ListingEditor';
import { toCellText, toCellValue } from '../table/columns';
import { Empty, Loading, PageHead, Refused, Views } from '../ui/faces';
import { count, plural, shown, when } from '../ui/text';
import { useUrlValue } from '../ui/url';
import { dispatchWords } from './SettlePage';

/** One dispatch: how it fares, the answer line by line, refused fields lit and mended where they stand. */
export function DispatchPage() {
  const { id = '0' } = useParams();
  const { scope } = useScope();
  const client = useQueryClient(),
    navigate = useNavigate();
  const [show, setShow] = useUrlValue('show'),
    [openId, setOpenId] = useState<number | undefined>();
  const params = { id: Number(id) };
  const dispatch = useQuery({
    queryKey: ['dispatches', 'one', Number(id)],
    queryFn: () => call(readDispatch, { params }),
  });
  const lines = useQuery({
    queryKey: ['dispatches', 'lines', Number(id), show],
    queryFn: () => call(listDispatchLines, { params, query: { state: show as '', limit: 500 } }),
  });
  const rulebook = useQuery(rulebookQuery(dispatch.data?.market ?? '')).data;
  const refresh = () => {
    void client.invalidateQueries({ queryKey: ['dispatches'] });
    void client.invalidateQueries({ queryKey: ['listings'] });
    void client.invalidateQueries({ queryKey: ['overview'] });
  };
  const resend = useMutation({
    mutationFn: () => call(resendMended, { params, body: { key: crypto.randomUUID() } }),
    onSuccess: (r) => {
      toast.success(`${plural(r.dispatch.total, 'mended line is', 'mended lines are')} on the way.`);
      refresh();
      void navigate(`/${scope}/settle/${r.dispatch.id}`);
    },
    onError: (e) => toast.error(e.message),
  });
  const retry = useMutation({
    mutationFn: () => call(retryDispatch, { params }),
    onSuccess: refresh,
    onError: (e) => toast.error(e.message),
  });
  const receipt = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append('file', file);
      return call(uploadReceipt, { params, form });
    },
    onSuccess: refresh,
    onError: (e) => toast.error(e.message),
  });
  if (dispatch.isLoading) return <Loading />;
  if (dispatch.error || !dispatch.data) return <Refused error={dispatch.error} />;
  const d = dispatch.data;
  const isWaiting = d.state === 'sending' || d.state === 'sent';
  return (
    <>
      <PageHead
        title={`Dispatch No. ${d.id}: ${d.operation}`}
        about={
          <span role="status">
            {dispatchWords[d.state]} · {plural(d.total, 'row', 'rows')}
            {d.ticket && (
              <>
                {' '}
                · ticket <span className="num">{d.ticket}</span>
              </>
            )}
            {d.answeredAt && <> · answered {when(d.answeredAt)}</>}
            {d.attempts > 1 && <> · {d.attempts} tries</>}
          </span>
        }
      >
        <Link className="btn btn-sm" to={`/${scope}/settle`}>
          All dispatches
        </Link>
        <a className="btn btn-sm" href={addressOf(downloadDispatch, { params })}>
          The file
        </a>
        {(d.state === 'by hand' || d.state === 'sent') && (
          <label className="btn btn-sm">
            Give its receipt
            <input
              type="file"
              className="sr-only"
              aria-label="Receipt file"
              onChange={(e) => {
                const f = e.target.files?.[0];
                if (f) receipt.mutate(f);
              }}
            />
          </label>
        )}
        {d.state === 'failed' && (
          <button
            type="button"
            className="btn btn-sm btn-primary"
            onClick={() => {
              retry.mutate();
            }}
          >
            Try again
          </button>
        )}
        {d.refused > 0 && (
          <button
            type="button"
            className="btn btn-sm btn-primary"
            disabled={d.mended === 0 || resend.isPending}
            onClick={() => {
              resend.mutate();
            }}
          >
            Send {plural(d.mended, 'mended line', 'mended lines')}
          </button>
        )}
      </PageHead>
      {d.fault && (
        <div role="alert" className="mx-5 mb-3 border-l-4 border-warning bg-base-100 px-4 py-2">
          {d.fault}
        </div>
      )}
      {isWaiting && (
        <div className="px-5 pb-3">
          <progress className="progress progress-primary w-full" aria-label="The market is at work" />
        </div>
      )}
      <Views
        label="Lines by answer"
        now={show}
        onChoose={setShow}
        views={[
          { key: '', label: 'All', count: d.total },
          { key: 'refused', label: 'Refused', count: d.refused },
          { key: 'remarked', label: 'With a remark', count: d.remarked },
          { key: 'accepted', label: 'Accepted', count: d.accepted },
        ]}
      />
      {lines.isLoading ? (
        <Loading />
      ) : lines.error ? (
        <Refused error={lines.error} />
      ) : lines.data!.rows.length === 0 ? (
        <Empty title="No line of this kind." />
      ) : (
        <div className="overflow-auto p-5">
          <table className="plain-table panel">
            <thead>
              <tr>
                <th className="text-right">Line</th>
                <th>SKU</th>
                <th>Answer</th>
                <th>What was sent, and what the market says</th>
                <th>Field</th>
                <th />
              </tr>
            </thead>
            <tbody>
              {lines.data!.rows.map((l) => (
                <Line
                  key={l.line}
                  line={l}
                  market={d.market}
                  rulebook={rulebook}
                  onOpen={() => {
                    setOpenId(l.listingId);
                  }}
                  onSaved={refresh}
                />
              ))}
            </tbody>
          </table>
          {lines.data!.total > 500 && (
            <p className="p-3 quiet">
              The first 500 of {count(lines.data!.total)} lines are shown; refused ones come first.
            </p>
          )}
        </div>
      )}
      {openId !== undefined && rulebook && (
        <ListingEditor
          market={d.market}
          id={openId}
          rulebook={rulebook}
          onClose={() => {
            setOpenId(undefined);
            refresh();
          }}
        />
      )}
    </>
  );
}

const answers: Record<DispatchLine['state'], [string, string]> = {
  waiting: ['waits', 'quiet'],
  accepted: ['accepted', 'text-success'],
  remarked: ['with a remark', 'text-secondary'],
  refused: ['refused', 'text-error'],
  lost: ['not answered', 'text-error'],
};

function Line({
  line: l,
  market,
  rulebook,
  onOpen,
  onSaved,
}: {
  line: DispatchLine;
  market: string;
  rulebook: Rulebook | undefined;
  onOpen: () => void;
  onSaved: () => void;
}) {
  const attribute = rulebook?.attributes.find((a) => a.key === l.field);
  const column = rulebook && attribute ? toGridColumn(rulebook, attribute, undefined) : undefined;
  const save = useMutation({
    mutationFn: (after: ReturnType<typeof toCellValue>) =>
      call(patchListings, {
        params: { market },
        body: {
          title: `Mended after a refusal: ${l.fieldLabel}`,
          cells: [{ id: l.listingId, field: l.field, before: l.current, after }],
        },
      }),
    onSuccess: onSaved,
    onError: (e) => toast.error(e.message),
  });
  const text = column ? toCellText(column, l.current) : shown(l.current);
  const [word, tone] = answers[l.state];
  const label = `${l.fieldLabel} of ${l.sku}`;
  const isOpen = l.state === 'refused' && column !== undefined;
  return (
    <tr className={l.state === 'refused' && !l.mended ? 'bg-error/5' : ''}>
      <td className="num text-right quiet">{l.line}</td>
      <td className="num whitespace-nowrap">{l.sku}</td>
      <td className={tone}>
        {word}
        {l.mended && <span className="block text-success">mended</span>}
      </td>
      <td>
        {l.says === '' &&
          l.differences.length > 0 &&
          l.differences.length < 6 &&
          l.differences.map((x) => (
            <div key={x.field} className="quiet">
              {rulebook?.attributes.find((a) => a.key === x.field)?.label ?? x.field}:{' '}
              <del>{shown(x.before).slice(0, 60) || '(empty)'}</del> → {shown(x.after).slice(0, 60) || '(empty)'}
            </div>
          ))}
        {l.says}
        {l.code && <span className="num quiet"> {l.code}</span>}
        {l.remedy && <span className="block quiet">{l.remedy}</span>}
      </td>
      <td>
        {isOpen ? (
          <div className={`flex flex-col gap-0.5 ${l.mended ? '' : 'rounded border border-error p-1'}`}>
            <span className="text-[12px]">{l.fieldLabel}</span>
            {column.kind === 'choice' || column.kind === 'yes-no' ? (
              <select
                className="select select-sm w-48"
                aria-label={label}
                value={typeof l.current === 'string' ? l.current : ''}
                disabled={save.isPending}
                onChange={(e) => {
                  save.mutate(e.target.value || null);
                }}
              >
                <option value="" />
                {column.options?.map((o) => (
                  <option key={o.code} value={o.code}>
                    {o.label}
                  </option>
                ))}
              </select>
            ) : (
              <input
                className="input input-sm w-56"
                aria-label={label}
                key={text}
                defaultValue={text}
                disabled={save.isPending}
                onKeyDown={(e) => {
                  if (e.key === 'Enter') e.currentTarget.blur();
                }}
                onBlur={(e) => {
                  if (e.target.value !== text) save.mutate(toCellValue(column, e.target.value));
                }}
              />
            )}
          </div>
        ) : (
          l.fieldLabel
        )}
      </td>
      <td>
        <button type="button" className="btn btn-xs" onClick={onOpen}>
          Open
        </button>
      </td>
    </tr>
  );
}
