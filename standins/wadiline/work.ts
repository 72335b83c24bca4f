// Working through a sheet entry by entry, and across entries, in the market's own way.
import { type IndexBy, indexBy } from '../frame';
import type { BookDocument, Cells, Fault } from './book';
import { type Judge, textAt } from './judge';
import { type Entry, othersOn, type Shelf, stands } from './shelf';

/** How much later than its first reader somebody looks again. */
const secondLook = 3;

export interface Desk {
  book: BookDocument;
  judge: Judge;
  shelf: Shelf;
  now: number;
  reviewMs: number;
}
export interface Said {
  n: number;
  ref: string;
  word: 'taken' | 'declined';
  number: string;
  faults: Fault[];
}

/** The desk while a sheet lies on it, with the entries by their barcodes and families. */
type AtWork = Desk & { entries: IndexBy<Entry> };
const textsOf = ({ cells }: Entry): string[] => [
  `code ${textAt(cells, 'barcode')}`,
  `family ${textAt(cells, '@family')}`,
];

/** Judges and takes every entry of a sheet; a line for each. */
export function workThrough(desk: Desk, form: string, entries: readonly Cells[]): Said[] {
  const seen = new Set<string>();
  const work: AtWork = { ...desk, entries: indexBy(Object.values(desk.shelf.memory.entries), textsOf) };
  return entries.map((cells, i): Said => {
    const ref = textAt(cells, '@ref');
    const faults = seen.has(ref) ? [{ id: 'w15', at: '@ref' }] : takeEntry(work, form, ref, cells);
    seen.add(ref);
    const entry = desk.shelf.memory.entries[ref];
    if (entry) work.entries.add(entry);
    const number = entry?.number ?? '';
    return { n: i + 1, ref, word: faults.length ? 'declined' : 'taken', number, faults };
  });
}

function takeEntry(desk: AtWork, form: string, ref: string, cells: Cells): Fault[] {
  if (!/^[A-Za-z0-9._/-]{3,40}$/.test(ref)) return [{ id: 'w02', at: '@ref' }];
  if (form === 'terms') return takeTerms(desk, ref, cells);
  if (form === 'offer') return takeOffer(desk, ref, cells);
  switch (textAt(cells, '@do')) {
    case 'new':
      return takeWhole(desk, ref, cells);
    case 'amend':
      return amend(desk, ref, cells);
    case 'rest':
      return turn(desk, ref, true);
    case 'wake':
      return turn(desk, ref, false);
    default:
      return [{ id: 'w02', at: '@do' }];
  }
}

const emptied = '~';
/** Cells with others written over them; a lone sign empties. */
export function writeOver(before: Cells, cells: Cells): Cells {
  const after = { ...before };
  for (const [place, there] of Object.entries(cells)) {
    if (place === '@do' || place === '@ref') continue;
    const isEmptied = there === emptied || (Array.isArray(there) && there.length === 1 && there[0] === emptied);
    if (isEmptied) delete after[place];
    else after[place] = there;
  }
  return after;
}

/** A new entry, or a whole one in place of what stands there. Every new one is read by a person. */
function takeWhole(desk: AtWork, ref: string, sent: Cells): Fault[] {
  const { shelf, now, reviewMs } = desk;
  const known = shelf.memory.entries[ref];
  const cells = writeOver({}, sent);
  const faults = judgeWhole(desk, ref, known, cells);
  if (faults.length) return faults;
  const entry: Entry = known ?? {
    ref,
    number: `W${shelf.memory.nextNumber++}`,
    cells: {},
    standing: 'being_read',
    because: '',
    readAt: 0,
    since: 0,
    sold: 0,
  };
  if (!stands(known)) Object.assign(entry, { standing: 'being_read', because: '', readAt: now + reviewMs });
  entry.cells = cells;
  shelf.memory.entries[ref] = entry;
  shelf.touch(entry);
  return [];
}

