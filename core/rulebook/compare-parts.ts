// What two things of a rulebook differ in, and how that is shown.
/** Keys of two collections: on both sides, only after, only before; in the order of the collections. */
export function pair<T>(before: readonly (readonly [string, T])[], after: readonly (readonly [string, T])[]) {
  const a = new Map(before),
    b = new Map(after);
  return {
    both: [...b].flatMap(([key, now]) => (a.has(key) ? [{ key, was: a.get(key)!, now }] : [])),
    added: [...b].flatMap(([key, now]) => (a.has(key) ? [] : [{ key, now }])),
    gone: [...a].flatMap(([key, was]) => (b.has(key) ? [] : [{ key, was }])),
  };
}
export const isObject = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);
/** The same value with its keys in order: a database gives them back in another than they were written in. */
const inOrder = (v: unknown): unknown =>
  Array.isArray(v)
    ? v.map(inOrder)
    : isObject(v)
      ? Object.fromEntries(
          Object.entries(v)
            .sort(([a], [b]) => (a < b ? -1 : 1))
            .map(([k, x]) => [k, inOrder(x)]),
        )
      : v;
export const isSame = (a: unknown, b: unknown): boolean => JSON.stringify(inOrder(a)) === JSON.stringify(inOrder(b));
export const show = (value: unknown): string =>
  value === undefined
    ? 'none'
    : typeof value === 'string'
      ? `“${value}”`
      : Array.isArray(value) && value.every((v) => typeof v === 'string')
        ? value.map((v) => `“${v}”`).join(', ') || 'nothing'
        : JSON.stringify(value);

/** Names of some things, the first ones in full. */
export function nameSome(names: readonly string[], most = 4): string {
  const rest = names.length - most;
  return names.slice(0, most).join(', ') + (rest > 0 ? ` and ${rest} more` : '');
}

/** Fields of two objects that differ. */
export function compareParts(was: object, now: object, except: ReadonlySet<string> = new Set()) {
  const a = was as Record<string, unknown>,
    b = now as Record<string, unknown>;
  return [...new Set([...Object.keys(a), ...Object.keys(b)])]
    .filter((part) => !except.has(part) && !isSame(a[part], b[part]))
    .map((part) => ({ part, was: a[part], now: b[part] }));
}

/** Every place below two objects at which they differ, named by the way to it. */
export function compareDeep(way: string, was: unknown, now: unknown): { way: string; was: unknown; now: unknown }[] {
  if (isSame(was, now)) return [];
  if (!isObject(was) || !isObject(now)) return [{ way, was, now }];
  return compareParts(was, now).flatMap((d) => compareDeep(`${way}, ${d.part}`, d.was, d.now));
}
