// What can be done with the chosen listings.
import type { Rulebook, Site } from '@basileus/core/rulebook';
import { useNavigate } from 'react-router';
import { count, say } from '../ui/text';
import { StandingMenu } from './StandingMenu';

/** Listings that are chosen one by one travel in the address. */
const mostByAddress = 500;

interface Props {
  market: string;
  rulebook: Rulebook;
  selected: readonly string[];
  isBusy: boolean;
  /** Several that are marked, else all that is shown. */
  onBulk: () => void;
  onPick: () => void;
  onLeaveOut: () => void;
  onWithdraw: () => void;
  onWish: (wish: 'restore' | 'keep') => void;
  onSite: (site: Site, wanted: boolean) => void;
  onOpen: (id: string) => void;
}

export function ListingActions(props: Props) {
  const { market, rulebook, selected, isBusy, onBulk, onPick, onLeaveOut, onWithdraw, onWish, onSite, onOpen } = props;
  const navigate = useNavigate();
  const none = selected.length === 0;
  return (
    <div className="ms-auto flex gap-2">
      <button
        type="button"
        className="btn btn-sm"
        disabled={isBusy}
        title={say`Change many listings at once: nothing is written before you have seen it`}
        onClick={() => {
          onBulk();
        }}
      >
        {selected.length > 1 ? say`Change ${count(selected.length)} …` : say`Change in bulk …`}
      </button>
      <button
        type="button"
        className="btn btn-sm"
        disabled={none}
        aria-label={say`Put into a category …`}
        onClick={() => {
          onPick();
        }}
      >
        {say`Category …`}
      </button>
      <StandingMenu
        rulebook={rulebook}
        isOff={none || isBusy}
        onLeaveOut={onLeaveOut}
        onWithdraw={onWithdraw}
        onWish={onWish}
        onSite={onSite}
      />
      <button
        type="button"
        className="btn btn-sm"
        disabled={selected.length === 0 || selected.length > mostByAddress}
        title={
          selected.length > mostByAddress
            ? say`${mostByAddress} at the most are chosen one by one; take a brand or an own category under Send.`
            : undefined
        }
        onClick={() => {
          void navigate(`/${market}/send?ids=${selected.join(',')}`);
        }}
      >
        {say`Send these`}
      </button>
      <button
        type="button"
        className="btn btn-sm"
        disabled={selected.length !== 1}
        onClick={() => {
          onOpen(selected[0]!);
        }}
      >
        {say`Open`}
      </button>
    </div>
  );
}
