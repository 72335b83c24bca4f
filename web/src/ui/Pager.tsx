import { ChevronLeft, ChevronRight } from 'lucide-react';
import { count, say } from './text';
import { tell } from './tell';

/** Which rows of a long list are shown, and the way to the others. Nothing where all are. */
export function Pager({
  offset,
  size,
  total,
  onGo,
}: {
  offset: number;
  size: number;
  total: number;
  onGo: (offset: number) => void;
}) {
  if (total <= size && offset === 0) return null;
  const last = Math.min(total, offset + size);
  return (
    <nav aria-label={say`Pages`} className="flex items-center gap-2 px-4 py-2 text-sm">
      <button
        type="button"
        className="btn btn-xs"
        aria-label={say`Rows before`}
        disabled={offset === 0}
        onClick={() => {
          onGo(Math.max(0, offset - size));
        }}
      >
        <ChevronLeft size={14} />
      </button>
      <span className="num" role="status">
        {count(Math.min(offset + 1, last))}–{count(last)}
      </span>
      <span className="quiet">{tell`of ${count(total)}`}</span>
      <button
        type="button"
        className="btn btn-xs"
        aria-label={say`Rows after`}
        disabled={last >= total}
        onClick={() => {
          onGo(offset + size);
        }}
      >
        <ChevronRight size={14} />
      </button>
    </nav>
  );
}
