import {
  applyImport,
  changeImport,
  discardImport,
  downloadRefused,
  type ImportReadingShape,
  type ImportShape,
  takeAsNew,
  timeImport,
} from '@basileus/contract';
import { keepKnownBy } from '@basileus/core/sheet';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { addressOf, call } from '../api/call';
import { useScope } from '../frame/scope';
import { Loading, PageHead, Refused } from '../ui/faces';
import { plural, sizeOf, say, when } from '../ui/text';
import { AlsoSheets } from './AlsoSheets';
import { ComesBack } from './ComesBack';
import { CutTexts } from './CutTexts';
import { ImportRows } from './ImportRows';
import { wordState } from './ImportsPage';
import { ImportTotals } from './ImportTotals';
import { Novelties } from './Novelties';
import { Understood } from './Understood';
import { Unread } from './Unread';
import { WriteLater } from './WriteLater';
import { importQuery } from './queries';
import { FileNotice } from './FileNotice';

/** One import: what was understood, what it would do row by row, and the writing of it. */
export function ImportPage() {
  const { id = '0' } = useParams();
  const { scope } = useScope();
  const client = useQueryClient(),
    navigate = useNavigate();
  const params = { id: Number(id) };
  const { data, error, isLoading } = useQuery(importQuery(Number(id)));
  const put = (next: ImportShape) => {
    client.setQueryData(importQuery(Number(id)).queryKey, next);
    void client.invalidateQueries({ queryKey: ['imports'] });
  };
  const change = useMutation({
    mutationFn: (body: ImportReadingShape) => call(changeImport, { params, body }),
    onSuccess: put,
  });
  const asNew = useMutation({ mutationFn: () => call(takeAsNew, { params }), onSuccess: put });
  const apply = useMutation({
    mutationFn: () => call(applyImport, { params }),
    onSettled: () => void client.invalidateQueries({ queryKey: ['imports'] }),
  });
  const notTimed = useMutation({
    mutationFn: () => call(timeImport, { params, body: { at: null } }),
    onSuccess: put,
  });
  const [isTiming, setTiming] = useState(false);
  const discard = useMutation({
    mutationFn: () => call(discardImport, { params }),
    onSuccess: () => void navigate(`/${scope}/gather/imports`),
  });
  if (isLoading) return <Loading />;
  if (error || !data) return <Refused error={error} />;
  const isOpen = data.state === 'planned' || data.state === 'planning' || data.state === 'failed';
  const { reading, counts } = data;
  const set = (part: Partial<ImportReadingShape>) => {
    const next = { ...reading, ...part };
    change.mutate({ ...next, knownBy: keepKnownBy(next.knownBy, next.columns) });
  };
  const writes = counts.create + counts.update;
  return (
    <>
      <PageHead
        title={data.name}
        about={
          <>
            {sizeOf(data.size)} · <span role="status">{wordState(data)}</span>
          </>
        }
      >
        {counts.refuse > 0 && (
          <a className="btn btn-sm" href={addressOf(downloadRefused, { params })}>
            {say`Refused rows as a file`}
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
            {say`Discard`}
          </button>
        )}
        {data.state === 'planned' && reading.decimalSign !== 'undetermined' && (
          <button
            type="button"
            className="btn btn-sm"
            onClick={() => {
              setTiming(true);
            }}
          >
            {say`At a time …`}
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
            {writes === 0 ? say`Nothing to write` : say`Write ${plural(writes, 'row', 'rows')}`}
          </button>
        )}
        {data.state === 'applied' && (
          <Link className="btn btn-sm btn-primary" to={`/${scope}/gather?import=${data.id}`}>
            {say`See the catalog`}
          </Link>
        )}
      </PageHead>
      {(change.error ?? apply.error ?? notTimed.error) && (
        <Refused error={change.error ?? apply.error ?? notTimed.error} />
      )}
      {data.due && isOpen && (
        <FileNotice tone="primary">
          <span>{say`It is written at ${when(data.due.at)}, against the catalog as it is then, by the word of ${data.due.by}.`}</span>
          <button
            type="button"
            className="btn btn-xs"
            disabled={notTimed.isPending}
            onClick={() => {
              notTimed.mutate();
            }}
          >
            {say`Take the time away`}
          </button>
        </FileNotice>
      )}
      {isTiming && (
        <WriteLater
          data={data}
          onSet={put}
          onClose={() => {
            setTiming(false);
          }}
        />
      )}
      {data.baseline && (
        <ComesBack
          data={data}
          isOpen={isOpen}
          isBusy={asNew.isPending}
          onAsNew={() => {
            asNew.mutate();
          }}
        />
      )}
      {data.fault && <FileNotice tone="error">{data.fault}</FileNotice>}
      {reading.decimalSign === 'undetermined' && (
        <FileNotice tone="warning">
          {say`The prices of this file can be read in two ways. Say which decimal sign it uses before it is written.`}
        </FileNotice>
      )}
      {isOpen && counts.otherSign > 0 && counts.eitherSign > 0 && (
        <FileNotice tone="warning">
          {say`${plural(counts.otherSign, 'row holds', 'rows hold')} a number that only the other decimal sign can read, and ${plural(counts.eitherSign, 'row', 'rows')} one such as 1.299, which is a little more than one or a thousand and more. Look whether the sign is right before it is written.`}
        </FileNotice>
      )}
      {data.state === 'planned' && counts.barcodes > 0 && (
        <FileNotice tone="warning">
          <span>{say`${plural(counts.barcodes, 'row would be a new item', 'rows would be new items')} with the barcode of one that is there under another SKU.`}</span>
          <button
            type="button"
            className="btn btn-xs"
            disabled={change.isPending}
            onClick={() => {
              set({ knownBy: 'gtin' });
            }}
          >
            {say`Know all rows by their barcode`}
          </button>
        </FileNotice>
      )}
      {data.state === 'planned' && <AlsoSheets data={data} set={set} isBusy={change.isPending} />}
      {data.state === 'planned' && <CutTexts data={data} set={set} isBusy={change.isPending} />}
      <div className="grid min-h-0 flex-1 auto-rows-max gap-4 overflow-auto px-5 pb-3 xl:auto-rows-auto xl:grid-cols-2 xl:overflow-hidden">
        {isOpen && <Understood data={data} set={set} isBusy={change.isPending} />}
        <div className={`flex min-h-0 min-w-0 flex-col gap-4 xl:overflow-auto ${isOpen ? '' : 'xl:col-span-2'}`}>
          <ImportTotals data={data} />
          {data.state === 'planned' && <Unread data={data} set={set} isBusy={change.isPending} />}
          <Novelties data={data} set={data.state === 'planned' ? set : undefined} isBusy={change.isPending} />
          <ImportRows key={data.counts.rows} data={data} />
        </div>
      </div>
    </>
  );
}
