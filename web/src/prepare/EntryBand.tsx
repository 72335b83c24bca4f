import type { ListingRow } from '@basileus/contract';
import { createLabeler, type Rulebook } from '@basileus/core/rulebook';
import { useJudgeEntries } from './EntriesThere';
import { wordFact } from './facts';
import { say } from '../ui/text';

/** Above the fields of a listing: the entry that the market has of the item, with what it says. That is the market's to say. */
export function EntryBand({ listing, rulebook }: { listing: ListingRow; rulebook: Rulebook }) {
  const { key, name } = rulebook.market;
  const judge = useJudgeEntries(key, name);
  const { entry } = listing;
  if (!entry || entry.is === 'other') return null;
  const labelOf = createLabeler(rulebook);
  const isJoined = entry.is === 'joined';
  return (
    <div className="border-b border-base-300 bg-base-200 px-5 py-2" aria-label={say`Entry of the market`} role="group">
      <p>
        {isJoined ? say`Goes as an offer on entry ` : say`${name} has it already: entry `}
        <span className="num">{entry.number}</span>, “{entry.title}”.
      </p>
      <dl className="quiet mt-1 flex flex-wrap gap-x-4 text-sm">
        {Object.entries(entry.facts).map(([field, value]) => (
          <div key={field} className="flex gap-1">
            <dt>{labelOf(field)}:</dt>
            <dd>{wordFact(rulebook, field, value)}</dd>
          </div>
        ))}
      </dl>
      <div className="mt-2 flex gap-2">
        {!isJoined && (
          <button
            type="button"
            className="btn btn-primary btn-xs"
            disabled={judge.isPending}
            onClick={() => {
              judge.mutate({ ids: [listing.id], is: 'joined' });
            }}
          >
            {say`Join it`}
          </button>
        )}
        {listing.number === null && (
          <button
            type="button"
            className="btn btn-xs"
            disabled={judge.isPending}
            onClick={() => {
              judge.mutate({ ids: [listing.id], is: 'other' });
            }}
          >
            {say`It is another item`}
          </button>
        )}
      </div>
    </div>
  );
}
