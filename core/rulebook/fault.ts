// A fault of a rulebook document.
/** One fault of a rulebook document: where (a path such as `attributes[3].codes`) and why. */
export interface RulebookFault {
  path: string;
  reason: string;
}

/** Keys that stand twice in a list. */
export function* findTwins(list: readonly { key: string }[], path: string): Generator<RulebookFault> {
  const seen = new Set<string>();
  for (const [i, { key }] of list.entries()) {
    if (seen.has(key)) yield { path: `${path}[${i}].key`, reason: `"${key}" stands twice.` };
    seen.add(key);
  }
}
