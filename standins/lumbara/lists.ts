// Lists that the market gives out.
import type { Shelf } from './shelf';
import { writeSheet } from './sheet';

const mostLines = 5000;

/** How entries and their items stand, those that changed after a mark, with the mark to go on from. */
export function writeShelfList(shelf: Shelf, after: number): { bytes: Buffer; cursor: number } {
  const lines = Object.values(shelf.memory.entries)
    .flatMap((entry) => {
      const { key, number, reason, standing, stamp } = entry;
      const items = Object.values(entry.items).map((i) => ({
        sku: i.sku,
        number,
        reason,
        standing: i.standing,
        stamp: i.stamp,
        price: i.cells['枝{n}値'] ?? '',
        sale: i.cells['枝{n}安値'] ?? '',
        left: String(i.quantity),
      }));
      // What is alone in its entry has its number.
      return entry.items[key]
        ? items
        : [{ sku: key, number, reason, standing, stamp, price: '', sale: '', left: '' }, ...items];
    })
    .filter((l) => l.stamp > after)
    .sort((a, b) => a.stamp - b.stamp)
    .slice(0, mostLines);
  return {
    bytes: writeSheet([
      ['符号', '棚札', '掲げ', '訳', '改めた時', '値', '安値', '残り'],
      ...lines.map((l) => [l.sku, l.number, l.standing, l.reason, String(l.stamp), l.price, l.sale, l.left]),
    ]),
    cursor: lines.at(-1)?.stamp ?? Math.max(after, shelf.memory.clock - 1),
  };
}

/** Entries on show that hold every word. */
export function findEntries(shelf: Shelf, words: string): Buffer {
  const wanted = words
    .normalize('NFKC')
    .toLowerCase()
    .split(/\s+/)
    .filter((w) => w !== '');
  const found = Object.values(shelf.memory.entries)
    .filter((e) => e.standing === '1')
    .filter((e) => {
      const codes = Object.values(e.items).map((i) => i.cells['枝{n}JAN'] ?? '');
      const text = [e.cells['呼び名'], e.cells['呼び名カナ'], e.cells['英字名'], e.cells['銘'], ...codes]
        .join(' ')
        .normalize('NFKC')
        .toLowerCase();
      return wanted.every((w) => text.includes(w) || e.number === w);
    })
    .slice(0, 20);
  return writeSheet([
    ['棚札', '呼び名', '銘', 'JAN', '棚'],
    ...found.map((e) => [
      e.number,
      e.cells['呼び名'] ?? '',
      e.cells['銘'] ?? '',
      Object.values(e.items)[0]?.cells['枝{n}JAN'] ?? '',
      e.cells['棚'] ?? '',
    ]),
  ]);
}