function amend(desk: AtWork, ref: string, sent: Cells): Fault[] {
  const known = desk.shelf.memory.entries[ref];
  if (!stands(known) || known.joins) return [{ id: 'w12', at: '@ref' }];
  const cells = writeOver(known.cells, sent);
  const faults = judgeWhole(desk, ref, known, cells);
  if (faults.length) return faults;
  known.cells = cells;
  // What was changed is looked at again some days later.
  if (known.standing === 'on_sale') known.readAt = desk.now + desk.reviewMs * secondLook;
  desk.shelf.touch(known);
  return [];
}

function takeTerms({ judge, shelf }: Desk, ref: string, sent: Cells): Fault[] {
  const known = shelf.memory.entries[ref];
  if (!stands(known)) return [{ id: 'w12', at: '@ref' }];
  const cells = writeOver(known.cells, sent);
  const faults = [...judge.judgeTerms(cells), ...judgeSteps(cells), ...judgeCoin(cells)];
  if (faults.length) return faults;
  known.cells = cells;
  shelf.touch(known);
  return [];
}

/** An offer joins another seller's entry of the same item, and is on sale at once: nobody has to read what stands there. */
function takeOffer({ judge, shelf }: Desk, ref: string, sent: Cells): Fault[] {
  const known = shelf.memory.entries[ref];
  const there = othersOn(shelf).find((o) => o.number === textAt(sent, '@joins'));
  if (!there || textAt(sent, 'barcode').replace(/^0+/, '') !== there.barcode.replace(/^0+/, ''))
    return [{ id: 'w17', at: there ? 'barcode' : '@joins' }];
  if (stands(known) && known.number !== there.number) return [{ id: 'w13', at: 'barcode' }];
  const cells = writeOver(stands(known) ? known.cells : {}, sent);
  delete cells['@joins'];
  const empty = ['terms.price', 'terms.pieces', 'terms.ready'].filter((at) => textAt(cells, at) === '');
  const faults = [
    ...empty.map((at) => ({ id: 'w01', at })),
    ...judge.judgeTerms(cells),
    ...judgeSteps(cells),
    ...judgeCoin(cells),
  ];
  if (faults.length) return faults;
  const entry: Entry = {
    ref,
    number: there.number,
    cells,
    standing: 'on_sale',
    because: '',
    readAt: 0,
    since: 0,
    sold: known?.sold ?? 0,
    joins: true,
  };
  shelf.memory.entries[ref] = entry;
  shelf.touch(entry);
  return [];
}

function turn({ shelf, now, reviewMs }: Desk, ref: string, isDown: boolean): Fault[] {
  const known = shelf.memory.entries[ref];
  if (!known || known.standing === 'declined') return [{ id: 'w12', at: '@ref' }];
  if (isDown) known.standing = 'resting';
  else if (known.standing === 'resting' && known.joins) known.standing = 'on_sale';
  else if (known.standing === 'resting') Object.assign(known, { standing: 'being_read', readAt: now + reviewMs });
  shelf.touch(known);
  return [];
}

const judgeWhole = (desk: AtWork, ref: string, known: Entry | undefined, cells: Cells): Fault[] => [
  ...desk.judge.judgeEntry(cells),
  ...judgeSteps(cells),
  ...judgeCoin(cells),
  ...judgeAcross(desk, ref, cells),
  ...(stands(known)
    ? ['maker', 'barcode'].filter((at) => known.cells[at] !== cells[at]).map((at) => ({ id: 'w13', at }))
    : []),
];

/** Prices are paid in coins of five fils. */
const judgeSteps = (cells: Cells): Fault[] =>
  ['terms.price', 'terms.sale']
    .filter((at) => /^\d+\.\d{3}$/.test(textAt(cells, at)) && !/[05]$/.test(textAt(cells, at)))
    .map((at) => ({ id: 'w14', at }));
