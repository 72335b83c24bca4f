import type { Value } from '@basileus/core/listing';
import { findDifference } from './find-difference';
import { say } from './text';

const looks = {
  same: '',
  'left out': 'quiet',
  gone: 'text-base-content/75 decoration-error/70',
  new: 'font-semibold no-underline bg-success/12 rounded-sm px-0.5',
} as const;

/** Before and after of one value: what goes is struck out, what comes stands out. Read out as such. */
export function Difference({ before, after }: { before: Value | null; after: Value | null }) {
  const isList = Array.isArray(before) && Array.isArray(after);
  const pieces = findDifference(before, after);
  return (
    <span className="whitespace-pre-line">
      {pieces.map((p, i) => {
        const gap = i > 0 && (isList || (p.is === 'new' && pieces[i - 1]!.is === 'gone')) ? ' ' : '';
        const text = isList && i > 0 ? `| ${p.text}` : p.text;
        return (
          <span key={i}>
            {gap}
            {p.is === 'gone' ? (
              <del className={looks.gone}>{text}</del>
            ) : p.is === 'new' ? (
              <ins className={looks.new}>{text}</ins>
            ) : (
              <span className={looks[p.is]}>{text}</span>
            )}
          </span>
        );
      })}
      {pieces.every((p) => p.is === 'gone') && <span className="quiet">{say` (emptied)`}</span>}
    </span>
  );
}
