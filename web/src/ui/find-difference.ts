// What differs between two values, piece by piece, so that a change deep in a long text is seen.
import type { Value } from '@basileus/core/listing';
import { diffArrays, diffWordsWithSpace } from 'diff';

export interface Piece {
  text: string;
  is: 'same' | 'gone' | 'new' | 'left out';
}

/** Words kept of an unchanged stretch on each side of a change. */
const contextLength = 24;

const shorten = (text: string, hasBefore: boolean, hasAfter: boolean): Piece[] => {
  const most = contextLength * (Number(hasBefore) + Number(hasAfter));
  if (text.length <= most + 12) return [{ text, is: 'same' }];
  const head = hasBefore ? text.slice(0, contextLength) : '',
    tail = hasAfter ? text.slice(-contextLength) : '';
  return [
    { text: head, is: 'same' as const },
    { text: ' … ', is: 'left out' as const },
    { text: tail, is: 'same' as const },
  ].filter((p) => p.text !== '');
};

const toText = (v: Value | null): string => (v === null ? '' : typeof v === 'string' ? v : v.join(' | '));
/** Past this length words are not compared: both texts are shown whole. */
const longest = 20_000;

/**
 * Before and after as pieces in reading order. Lists are compared entry by entry, texts word by word; long stretches that
 * stay the same are left out but for what stands next to a change.
 */
export function findDifference(before: Value | null, after: Value | null): Piece[] {
  const a = toText(before),
    b = toText(after);
  const whole: Piece[] = [
    { text: a, is: 'gone' as const },
    { text: b, is: 'new' as const },
  ].filter((p) => p.text !== '');
  if (a === '' || b === '' || a.length + b.length > longest) return whole;
  if (Array.isArray(before) && Array.isArray(after))
    return diffArrays([...(before as string[])], [...(after as string[])]).flatMap((c) =>
      c.value.map((text): Piece => ({ text, is: c.removed ? 'gone' : c.added ? 'new' : 'same' })),
    );
  // A number or a code is one word: it changes whole.
  if (!/\s/.test(a.trim()) || !/\s/.test(b.trim())) return whole;
  const changes = diffWordsWithSpace(a, b);
  const kept = changes.filter((c) => !c.added && !c.removed).reduce((n, c) => n + c.value.trim().length, 0);
  // With little in common, a mix of both is harder to read than the two side by side.
  if (kept * 3 < Math.min(a.length, b.length)) return whole;
  return changes.flatMap((c, i) =>
    c.removed
      ? [{ text: c.value, is: 'gone' as const }]
      : c.added
        ? [{ text: c.value, is: 'new' as const }]
        : shorten(c.value, i > 0, i < changes.length - 1),
  );
}
