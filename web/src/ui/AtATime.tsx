import type { ReactNode } from 'react';
import { CallError } from '../api/call';
import { Modal } from './Modal';
import { MomentField } from './MomentField';
import { say } from './text';

/** Asks for a time at which something is done. `children` stand over the time, `under` below it. */
export function AtATime({
  title,
  label,
  at,
  onChange,
  children,
  under,
  error,
  isSetting,
  isReady = true,
  onSet,
  onClose,
}: {
  title: string;
  /** What the time is of. */
  label: string;
  at: string;
  onChange: (at: string) => void;
  children: ReactNode;
  under?: ReactNode;
  error: Error | null;
  isSetting: boolean;
  /** False while something else has to be said first. */
  isReady?: boolean;
  onSet: () => void;
  onClose: () => void;
}) {
  return (
    <Modal title={title} onClose={onClose}>
      <form
        className="flex flex-col gap-3 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          onSet();
        }}
      >
        {children}
        <MomentField label={label} value={at} onChange={onChange} />
        {under}
        {error && (
          <p role="alert" className="text-error">
            {error instanceof CallError ? `${error.body.message} ${error.body.remedy ?? ''}` : error.message}
          </p>
        )}
        <div className="flex gap-2">
          <button type="submit" className="btn btn-sm btn-primary" disabled={isSetting || at === '' || !isReady}>
            {isSetting ? say`Setting aside …` : say`Set this time`}
          </button>
          <button type="button" className="btn btn-sm" onClick={onClose}>
            {say`Not yet`}
          </button>
        </div>
      </form>
    </Modal>
  );
}
