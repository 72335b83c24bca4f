import { canAsk } from '@basileus/core/forms';
import type { Rulebook } from '@basileus/core/rulebook';
import { Modal } from '../ui/Modal';
import { plural, say } from '../ui/text';
import { tell } from '../ui/tell';

/** Says what taking entries down means on this market, before it is wished. */
export function WithdrawAsk({
  count,
  rulebook,
  isBusy,
  onWithdraw,
  onClose,
}: {
  count: number;
  rulebook: Rulebook;
  isBusy: boolean;
  onWithdraw: () => void;
  onClose: () => void;
}) {
  const { name } = rulebook.market;
  return (
    <Modal title={say`Withdraw ${plural(count, 'listing', 'listings')}`} onClose={onClose}>
      <div className="flex flex-col gap-3 p-5">
        {rulebook.sku.reuse === 'never' ? (
          <p className="border-s-4 border-warning ps-3">
            {tell`This is for ever. ${name} never takes a withdrawn SKU again: to sell the item there once more, it must be added anew under another SKU, without its reviews. To stop selling for a while, set its stock to 0 instead.`}
          </p>
        ) : canAsk(rulebook, 'restore') ? (
          <p>{say`The entries are taken down and can be put back later with Restore.`}</p>
        ) : (
          <p>{tell`The entries are taken down. ${name} takes no file that would put them back.`}</p>
        )}
        <p className="quiet">
          {say`Nothing goes yet: the wish is shown at the row, and can be taken back with Keep until it is sent under Send.`}
        </p>
        <div className="flex gap-2">
          <button type="button" className="btn btn-primary btn-sm" disabled={isBusy} onClick={onWithdraw}>
            {say`Mark for withdrawal`}
          </button>
          <button type="button" className="btn btn-sm" onClick={onClose}>
            {say`Leave them`}
          </button>
        </div>
      </div>
    </Modal>
  );
}
