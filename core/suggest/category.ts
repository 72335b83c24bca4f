// Proposals for a market category: the machine proposes with its reason, the person decides.
import { foldLoosely, stem, say } from '../text';

export interface LeafWords {
  key: string;
  label: string;
  path: readonly string[];
  words: readonly string[];
}
export interface CategoryProposal {
  key: string;
  path: readonly string[];
  score: number;
  reason: string;
}

const tokens = (text: string): string[] =>
  foldLoosely(text)
    .split(' ')
    .filter((w) => w.length > 1)
    .map(stem);

/**
 * The leaves that fit an item best. `used` counts how often each leaf was chosen for items of the same own category:
 * what people chose before outweighs words.
 */
export function proposeCategories(
  item: { title: string; category: string; description: string },
  leaves: readonly LeafWords[],
  used: ReadonlyMap<string, number> = new Map(),
  count = 5,
): CategoryProposal[] {
  const title = new Set(tokens(item.title)),
    own = new Set(tokens(item.category)),
    body = new Set(tokens(item.description));
  const totalUsed = [...used.values()].reduce((a, b) => a + b, 0);
  const proposals = leaves.map((leaf): CategoryProposal => {
    const hits: string[] = [];
    let score = 0;
    const phrases = [leaf.label, ...leaf.words];
    for (const phrase of phrases) {
      const words = tokens(phrase);
      if (words.length === 0) continue;
      const share = (set: ReadonlySet<string>) => words.filter((w) => set.has(w)).length / words.length;
      const inTitle = share(title),
        inOwn = share(own),
        inBody = share(body);
      const weight = Math.max(
        inTitle === 1 ? 1.2 + 0.2 * words.length : inTitle * 0.5,
        inOwn === 1 ? 1 + 0.2 * words.length : inOwn * 0.4,
        inBody === 1 ? 0.3 : 0,
      );
      if (weight >= 0.9) hits.push(phrase);
      score += weight >= 0.9 ? weight : weight * 0.3;
    }
    score /= 1 + 0.08 * phrases.length;
    const times = used.get(leaf.key) ?? 0;
    if (times > 0) score += 2 + times / totalUsed;
    const reasons = [
      times > 0 ? say`chosen ${times} times for “${item.category}”` : '',
      hits.length ? say`“${[...new Set(hits)].slice(0, 2).join('”, “')}” in its name or group` : '',
    ].filter(Boolean);
    return { key: leaf.key, path: leaf.path, score, reason: reasons.join('; ') || say`some words are alike` };
  });
  return proposals
    .filter((p) => p.score > 0.25)
    .sort((a, b) => b.score - a.score || a.key.localeCompare(b.key))
    .slice(0, count);
}
