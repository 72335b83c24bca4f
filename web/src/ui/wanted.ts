// What came of leaving items out of a market, or taking them in again, in words.
import { plural, say, wordFor } from './text';

export function wordWanted(market: string, wanted: boolean, outcome: { changed: number; there: number }): string {
  const rows = plural(outcome.changed, 'listing', 'listings');
  const done = wanted
    ? say`${market}: ${rows} wanted again.`
    : say`${market}: ${rows} left out; nothing is asked of ${wordFor(outcome.changed, 'it', 'them')} there.`;
  return outcome.there === 0
    ? done
    : say`${done} ${plural(outcome.there, 'stands there and stays', 'stand there and stay')}: withdraw instead.`;
}

/** The same for one site of a market. */
export function wordSite(site: string, wanted: boolean, changed: number): string {
  if (changed === 0) return wanted ? say`Sold at ${site} already.` : say`Nothing changed: an item is sold somewhere.`;
  const rows = plural(changed, 'listing', 'listings');
  return wanted
    ? say`${site}: ${rows} wanted there again; what it demands is asked for.`
    : say`${site}: ${rows} not sold there; what stands there ends with the next sending.`;
}
