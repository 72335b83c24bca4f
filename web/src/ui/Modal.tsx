import { type ReactNode, useEffect, useRef } from 'react';
import { say } from './text';

/** A dialog on the platform's own element: focus held, Escape closes. `side` docks it at the right edge. */
export function Modal({
  title,
  onClose,
  children,
  side = false,
  wide = false,
}: {
  title: string;
  onClose: () => void;
  children: ReactNode;
  side?: boolean;
  wide?: boolean;
}) {
  const ref = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    ref.current?.showModal();
    // The platform focuses what stands first, the close button; a dialog that is typed into names its field.
    ref.current?.querySelector<HTMLElement>('[data-first]')?.focus();
  }, []);
  return (
    <dialog
      ref={ref}
      aria-label={title}
      onCancel={(e) => {
        e.preventDefault();
        onClose();
      }}
      onClick={(e) => {
        if (e.target === ref.current) onClose();
      }}
      className={
        side
          ? 'ms-auto me-0 h-dvh max-h-dvh w-[min(46rem,100vw)] max-w-full border-s border-base-300 bg-base-100 text-base-content backdrop:bg-black/30'
          : `m-auto max-h-[85vh] ${wide ? 'w-[min(60rem,94vw)]' : 'w-[min(34rem,94vw)]'} rounded-md border border-base-300 bg-base-100 text-base-content backdrop:bg-black/30`
      }
    >
      <div className="flex h-full flex-col">
        <div className="flex items-center border-b border-base-300 px-5 py-3">
          <h2 className="text-lg">{title}</h2>
          <button type="button" className="btn btn-ghost btn-sm ms-auto" onClick={onClose}>
            {say`Close`}
          </button>
        </div>
        <div className="min-h-0 flex-1 overflow-auto">{children}</div>
      </div>
    </dialog>
  );
}
