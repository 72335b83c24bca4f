// Working through a file record by record, in the market's own way. A record of the book of entries speaks of one entry and
// of the items in it, each in columns of its own; it is taken whole or not at all.
import { type BookDocument, type Cells, emptied, type Fault } from './book';
import type { Judge } from './judge';
import { type Entry, isThere, type Item, type Shelf } from './shelf';

export interface Desk {
  book: BookDocument;
  judge: Judge;
  shelf: Shelf;
  now: number;
  reviewMs: number;
}

/** Judges and takes every record of a file; answers the faults of each. */
export function workThrough(desk: Desk, form: string, records: readonly Cells[]): Fault[][] {
  const seen = new Set<string>();
  const name = form === 'ichiran' ? '組番' : '符号';
  const index = openIndex(desk.shelf);
  return records.map((cells) => {
    const key = cells[name] ?? '';
    if (seen.has(key)) return [{ code: '316', column: name }];
    seen.add(key);
    if (form === 'nedan') return takeOffer(desk, index, cells);
    if (cells['用件'] === '9') return takeOut(desk, index, cells);
    const faults = takeEntry(desk, index, cells);
    if (faults.length === 0) index.add(desk.shelf.memory.entries[key]!);
    return faults;
  });
}

/** Items by their numbers, and who has a barcode, made once for a file. */
interface Index {
  items: Map<string, { entry: Entry; item: Item }>;
  /** By barcode, the items that stand with it, each by its entry and its number. */
  codes: Map<string, Set<string>>;
  add: (entry: Entry) => void;
  remove: (entry: Entry, item: Item) => void;
}
const placeOf = (entry: { key: string }, sku: string): string => `${entry.key}/${sku}`;
function openIndex(shelf: Shelf): Index {
  const items: Index['items'] = new Map(),
    codes: Index['codes'] = new Map();
  const codeOf = (item: Item): string => item.cells['枝{n}JAN'] ?? '';
  const add = (entry: Entry): void => {
    for (const item of Object.values(entry.items)) {
      items.set(item.sku, { entry, item });
      if (isThere(item.standing) && codeOf(item) !== '')
        (codes.get(codeOf(item)) ?? codes.set(codeOf(item), new Set()).get(codeOf(item))!).add(
          placeOf(entry, item.sku),
        );
    }
  };
  for (const entry of Object.values(shelf.memory.entries)) add(entry);
  return { items, codes, add, remove: (entry, item) => void codes.get(codeOf(item))?.delete(placeOf(entry, item.sku)) };
}

interface Member {
  place: number;
  sku: string;
  /** By the columns of an item, with {n} for its place. */
  cells: Cells;
}

/** The items of a record, by the places in which they stand. */
function listMembers({ book, judge }: Desk, cells: Cells): Member[] {
  const { most } = book.forms.find((f) => f.key === 'ichiran')!.members!;
  return Array.from({ length: most }, (_, i) => i + 1).flatMap((place): Member[] => {
    const sku = cells[`枝${place}符号`] ?? '';
    if (sku === '') return [];
    const own = judge.memberColumns.map((c) => [c, cells[c.replace('{n}', String(place))] ?? ''] as const);
    return [{ place, sku, cells: Object.fromEntries(own) }];
  });
}

/** What stood with what is said now: blank columns keep, the word for nothing empties. */
function merge(before: Cells, now: Cells, columns: readonly string[]): Cells {
  const merged: Cells = {};
  for (const column of columns) {
    const text = now[column] ?? '';
    merged[column] = text === emptied ? '' : text === '' ? (before[column] ?? '') : text;
  }
  return merged;
}

const at = (column: string, place: number): string => column.replace('{n}', String(place));

