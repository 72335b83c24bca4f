// Lists that the market gives out as tab-delimited text.
import { othersOn, type Shelf } from './shelf';

/** Entries that changed after a stamp, with the cursor to go on from. */
export function writeShelfList(shelf: Shelf, since: number): string {
  const changed = Object.values(shelf.memory.entries)
    .filter((e) => e.stamp > since)
    .sort((a, b) => a.stamp - b.stamp)
    .slice(0, 5000);
  const cursor = changed.at(-1)?.stamp ?? Math.max(since, shelf.memory.clock - 1);
  return (
    [
      `cursor\t${cursor}`,
      'house_sku\tentry\tstanding\treason\tstamp\tprice\tsale_price\tquantity',
      ...changed.map((e) =>
        [
          e.sku,
          e.number,
          e.standing,
          e.reason,
          e.stamp,
          e.cells['price'] ?? '',
          e.cells['sale_price'] ?? '',
          e.quantity,
        ].join('\t'),
      ),
    ].join('\n') + '\n'
  );
}

/** Entries on the shelf that hold every word, as a buyer’s search finds them. */
export function findEntries(shelf: Shelf, q: string): string {
  const words = q.toLowerCase().split(/\s+/).filter(Boolean);
  const own = Object.values(shelf.memory.entries)
    .filter((e) => e.standing === 'on shelf' && !e.joins)
    .map(({ number, cells: c }) => [
      number,
      c['title'],
      c['brand'],
      c['item_number'],
      c['shelf'],
      c['colour'],
      c['material'],
      `${c['diameter'] ?? ''} ${c['diameter_unit'] ?? ''}`.trim(),
    ]);
  const others = othersOn(shelf).map((o) => [
    o.number,
    o.title,
    o.brand,
    o.itemNumber,
    o.shelf,
    o.colour,
    o.material,
    o.diameter,
  ]);
  const hits = [...own, ...others]
    .filter(([number, title, brand, item]) =>
      words.every((w) => `${title ?? ''} ${brand ?? ''} ${item ?? ''} ${number!}`.toLowerCase().includes(w)),
    )
    .slice(0, 20);
  return (
    [
      'number\ttitle\tbrand\titem_number\tshelf\tcolour\tmaterial\tdiameter',
      ...hits.map((cells) => cells.map((c) => (c ?? '').replace(/\s+/g, ' ')).join('\t')),
    ].join('\n') + '\n'
  );
}
