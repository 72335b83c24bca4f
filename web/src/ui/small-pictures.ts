/** The address of the small picture of a link. */
export const smallOf = (link: string): string => `/api/pictures/small?link=${encodeURIComponent(link)}`;

/** After so many misses in a row a host is taken for one that nobody looks at. */
const mostMisses = 3,
  restMs = 60_000;
const misses = new Map<string, { inARow: number; at: number }>();
const hostOf = (link: string): string => (URL.canParse(link) ? new URL(link).host : '');

/** True where a small picture is worth asking for: long tables of a host that nobody looks at ask for a few, not for all. */
export const isWorthAsking = (link: string, now: number): boolean => {
  const known = misses.get(hostOf(link));
  return known === undefined || known.inARow < mostMisses || now - known.at > restMs;
};
/** Keeps what came of asking. */
export function noteAsked(link: string, hasCome: boolean, now: number): void {
  const host = hostOf(link);
  if (hasCome) misses.delete(host);
  else misses.set(host, { inARow: (misses.get(host)?.inARow ?? 0) + 1, at: now });
}