const judgeCoin = (cells: Cells): Fault[] =>
  cells['terms.price.@coin'] !== undefined && cells['terms.price.@coin'] !== 'KWD'
    ? [{ id: 'w02', at: 'terms.price.@coin' }]
    : [];

const isOthers = (shelf: Shelf, barcode: string): boolean =>
  othersOn(shelf).some((o) => o.barcode.replace(/^0+/, '') === barcode.replace(/^0+/, ''));

/** The barcode of one item, and families whose members differ. */
function judgeAcross({ judge, shelf, entries }: AtWork, ref: string, cells: Cells): Fault[] {
  const among = (text: string): Entry[] =>
    // One that another took the place of stands no more.
    entries.among(text).filter((e) => e.ref !== ref && shelf.memory.entries[e.ref] === e && stands(e));
  const code = textAt(cells, 'barcode');
  if (code !== '' && isOthers(shelf, code)) return [{ id: 'w16', at: 'barcode' }];
  const faults: Fault[] =
    code !== '' && among(`code ${code}`).some((e) => textAt(e.cells, 'barcode') === code)
      ? [{ id: 'w06', at: 'barcode' }]
      : [];
  const family = textAt(cells, '@family'),
    axes = textAt(cells, 'differs')
      .split(' ')
      .filter((a) => a !== '');
  if (family === '') return axes.length ? [...faults, { id: 'w10', at: 'differs' }] : faults;
  const allowed = judge.axesOf(textAt(cells, 'shelf'));
  if (axes.length === 0 || axes.length > 2 || axes.some((a) => !allowed.includes(a)))
    return [...faults, { id: 'w10', at: 'differs' }];
  const missing = axes.find((a) => cells[judge.placeOf(a)] === undefined);
  if (missing !== undefined) return [...faults, { id: 'w10', at: judge.placeOf(missing) }];
  const nature = (c: Cells): string =>
    axes.map((a) => `${textAt(c, judge.placeOf(a))} ${textAt(c, `${judge.placeOf(a)}.@unit`)}`).join('|');
  const members = among(`family ${family}`).filter((e) => e.cells['@family'] === family);
  if (
    members.some(
      (e) =>
        textAt(e.cells, 'shelf') !== textAt(cells, 'shelf') || textAt(e.cells, 'differs') !== textAt(cells, 'differs'),
    )
  )
    return [...faults, { id: 'w10', at: '@family' }];
  return members.some((e) => nature(e.cells) === nature(cells))
    ? [...faults, { id: 'w10', at: judge.placeOf(axes[0]!) }]
    : faults;
}

/** Readers come to an end with new entries. Some days later somebody looks again, and takes back what is doubtful. */
export function endReviews(shelf: Shelf, now: number, reviewMs: number): number {
  let ended = 0;
  for (const entry of Object.values(shelf.memory.entries)) {
    if (entry.readAt === 0 || entry.readAt > now) continue;
    if (entry.standing === 'being_read') {
      entry.standing = 'on_sale';
      entry.readAt = now + reviewMs * secondLook;
    } else if (entry.standing === 'on_sale') {
      entry.readAt = 0;
      if (!/\breplica\b|مقلد/i.test(JSON.stringify(entry.cells))) continue;
      entry.standing = 'declined';
      entry.because = 'This is a copy of other goods. هذه نسخة مقلدة';
    } else continue;
    shelf.touch(entry);
    ended++;
  }
  return ended;
}

/** A buyer takes a piece. */
export function sellSome(shelf: Shelf, random: () => number): number {
  const there = Object.values(shelf.memory.entries).filter(
    (e) => e.standing === 'on_sale' && Number(textAt(e.cells, 'terms.pieces') || 0) > 0,
  );
  const entry = there[Math.floor(random() * there.length)];
  if (!entry) return 0;
  entry.cells['terms.pieces'] = String(Number(textAt(entry.cells, 'terms.pieces')) - 1);
  entry.sold++;
  return 1;
}
