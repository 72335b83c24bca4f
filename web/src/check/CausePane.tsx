import { applyRemedies, type Cause } from '@basileus/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { call } from '../api/call';
import { rulebookQuery } from '../frame/scope';
import { columnsFor, toGridColumn } from '../prepare/columns';
import { ListingEditor } from '../prepare/ListingEditor';
import { ListingsTable } from '../prepare/ListingsTable';
import type { GridColumn } from '../table/columns';
import { FillForm } from '../table/FillForm';
import { Empty } from '../ui/faces';
import { plural } from '../ui/text';
import { hasMechanical, relatedFields } from './cause';
import { RemedyPreview } from './RemedyPreview';

/** One cause: why it matters, a mend for all of its rows, and the table of just these. */
export function CausePane({ cause, market }: { cause: Cause; market: string }) {
  const client = useQueryClient();
  const rulebook = useQuery(rulebookQuery(market)).data;
  const [asked, setAsked] = useState(false),
    [openId, setOpenId] = useState<number | undefined>();
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
          <FillForm
            column={column}
            rows={cause.count}
            example={attribute?.example}
            isBusy={mend.isPending}
            onFill={(value) => {
              mend.mutate({ fill: typeof value === 'string' ? value : [...value] });
            }}
          />
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
