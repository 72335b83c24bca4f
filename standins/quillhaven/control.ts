import { readSheet } from './inbox';
import { type Reply, reply, type Repriced } from '../frame';
import type { Market } from './market';
import type { Other } from './others';
import { othersOn } from './shelf';

/** Asks what the market holds, and puts things on its shelf. Not part of what a seller sees. */
export function control({ shelf }: Market, what: string, body: string): Reply {
  const good = (text: string): Reply => reply(200, text);
  if (what === 'counts') {
    const counts: Record<string, number> = {};
    for (const e of Object.values(shelf.memory.entries)) counts[e.standing] = (counts[e.standing] ?? 0) + 1;
    return good(JSON.stringify({ entries: counts, tickets: Object.keys(shelf.memory.tickets).length }));
  }
  if (what === 'entry') {
    return good(JSON.stringify(shelf.memory.entries[body.trim()] ?? null));
  }
  if (what === 'other') {
    shelf.memory.others = [...othersOn(shelf), JSON.parse(body) as Other];
    shelf.save();
    return good('{}');
  }
  if (what === 'reprice') {
    // Somebody changed it on the market's own pages.
    const { sku, price, sale, pieces } = JSON.parse(body) as Repriced;
    const entry = shelf.memory.entries[sku];
    if (!entry) return reply(404, 'No such entry.');
    if (price !== undefined) entry.cells['price'] = price;
    if (sale !== undefined) entry.cells['sale_price'] = sale;
    if (pieces !== undefined) entry.quantity = Number(pieces);
    shelf.touch(entry);
    shelf.save();
    return good('{}');
  }
  if (what === 'shelve') {
    const { rows } = readSheet(body);
    rows.forEach((cells, i) => {
      const sku = cells['house_sku'] ?? '';
      shelf.memory.entries[sku] = {
        sku,
        number: `Q${700_001 + i}`,
        standing: 'on shelf',
        reason: '',
        cells,
        readyAt: 0,
        stamp: 0,
        quantity: Number(cells['quantity'] ?? 0),
        sold: 0,
      };
      shelf.touch(shelf.memory.entries[sku]!);
    });
    shelf.save();
    return good(JSON.stringify({ numbers: rows.map((_, i) => `Q${700_001 + i}`) }));
  }
  return reply(404, 'No such control.');
}
