import { categoryCheck, entryCheck, saysEmpty } from '@basileus/core/checks';
import { canBeAlike, listAxes, listRelated } from '@basileus/core/rulebook';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useMemo, useRef, useState } from 'react';
import { Link } from 'react-router';
import { rulebookQuery } from '../frame/scope';
import { addMargin, columnsFor, toGridColumn } from '../prepare/columns';
import { ListingEditor } from '../prepare/ListingEditor';
import { ListingsTable, type Neighbour } from '../prepare/ListingsTable';
import type { GridColumn } from '../table/columns';
import { Empty } from '../ui/faces';
import { CauseFill } from './CauseFill';
import type { WordedCause } from './cause';
import type { CauseFilter } from './queries';
import { ReadTexts } from './ReadTexts';
import { RemedyPreview } from './RemedyPreview';
import { say } from '../ui/text';
import { tell } from '../ui/tell';

/** One cause: why it matters, a mend for all of its rows, and the table of just these. */
export function CausePane({ cause, market, filter }: { cause: WordedCause; market: string; filter: CauseFilter }) {
  const client = useQueryClient();
  const rulebook = useQuery(rulebookQuery(market)).data;
  const [asked, setAsked] = useState(false),
    [openId, setOpenId] = useState<number | undefined>(),
    [chosenRows, setChosenRows] = useState<readonly string[]>([]);
  const selected = useMemo(() => chosenRows.map(Number), [chosenRows]);
  const attribute = rulebook?.attributes.find((a) => a.key === cause.field);
  const column = rulebook && attribute ? toGridColumn(rulebook, attribute, undefined) : undefined;
  const columns = useMemo<GridColumn[]>(() => {
    if (!rulebook) return [];
    const all = columnsFor(
      rulebook,
      rulebook.tree.filter((n) => n.takesItems).map((n) => n.key),
      'all',
    );
    const keys = [cause.field, ...listRelated(rulebook, cause.check, listAxes(rulebook)), rulebook.roles.title];
    const shown = keys.flatMap((k, i) => (keys.indexOf(k) === i ? all.filter((c) => c.key === k) : []));
    return addMargin(
      shown.map((c) => ({ ...c, level: undefined })),
      rulebook,
    );
  }, [rulebook, cause.field, cause.check]);
  const query = useMemo(
    () => ({ ...filter, search: '', check: cause.check, message: cause.message, field: cause.field }),
    [cause.check, cause.message, cause.field, filter],
  );
  const neighbour = useRef<Neighbour>(undefined);
  const done = () => {
    setAsked(false);
    void client.invalidateQueries({ queryKey: ['listings'] });
    void client.invalidateQueries({ queryKey: ['overview'] });
  };
  return (
    <section aria-label={cause.title} className="flex min-h-0 min-w-0 flex-col">
      <div className="flex flex-wrap items-start gap-x-3 gap-y-2 px-4 py-3">
        <div className="min-w-0 flex-[1_1_20rem]">
          <h2 className="text-lg">{cause.title}</h2>
          <p className="text-sm">
            <span className="num">{cause.example.sku}</span>
            {tell`, for example: ${cause.says}`}
          </p>
          <p className="text-xs quiet">
            {cause.why}
            {cause.source && ` (${cause.source})`}
          </p>
        </div>
        {rulebook && column && attribute && cause.count > 0 && canBeAlike(rulebook, attribute) && (
          <CauseFill
            cause={cause}
            market={market}
            attribute={attribute}
            column={column}
            rows={cause.count}
            selected={selected}
            onDone={done}
          />
        )}
        {cause.count > 0 && cause.safe + cause.likely > 0 && (
          <button
            type="button"
            className="btn btn-sm btn-primary"
            onClick={() => {
              setAsked(true);
            }}
          >
            {say`Remedy …`}
          </button>
        )}
        {saysEmpty(cause) && rulebook && attribute && cause.count > 0 && (
          <ReadTexts rulebook={rulebook} attribute={attribute} cause={cause} />
        )}
        {cause.check === categoryCheck && (
          <Link className="btn btn-sm btn-primary" to={`/${market}/prepare?view=categories`}>
            {say`Choose categories`}
          </Link>
        )}
        {cause.check === entryCheck && (
          <Link
            className="btn btn-sm btn-primary"
            to={`/${market}/prepare?view=look-up${cause.message === 'there' ? '' : '&entries=joined'}`}
          >
            {say`Decide`}
          </Link>
        )}
      </div>
      <div className="flex min-h-0 flex-1 flex-col border-t border-base-300">
        <ListingsTable
          market={market}
          query={query}
          columns={columns}
          keepsMended
          label={cause.title}
          onOpen={(l, find) => {
            neighbour.current = find;
            setOpenId(l.id);
          }}
          onSelect={setChosenRows}
          empty={<Empty title={say`No listing has this finding.`} />}
        />
      </div>
      {asked && (
        <RemedyPreview
          cause={cause}
          market={market}
          onClose={() => {
            setAsked(false);
          }}
          onDone={done}
        />
      )}
      {openId !== undefined && rulebook && (
        <ListingEditor
          market={market}
          key={openId}
          id={openId}
          rulebook={rulebook}
          onStep={(by) => {
            void neighbour.current?.(openId, by).then((next) => {
              if (next !== undefined) setOpenId(next);
            });
          }}
          onClose={() => {
            setOpenId(undefined);
          }}
        />
      )}
    </section>
  );
}
