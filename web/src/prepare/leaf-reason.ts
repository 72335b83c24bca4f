import type { LeafReason, Sureness } from '@basileus/contract';
import { say } from '../ui/text';

/** How sure a proposal is, as people say it. */
export const surenessWords: Record<Sureness, string> = { sure: say`Sure`, likely: say`Likely`, unsure: say`Unsure` };

const mostNamed = 2;

/** Why a category is proposed for what has this category of ours. */
export function wordLeafReason({ words, chosen, elsewhere, family }: LeafReason, own: string): string {
  if (family) return say`others of its family are there`;
  const parts = [
    chosen > 0 ? say`chosen ${chosen} times for “${own}”` : '',
    words.length > 0 ? say`“${words.slice(0, mostNamed).join('”, “')}” in its name or group` : '',
    ...elsewhere.slice(0, 1).map((e) => say`it is “${e.leaf}” on ${e.market}`),
  ].filter((part) => part !== '');
  return parts.join('; ') || say`some words are alike`;
}
