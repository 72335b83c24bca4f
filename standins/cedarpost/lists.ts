// What the market tells of what stands there.
import { lookUp, textAt } from './place';
import { others, type Shelf } from './shelf';

const most = 2000;

/** Entries that changed after a mark, with the mark to go on from. */
export function listEntries(shelf: Shelf, after: number): string {
  const entries = Object.values(shelf.memory.entries)
    .filter((e) => e.stamp > after)
    .sort((a, b) => a.stamp - b.stamp)
    .slice(0, most);
  const next = entries.at(-1)?.stamp ?? Math.max(after, shelf.memory.clock - 1);
  return JSON.stringify({
    entries: entries.map((e) => ({
      ref: e.ref,
      entry: e.number,
      standing: e.standing,
      because: e.because,
      ask: lookUp(e.record, 'worth.ask') ?? null,
      deal: lookUp(e.record, 'worth.deal.ask') ?? null,
      on_hand: lookUp(e.record, 'stock.on_hand') ?? null,
      at: e.stamp,
    })),
    next: String(next),
  });
}

/** Entries that hold every word, ours and those of others. */
export function search(shelf: Shelf, words: string): string {
  const wanted = words
    .toLowerCase()
    .split(/\s+/)
    .filter((w) => w !== '');
  const own = Object.values(shelf.memory.entries)
    .filter((e) => e.standing === 'showing')
    .map((e) => ({
      entry: e.number,
      name: textAt(e.record, 'say.name'),
      maker: textAt(e.record, 'say.maker'),
      code: textAt(e.record, 'say.code'),
      aisle: textAt(e.record, 'aisle'),
    }));
  const found = [...own, ...others].filter((e) => {
    const text = Object.values(e).join(' ').toLowerCase();
    return wanted.every((w) => text.includes(w));
  });
  return JSON.stringify({ found: found.slice(0, 20) });
}
