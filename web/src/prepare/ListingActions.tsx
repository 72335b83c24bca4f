// What can be done with the chosen listings.
import { canAsk } from '@basileus/core/forms';
import type { Rulebook } from '@basileus/core/rulebook';
import { useNavigate } from 'react-router';

/** Listings that are chosen one by one travel in the address. */
const mostByAddress = 500;

interface Props {
  market: string;
  rulebook: Rulebook;
  selected: readonly string[];
  isBusy: boolean;
  onPick: () => void;
  onWithdraw: () => void;
  onWish: (wish: 'restore' | 'keep') => void;
  onOpen: (id: string) => void;
}

export function ListingActions({ market, rulebook, selected, isBusy, onPick, onWithdraw, onWish, onOpen }: Props) {
  const navigate = useNavigate();
  const none = selected.length === 0;
  return (
    <div className="ml-auto flex gap-2">
      <button
        type="button"
        className="btn btn-sm"
        disabled={none}
        aria-label="Put into a category …"
        onClick={() => {
          onPick();
        }}
      >
        Category …
      </button>
      <button
        type="button"
        className="btn btn-sm"
        disabled={none || isBusy}
        onClick={() => {
          onWithdraw();
        }}
      >
        Withdraw …
      </button>
      {canAsk(rulebook, 'restore') && (
        <button
          type="button"
          className="btn btn-sm"
          disabled={none || isBusy}
          onClick={() => {
            onWish('restore');
          }}
        >
          Restore
        </button>
      )}
      <button
        type="button"
        className="btn btn-sm"
        title="Takes the wish to withdraw or restore back, as long as it has not been sent"
        disabled={none || isBusy}
        onClick={() => {
          onWish('keep');
        }}
      >
        Keep
      </button>
      <button
        type="button"
        className="btn btn-sm"
        disabled={selected.length === 0 || selected.length > mostByAddress}
        title={
          selected.length > mostByAddress
            ? `${mostByAddress} at the most are chosen one by one; take a brand or an own category under Send.`
            : undefined
        }
        onClick={() => {
          void navigate(`/${market}/send?ids=${selected.join(',')}`);
        }}
      >
        Send these
      </button>
      <button
        type="button"
        className="btn btn-sm"
        disabled={selected.length !== 1}
        onClick={() => {
          onOpen(selected[0]!);
        }}
      >
        Open
      </button>
    </div>
  );
}