function takeEntry(desk: Desk, index: Index, cells: Cells): Fault[] {
  const { book, judge, shelf, now, reviewMs } = desk;
  const key = cells['組番'] ?? '',
    operation = cells['用件'] ?? '';
  if (!/^[A-Z0-9._/-]{1,32}$/.test(key)) return [{ code: '302', column: '組番' }];
  if (operation !== '1' && operation !== '2') return [{ code: '302', column: '用件' }];
  const known = shelf.memory.entries[key];
  const stands = known !== undefined && isThere(known.standing);
  if (operation === '2' && !stands) return [{ code: '313', column: '組番' }];
  const before = stands ? known : undefined;
  const head = merge(before?.cells ?? {}, cells, ['棚', ...judge.headColumns]);
  const division = cells['分け方'] ? judge.readDivision(cells['分け方']) : (before?.divided ?? []);
  const divided = division.filter((d) => d !== undefined);
  const members = listMembers(desk, cells).map((m) => {
    const item = before?.items[m.sku];
    return { ...m, isKnown: item !== undefined, cells: merge(item?.cells ?? {}, m.cells, judge.memberColumns) };
  });
  const faults = [
    ...judge.judgeHead(head, divided),
    ...members.flatMap((m) =>
      judge.judgeMember(m.cells, head, divided).map((f) => ({ ...f, column: at(f.column, m.place) })),
    ),
    ...members.flatMap((m) => judgeBarcode(index, key, m, members)),
    ...(operation === '2' ? members.filter((m) => !m.isKnown) : []).map((m) => ({
      code: '313',
      column: at('枝{n}符号', m.place),
    })),
    ...judgeDivision(desk, key, head, division, members, before),
    ...judgeKept(before, head, members),
  ];
  const items = Object.fromEntries([
    ...Object.entries(before?.items ?? {}),
    ...members.map((m): [string, Item] => {
      const old = before?.items[m.sku];
      return [
        m.sku,
        {
          sku: m.sku,
          cells: m.cells,
          standing: old && isThere(old.standing) ? old.standing : '2',
          quantity: Number(m.cells['枝{n}残り'] || 0),
          sold: old?.sold ?? 0,
          stamp: 0,
        },
      ];
    }),
  ]);
  const count = Object.values(items).filter((i) => isThere(i.standing)).length;
  if (count === 0 || count > book.families.maxVariants) faults.push({ code: '315', column: '組番' });
  if (faults.length > 0) return faults;
  const isRead = before?.standing === '1';
  const entry: Entry = {
    key,
    number: known?.number ?? String(shelf.memory.nextNumber++),
    cells: head,
    divided,
    items,
    // What was turned down and comes again is read again; what is shown stays shown.
    standing: isRead ? '1' : '2',
    reason: '',
    readyAt: isRead && members.every((m) => m.isKnown) ? 0 : now + reviewMs,
    stamp: 0,
  };
  shelf.memory.entries[key] = entry;
  shelf.touch(entry);
  for (const m of members) shelf.touch(items[m.sku]!);
  return [];
}

/** A barcode names one item of a seller, in this record too. */
function judgeBarcode(
  { codes }: Index,
  key: string,
  { sku, place, cells }: Member,
  beside: readonly Member[],
): Fault[] {
  const code = cells['枝{n}JAN'] ?? '';
  if (code === '') return [];
  const isElsewhere = [...(codes.get(code) ?? [])].some((other) => other !== placeOf({ key }, sku));
  const isBeside = beside.some((m) => m.sku !== sku && m.cells['枝{n}JAN'] === code);
  return isElsewhere || isBeside ? [{ code: '308', column: at('枝{n}JAN', place) }] : [];
}

/** Several items are divided by what the shelf allows, each by a value of its own; one by itself is not divided. */
function judgeDivision(
  { book, judge }: Desk,
  key: string,
  head: Cells,
  division: readonly (string | undefined)[],
  members: readonly Member[],
  before: Entry | undefined,
): Fault[] {
  const isAlone = members.length === 1 && members[0]!.sku === key;
  if (isAlone) return division.length > 0 ? [{ code: '311', column: '分け方' }] : [];
  if (members.length === 0) return [];
  const allowed = judge.axesOf(head['棚'] ?? '');
  if (
    division.length === 0 ||
    division.length > book.families.maxAxes ||
    division.some((d) => d === undefined || !allowed.includes(d))
  )
    return [{ code: '311', column: '分け方' }];
  const columns = division.map((d) => judge.memberColumnOf(d!));
  const nature = (cells: Cells): string => columns.map((c) => cells[c] ?? '').join('|');
  const others = Object.values(before?.items ?? {}).filter(
    (i) => isThere(i.standing) && !members.some((m) => m.sku === i.sku),
  );
  return members.flatMap((m, k) => {
    const empty = columns.find((c) => (m.cells[c] ?? '') === '');
    if (empty !== undefined) return [{ code: '311', column: at(empty, m.place) }];
    const isTwin =
      members.slice(0, k).some((x) => nature(x.cells) === nature(m.cells)) ||
      others.some((i) => nature(i.cells) === nature(m.cells));
    return isTwin ? [{ code: '311', column: at(columns[0]!, m.place) }] : [];
  });
}

