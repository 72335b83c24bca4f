import { type ReactNode, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { isRightToLeft } from './language';

const gap = 4;

/** What opens under a part of the page and closes by Escape or a click elsewhere: the platform's own popover. */
export function Popover({
  under,
  label,
  width = 300,
  onClose,
  children,
}: {
  under: HTMLElement;
  label: string;
  /** In pixels. */
  width?: number;
  onClose: () => void;
  children: ReactNode;
}) {
  const ref = useRef<HTMLDivElement>(null),
    close = useRef(onClose);
  close.current = onClose;
  const [place, setPlace] = useState({ left: 0, top: 0, most: 480 });
  useLayoutEffect(() => {
    const at = under.getBoundingClientRect();
    const below = window.innerHeight - at.bottom - 2 * gap;
    const from = isRightToLeft() ? at.right - width : at.left;
    setPlace({
      left: Math.max(gap, Math.min(from, window.innerWidth - width - gap)),
      top: below > 240 ? at.bottom + gap : Math.max(gap, window.innerHeight - 480 - gap),
      most: Math.max(240, below),
    });
  }, [under, width]);
  useEffect(() => {
    const box = ref.current;
    if (!box) return;
    const before = document.activeElement;
    box.showPopover();
    box.querySelector<HTMLElement>('[data-first]')?.focus();
    const onToggle = (e: Event): void => {
      if ((e as ToggleEvent).newState === 'closed') close.current();
    };
    box.addEventListener('toggle', onToggle);
    return () => {
      box.removeEventListener('toggle', onToggle);
      // Whoever opened it goes on where he was, unless he has gone elsewhere by himself.
      if (before instanceof HTMLElement && (!document.activeElement || document.activeElement === document.body))
        before.focus({ preventScroll: true });
    };
  }, []);
  return (
    <div
      ref={ref}
      popover="auto"
      role="dialog"
      aria-label={label}
      style={{ left: place.left, top: place.top, width, maxHeight: place.most }}
      className="fixed inset-auto m-0 flex-col overflow-auto rounded-md border border-base-300 bg-base-100 p-0 text-base-content shadow-lg open:flex"
    >
      {children}
    </div>
  );
}
