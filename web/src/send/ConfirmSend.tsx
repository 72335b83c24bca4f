import { useState } from 'react';
import { Modal } from '../ui/Modal';
import { say } from '../ui/text';
import { HasLooked } from './HasLooked';

/** Asks once before much goes, or what is for ever, or what surprises; then it is a person who has looked. */
export function ConfirmSend({
  sentence,
  warnings,
  isBusy,
  onSend,
  onClose,
}: {
  sentence: string;
  warnings: readonly string[];
  isBusy: boolean;
  onSend: () => void;
  onClose: () => void;
}) {
  const [hasLooked, setLooked] = useState(false);
  return (
    <Modal title={say`Before it goes`} onClose={onClose}>
      <div className="flex flex-col gap-3 p-5">
        <p className="font-semibold">{sentence}</p>
        <HasLooked warnings={warnings} isSo={hasLooked} onChange={setLooked} />
        <div className="flex gap-2">
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={isBusy || (warnings.length > 0 && !hasLooked)}
            onClick={onSend}
          >
            {say`Send it`}
          </button>
          <button type="button" className="btn btn-sm" onClick={onClose}>
            {say`Not yet`}
          </button>
        </div>
      </div>
    </Modal>
  );
}