/** Brand and barcodes of what stands do not change. */
function judgeKept(before: Entry | undefined, head: Cells, members: readonly Member[]): Fault[] {
  if (!before) return [];
  return [
    ...(before.cells['銘'] === head['銘'] ? [] : [{ code: '314', column: '銘' }]),
    ...members.flatMap((m) => {
      const item = before.items[m.sku];
      return !item || item.cells['枝{n}JAN'] === m.cells['枝{n}JAN']
        ? []
        : [{ code: '314', column: at('枝{n}JAN', m.place) }];
    }),
  ];
}

/** Takes out the items that are named, or the whole entry where none is. */
function takeOut(desk: Desk, index: Index, cells: Cells): Fault[] {
  const { shelf } = desk;
  const entry = shelf.memory.entries[cells['組番'] ?? ''];
  if (!entry || !isThere(entry.standing)) return [{ code: '313', column: '組番' }];
  const named = listMembers(desk, cells);
  const strange = named.find((m) => !entry.items[m.sku]);
  if (strange) return [{ code: '313', column: at('枝{n}符号', strange.place) }];
  const going = named.length > 0 ? named.map((m) => entry.items[m.sku]!) : Object.values(entry.items);
  for (const item of going) {
    item.standing = '9';
    index.remove(entry, item);
    shelf.touch(item);
  }
  if (Object.values(entry.items).every((i) => !isThere(i.standing))) entry.standing = '9';
  shelf.touch(entry);
  return [];
}

const offered = ['値', '安値', '安値から', '安値まで', '残り'];

function takeOffer({ judge }: Desk, { items }: Index, cells: Cells): Fault[] {
  const found = items.get(cells['符号'] ?? '');
  if (!found || !isThere(found.item.standing)) return [{ code: '313', column: '符号' }];
  const { item } = found;
  const before = Object.fromEntries(offered.map((c) => [c, item.cells[`枝{n}${c}`] ?? '']));
  const now = merge(before, cells, offered);
  const faults = judge.judgeOffer(now);
  if (now['値'] === '') faults.push({ code: '301', column: '値' });
  if (faults.length > 0) return faults;
  for (const c of offered) item.cells[`枝{n}${c}`] = now[c]!;
  item.quantity = Number(now['残り'] || 0);
  return [];
}

/** Readers come to an end with what waits for them; what they doubt is turned down with all that is in it. */
export function endReviews(shelf: Shelf, now: number): number {
  let ended = 0;
  for (const entry of Object.values(shelf.memory.entries)) {
    const waits = entry.standing === '2' || Object.values(entry.items).some((i) => i.standing === '2');
    if (!waits || entry.readyAt > now) continue;
    const isDoubtful = /複製|模造/.test(`${entry.cells['呼び名'] ?? ''}${entry.cells['話'] ?? ''}`);
    entry.standing = isDoubtful ? '3' : '1';
    entry.reason = isDoubtful ? '真贋に疑い' : '';
    shelf.touch(entry);
    for (const item of Object.values(entry.items)) {
      if (!isThere(item.standing)) continue;
      item.standing = entry.standing;
      shelf.touch(item);
    }
    ended++;
  }
  return ended;
}

/** Buyers take a piece here and there. */
export function sellSome(shelf: Shelf, random: () => number): number {
  const there = Object.values(shelf.memory.entries)
    .flatMap((e) => Object.values(e.items))
    .filter((i) => i.standing === '1' && i.quantity > 0);
  const item = there[Math.floor(random() * there.length)];
  if (!item) return 0;
  item.quantity--;
  item.sold++;
  return 1;
}
