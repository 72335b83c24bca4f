import type { Sureness } from '@basileus/contract';
import type { Rulebook } from '@basileus/core/rulebook';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Loading, Refused } from '../ui/faces';
import { Pager } from '../ui/Pager';
import { plural, say } from '../ui/text';
import { CategoryPicker } from './CategoryPicker';
import { surenessWords, wordLeafReason } from './leaf-reason';
import { isSureEnough } from './placing';
import { placedItemsQuery, placedOnPage } from './queries';

/** Items that are thought to belong to one category, each to be left out or given another. */
export function PlacedItems({
  rulebook,
  asked,
  least,
  except,
  onTurn,
  onChoose,
}: {
  rulebook: Rulebook;
  asked: { market: string; own: string | undefined; leaf: string };
  /** What is less sure is not taken. */
  least: Sureness;
  except: ReadonlySet<number>;
  onTurn: (id: number) => void;
  onChoose: (listing: number, category: string) => void;
}) {
  const [offset, setOffset] = useState(0);
  const [picking, setPicking] = useState<number | undefined>();
  const { data, error } = useQuery(placedItemsQuery(asked, offset));
  if (error) return <Refused error={error} />;
  if (!data) return <Loading />;
  const picked = data.rows.find((r) => r.id === picking);
  return (
    <>
      <ul aria-label={say`Items`} className="divide-y divide-base-300">
        {data.rows.map((r) => (
          <li key={r.id} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-1 pe-3">
            {asked.leaf !== '' && (
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                aria-label={r.sku}
                disabled={!isSureEnough(r.sureness, least)}
                checked={isSureEnough(r.sureness, least) && !except.has(r.id)}
                onChange={() => {
                  onTurn(r.id);
                }}
              />
            )}
            <span className="num w-36 shrink-0 truncate">{r.sku}</span>
            <span className="min-w-0 flex-[1_1_16rem]">
              {r.title}
              {r.items > 1 && <span className="quiet"> {say`with ${plural(r.items - 1, 'variant', 'variants')}`}</span>}
            </span>
            {r.own !== '' && <span className="quiet">{r.own}</span>}
            <span className="flex-[1_1_14rem] text-xs quiet">
              {r.sureness !== null && `${surenessWords[r.sureness]}: ${wordLeafReason(r.reason, r.own)}`}
            </span>
            <button
              type="button"
              className="btn btn-xs"
              aria-label={say`Choose another category for ${r.sku}`}
              onClick={() => {
                setPicking(r.id);
              }}
            >
              {say`Choose …`}
            </button>
          </li>
        ))}
      </ul>
      <Pager offset={offset} size={placedOnPage} total={data.total} onGo={setOffset} />
      {picked && (
        <CategoryPicker
          rulebook={rulebook}
          title={say`Category for “${picked.title}”`}
          proposals={picked.others.map((o) => ({ ...o, reason: '' }))}
          recent={[]}
          onClose={() => {
            setPicking(undefined);
          }}
          onChoose={(category) => {
            setPicking(undefined);
            onChoose(picked.listing, category);
          }}
        />
      )}
    </>
  );
}
