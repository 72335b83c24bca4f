// Lists that the market gives out, divided by semicolons.
import Papa from 'papaparse';
import type { BookDocument } from './book';
import type { Shelf } from './shelf';

const write = (rows: string[][]): string => `\ufeff${Papa.unparse(rows, { delimiter: ';', newline: '\r\n' })}\r\n`;
const mostLines = 5000;

/** How goods stand in each country, those that changed after a mark, with the mark to go on from. */
export function writeGoodsList(shelf: Shelf, book: BookDocument, after: number): { text: string; cursor: number } {
  const places = Object.values(shelf.memory.goods)
    .flatMap((good) =>
      book.sites.flatMap(({ key }) => (good.places[key] ? [{ good, site: key, place: good.places[key] }] : [])),
    )
    .filter((p) => p.place.stamp > after)
    .sort((a, b) => a.place.stamp - b.place.stamp)
    .slice(0, mostLines);
  return {
    text: write([
      ['vara_nr', 'land', 'vara_id', 'laege', 'skal', 'andrad', 'pris', 'reapris', 'antal'],
      ...places.map(({ good, site, place }) => [
        good.sku,
        site.toUpperCase(),
        good.number,
        place.standing,
        place.reason,
        String(place.stamp),
        good.cells[`pris_${site}`] ?? '',
        good.cells[`reapris_${site}`] ?? '',
        String(good.quantity),
      ]),
    ]),
    cursor: places.at(-1)?.place.stamp ?? Math.max(after, shelf.memory.clock - 1),
  };
}

/** Goods on sale that hold every word, as a buyer's search finds them. */
export function findGoods(shelf: Shelf, words: string): string {
  const wanted = words
    .toLowerCase()
    .split(/\s+/)
    .filter((w) => w !== '');
  const found = Object.values(shelf.memory.goods)
    .filter((g) => Object.values(g.places).some((p) => p.standing === 'aktiv'))
    .filter((g) => {
      const text = ['titel_de', 'titel_sv', 'marke', 'streckkod']
        .map((k) => g.cells[k] ?? '')
        .join(' ')
        .toLowerCase();
      return wanted.every((w) => text.includes(w) || g.number === w);
    })
    .slice(0, 20);
  return write([
    ['vara_id', 'titel', 'marke', 'streckkod', 'hylla'],
    ...found.map((g) => [g.number, ...['titel_de', 'marke', 'streckkod', 'hylla'].map((k) => g.cells[k] ?? '')]),
  ]);
}
