import { downloadDispatch, resendMended, retryDispatch, uploadReceipt } from '@basileus/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams, useSearchParams } from 'react-router';
import { toast } from '../ui/messages';
import { addressOf, call } from '../api/call';
import { rulebookQuery, useScope } from '../frame/scope';
import { ListingEditor } from '../prepare/ListingEditor';
import { Empty, Loading, PageHead, Refused, Views } from '../ui/faces';
import { Pager } from '../ui/Pager';
import { plural, when, say } from '../ui/text';
import { useUrlValue } from '../ui/url';
import { DispatchLineRow } from './DispatchLineRow';
import { DispatchEnds } from './DispatchEnds';
import { dispatchWords } from './DispatchList';
import { RefusalCauses } from './RefusalCauses';
import { Retry } from './Retry';
import { dispatchQuery, linesOnPage, linesQuery } from './queries';
import { FileButton } from '../ui/FileButton';
import { tell } from '../ui/tell';
import { operationNames } from '../ui/terms';

/** One dispatch: how it fares, the answer line by line, refused fields lit and mended where they stand. */
export function DispatchPage() {
  const { id = '0' } = useParams();
  const { scope } = useScope();
  const client = useQueryClient(),
    navigate = useNavigate();
  const [show] = useUrlValue('show'),
    [from, setFrom] = useUrlValue('from', '0'),
    [search, setSearch] = useSearchParams(),
    [openId, setOpenId] = useState<number | undefined>();
  const params = { id: Number(id) };
  const offset = Number(from) || 0;
  const cause = search.get('cause') ?? '';
  const dispatch = useQuery(dispatchQuery(Number(id)));
  const lines = useQuery(linesQuery(Number(id), show, cause, offset));
  const rulebook = useQuery(rulebookQuery(dispatch.data?.market ?? '')).data;
  const refresh = () => {
    void client.invalidateQueries({ queryKey: ['dispatches'] });
    void client.invalidateQueries({ queryKey: ['listings'] });
    void client.invalidateQueries({ queryKey: ['overview'] });
  };
  const resend = useMutation({
    mutationFn: () => call(resendMended, { params, body: { key: crypto.randomUUID() } }),
    onSuccess: (r) => {
      toast.success(say`${plural(r.dispatch.total, 'mended line is', 'mended lines are')} on the way.`);
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
  const choose = (view: string) => {
    setSearch(view === '' ? {} : { show: view }, { replace: true });
  };
  if (dispatch.isLoading) return <Loading />;
  if (dispatch.error || !dispatch.data) return <Refused error={dispatch.error} />;
  const d = dispatch.data;
  const isWaiting = d.state === 'sending' || d.state === 'sent';
  return (
    <>
      <PageHead
        title={say`Dispatch No. ${d.id}: ${operationNames[d.operation]}`}
        about={
          <span role="status">
            {dispatchWords[d.state]} · {plural(d.total, 'row', 'rows')}
            {d.parts > 1 && say` · file ${d.part} of ${d.parts}`}
            {d.ticket && (
              <>
                {' '}
                {say`· ticket `}
                <span className="num">{d.ticket}</span>
              </>
            )}
            {d.answeredAt && <>{tell` · answered ${when(d.answeredAt)}`}</>}
            {d.attempts > 1 && <>{tell` · ${d.attempts} tries`}</>}
          </span>
        }
      >
        <Link className="btn btn-sm" to={`/${scope}/settle`}>
          {say`All dispatches`}
        </Link>
        <a className="btn btn-sm" href={addressOf(downloadDispatch, { params })}>
          {say`The file`}
        </a>
        {(d.state === 'by hand' || d.state === 'sent') && (
          <FileButton
            label={say`Receipt file`}
            onFiles={(f) => {
              receipt.mutate(f);
            }}
          >
            {say`Give its receipt`}
          </FileButton>
        )}
        <DispatchEnds dispatch={d} onDone={refresh} />
        {d.state === 'failed' && (
          <button
            type="button"
            className="btn btn-sm btn-primary"
            onClick={() => {
              retry.mutate();
            }}
          >
            {say`Try again`}
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
            {d.mended === 0 ? say`Send mended lines` : say`Send ${plural(d.mended, 'mended line', 'mended lines')}`}
          </button>
        )}
      </PageHead>
      {d.fault && (
        <div className="mx-5 mb-3 border-s-4 border-warning bg-base-100 px-4 py-2">
          <span role="alert">{d.fault}</span> {d.retry && <Retry {...d.retry} />}
        </div>
      )}
      {isWaiting && (
        <div className="px-5 pb-3">
          <progress className="progress progress-primary w-full" aria-label={say`The market is at work`} />
        </div>
      )}
      <Views
        label={say`Lines by answer`}
        now={cause ? 'refused' : show}
        onChoose={choose}
        views={[
          { key: '', label: say`All`, count: d.total },
          { key: 'refused', label: say`Refused`, count: d.refused },
          { key: 'remarked', label: say`With a remark`, count: d.remarked },
          { key: 'accepted', label: say`Accepted`, count: d.accepted },
        ]}
      />
      <div className="min-h-0 flex-1 overflow-auto">
        {d.refused > 0 && (show === '' || show === 'refused' || cause !== '') && (
          <RefusalCauses
            dispatch={d}
            rulebook={rulebook}
            chosen={cause}
            onChoose={(key) => {
              setSearch(key === '' ? { show: 'refused' } : { cause: key }, { replace: true });
            }}
            onMended={refresh}
          />
        )}
        {lines.isLoading ? (
          <Loading />
        ) : lines.error ? (
          <Refused error={lines.error} />
        ) : lines.data!.rows.length === 0 ? (
          <Empty title={say`No line of this kind.`} />
        ) : (
          <div className="p-5">
            <table className="plain-table panel">
              <thead>
                <tr>
                  <th className="text-end">{say`Line`}</th>
                  <th>SKU</th>
                  <th>{say`Answer`}</th>
                  <th>{say`What was sent, and what the market says`}</th>
                  <th>{say`Field`}</th>
                </tr>
              </thead>
              <tbody>
                {lines.data!.rows.map((l) => (
                  <DispatchLineRow
                    key={l.line}
                    line={l}
                    market={d.market}
                    rulebook={rulebook}
                    onOpen={setOpenId}
                    onSaved={refresh}
                  />
                ))}
              </tbody>
            </table>
            <Pager
              offset={offset}
              size={linesOnPage}
              total={lines.data!.total}
              onGo={(to) => {
                setFrom(String(to));
              }}
            />
          </div>
        )}
      </div>
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
