import { type ReactNode, useLayoutEffect, useRef, useState } from 'react';
import { isRightToLeft } from '../../ui/language';

/** What stands under the line that is being typed. It is laid over everything, and never takes the focus from the line. */
export function EditorPanel({
  under,
  width,
  children,
}: {
  under: HTMLElement | null;
  /** In pixels. */
  width: number;
  children: ReactNode;
}) {
  const ref = useRef<HTMLDivElement>(null);
  const [place, setPlace] = useState<{ left: number; top?: number; bottom?: number; most: number }>();
  useLayoutEffect(() => {
    if (!under) return;
    const put = (): void => {
      const at = under.getBoundingClientRect();
      const from = isRightToLeft() ? at.right - width : at.left;
      const left = Math.max(4, Math.min(from, window.innerWidth - width - 4));
      const below = window.innerHeight - at.bottom - 8,
        above = at.top - 8;
      setPlace(
        below >= Math.min(260, above)
          ? { left, top: at.bottom + 2, most: below }
          : { left, bottom: window.innerHeight - at.top + 2, most: above },
      );
    };
    put();
    ref.current?.showPopover();
    // The line goes along when the table is scrolled.
    document.addEventListener('scroll', put, { capture: true, passive: true });
    window.addEventListener('resize', put);
    return () => {
      document.removeEventListener('scroll', put, { capture: true });
      window.removeEventListener('resize', put);
    };
  }, [under, width]);
  return (
    <div
      ref={ref}
      popover="manual"
      style={{
        left: place?.left ?? 0,
        top: place?.top ?? 'auto',
        bottom: place?.bottom ?? 'auto',
        width,
        maxHeight: Math.min(340, place?.most ?? 340),
      }}
      className="fixed inset-auto m-0 overflow-auto rounded border border-base-300 bg-base-100 p-0 text-base-content shadow-lg empty:hidden"
      onMouseDown={(e) => {
        e.preventDefault();
        e.stopPropagation();
      }}
    >
      {children}
    </div>
  );
}
