// The faces every page has: loading, empty, refused.
import type { ReactNode } from 'react';
import { CallError } from '../api/call';
import { count, say } from './text';

export const Loading = ({ what = say`Loading` }: { what?: string }) => (
  <div className="said-late flex items-center gap-3 p-6 quiet" role="status">
    <span className="loading loading-bars loading-sm" aria-hidden="true" />
    {what} …
  </div>
);

/** An empty screen says what to do next and offers it. */
export const Empty = ({ title, children }: { title: string; children?: ReactNode }) => (
  <div className="mx-auto max-w-lg p-10 text-center">
    <p className="font-serif text-lg">{title}</p>
    <div className="mt-2 quiet">{children}</div>
  </div>
);

export function Refused({ error, again }: { error: unknown; again?: () => void }) {
  const body = error instanceof CallError ? error.body : undefined;
  return (
    <div role="alert" className="m-4 border-s-4 border-error bg-base-100 px-4 py-3">
      <p className="font-semibold">{body?.message ?? say`Something went wrong in this page.`}</p>
      <p className="quiet">{body?.remedy ?? say`Load the page again.`}</p>
      {again && (
        <button type="button" className="btn btn-sm mt-2" onClick={again}>
          {say`Try again`}
        </button>
      )}
    </div>
  );
}

/** Title line of a page with its actions. */
export const PageHead = ({ title, about, children }: { title: string; about?: ReactNode; children?: ReactNode }) => (
  <div className="flex flex-wrap items-end gap-x-4 gap-y-2 px-5 pt-4 pb-3">
    <div className="min-w-0">
      <h1 className="text-xl leading-tight">{title}</h1>
      {about && <div className="quiet text-sm">{about}</div>}
    </div>
    <div className="ms-auto flex flex-wrap items-center gap-2">{children}</div>
  </div>
);

/** Views within a page, held in the address. */
export function Views({
  views,
  now,
  onChoose,
  label,
}: {
  views: { key: string; label: string; count?: number | undefined }[];
  now: string;
  onChoose: (key: string) => void;
  label: string;
}) {
  return (
    <div role="tablist" aria-label={label} className="flex gap-5 border-b border-base-300 px-5">
      {views.map((v) => (
        <button
          key={v.key}
          type="button"
          role="tab"
          aria-selected={v.key === now}
          onClick={() => {
            onChoose(v.key);
          }}
          className={`-mb-px border-b-2 px-0.5 py-1.5 ${v.key === now ? 'border-primary font-semibold' : 'border-transparent quiet hover:border-base-300'}`}
        >
          {v.label} {v.count !== undefined && <span className="num ms-0.5 quiet">{count(v.count)}</span>}
        </button>
      ))}
    </div>
  );
}
