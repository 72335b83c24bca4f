// Working through a dropped file record by record, and across records, in the market's own way.
import { type IndexBy, indexBy } from '../frame';
import type { BookDocument, Group, Json, Note } from './book';
import type { Judge } from './judge';
import { lookUp, mergeInto, textAt } from './place';
import { type Entry, type Line, type Shelf, stands } from './shelf';

export interface Desk {
  book: BookDocument;
  judge: Judge;
  shelf: Shelf;
  now: number;
  reviewMs: number;
}

/** The desk while a file lies on it, with the entries by their codes and kin. */
type AtWork = Desk & { entries: IndexBy<Entry> };
const codeOf = (record: Group): string => textAt(record, 'say.code').padStart(14, '0');
const textsOf = ({ record }: Entry): string[] => [`code ${codeOf(record)}`, `kin ${textAt(record, 'kin.of')}`];

/** Judges and takes every record of a file; a line for each. */
export function workThrough(desk: Desk, form: string, records: readonly Group[]): Line[] {
  const seen = new Set<string>();
  const work: AtWork = { ...desk, entries: indexBy(Object.values(desk.shelf.memory.entries), textsOf) };
  return records.map((record, n): Line => {
    const ref = textAt(record, 'ref');
    const notes = seen.has(ref) ? [{ id: 'n_twice', at: 'ref' }] : takeRecord(work, form, ref, record);
    seen.add(ref);
    const entry = desk.shelf.memory.entries[ref];
    if (entry) work.entries.add(entry);
    if (notes.length === 0) return { n, ref, went: 'in', ...(entry ? { entry: entry.number } : {}) };
    return { n, ref, went: 'out', notes: notes.map((note) => ({ ...note, words: '' })) };
  });
}

function takeRecord(desk: AtWork, form: string, ref: string, record: Group): Note[] {
  if (!/^[ -~]{1,50}$/.test(ref)) return [{ id: 'n_form', at: 'ref' }];
  if (form !== 'goods') return takePart(desk, form, ref, record);
  switch (textAt(record, 'act')) {
    case 'add':
      return takeWhole(desk, ref, record);
    case 'amend':
      return amend(desk, ref, record);
    case 'shelve':
    case 'unshelve':
      return turn(desk, ref, textAt(record, 'act') === 'shelve');
    default:
      return [{ id: 'n_form', at: 'act' }];
  }
}

/** A new entry, or a whole one in place of what stands there. */
function takeWhole(desk: AtWork, ref: string, { act: _, ...record }: Group): Note[] {
  const { judge, shelf } = desk;
  const known = shelf.memory.entries[ref];
  const notes = [...judge.judgeEntry(record), ...judgeAcross(desk, ref, record), ...judgeFixed(known, record)];
  if (notes.length) return notes;
  const entry: Entry = known ?? {
    ref,
    number: `G${shelf.memory.nextNumber++}`,
    record: {},
    standing: 'looked_at',
    because: '',
    readyAt: 0,
    stamp: 0,
    sold: 0,
  };
  entry.record = record;
  if (!stands(known)) Object.assign(entry, { standing: 'looked_at', because: '', readyAt: desk.now + desk.reviewMs });
  shelf.memory.entries[ref] = entry;
  shelf.touch(entry);
  return [];
}

/** Only what is named changes; what is null is emptied. The entry has to be right as a whole afterwards. */
function amend(desk: AtWork, ref: string, { act: _, ...patch }: Group): Note[] {
  const { judge, shelf } = desk;
  const known = shelf.memory.entries[ref];
  if (!known) return [{ id: 'n_unknown', at: 'ref' }];
  const record = mergeInto(known.record, patch);
  const notes = [...judge.judgeEntry(record), ...judgeAcross(desk, ref, record), ...judgeFixed(known, record)];
  if (notes.length) return notes;
  known.record = record;
  if (known.standing === 'turned_down')
    Object.assign(known, { standing: 'looked_at', because: '', readyAt: desk.now + desk.reviewMs });
  shelf.touch(known);
  return [];
}

function takePart({ judge, shelf }: Desk, form: string, ref: string, patch: Group): Note[] {
  const known = shelf.memory.entries[ref];
  if (!stands(known) || textAt(known.record, 'kin.part') === 'head') return [{ id: 'n_unknown', at: 'ref' }];
  const record = mergeInto(known.record, patch);
  const notes = judge.judgePart(record, form);
  if (notes.length) return notes;
  known.record = record;
  shelf.touch(known);
  return [];
}

function turn({ shelf, now, reviewMs }: Desk, ref: string, isDown: boolean): Note[] {
  const known = shelf.memory.entries[ref];
  if (!known || known.standing === 'turned_down') return [{ id: 'n_unknown', at: 'ref' }];
  if (isDown) known.standing = 'shelved';
  else if (known.standing === 'shelved') Object.assign(known, { standing: 'looked_at', readyAt: now + reviewMs });
  shelf.touch(known);
  return [];
}

/** Maker and item code of what stands there do not change. */
const judgeFixed = (known: Entry | undefined, record: Group): Note[] =>
  stands(known)
    ? ['say.maker', 'say.code']
        .filter((at) => textAt(known.record, at) !== textAt(record, at))
        .map((at) => ({ id: 'n_fixed', at }))
    : [];

/** What concerns other entries: the code of one item, and families. */
function judgeAcross({ judge, shelf, entries }: AtWork, ref: string, record: Group): Note[] {
  const code = textAt(record, 'say.code');
  const among = (text: string): Entry[] => entries.among(text).filter((e) => e.ref !== ref && stands(e));
  const twice = code !== '' && among(`code ${codeOf(record)}`).some((e) => codeOf(e.record) === codeOf(record));
  const kin = among(`kin ${textAt(record, 'kin.of')}`);
  return [...(twice ? [{ id: 'n_code_twice', at: 'say.code' }] : []), ...judgeKin(judge, shelf, record, kin)];
}

const listAt = (record: Group, place: string): Json[] => {
  const value = lookUp(record, place);
  return Array.isArray(value) ? value : [];
};

function judgeKin(judge: Judge, shelf: Shelf, record: Group, kin: readonly Entry[]): Note[] {
  const part = textAt(record, 'kin.part'),
    vary = listAt(record, 'kin.vary').map(String);
  const no = (at: string): Note[] => [{ id: 'n_kin', at }];
  if (part === 'alone') return vary.length > 0 ? no('kin.vary') : [];
  if (part !== 'head' && part !== 'member') return [{ id: 'n_form', at: 'kin.part' }];
  const allowed = judge.axesOf(textAt(record, 'aisle'));
  if (vary.length === 0 || vary.length > 2 || vary.some((v) => !allowed.includes(v))) return no('kin.vary');
  if (part === 'head') return [];
  const head = shelf.memory.entries[textAt(record, 'kin.of')];
  if (!head || textAt(head.record, 'kin.part') !== 'head') return no('kin.of');
  if (textAt(head.record, 'aisle') !== textAt(record, 'aisle')) return no('aisle');
  if (listAt(head.record, 'kin.vary').join() !== vary.join()) return no('kin.vary');
  const nature = (r: Group): string => vary.map((v) => JSON.stringify(lookUp(r, judge.placeOf(v)) ?? null)).join();
  const missing = vary.find((v) => lookUp(record, judge.placeOf(v)) === undefined);
  if (missing !== undefined) return no(judge.placeOf(missing));
  const isAlike = kin.some((e) => textAt(e.record, 'kin.of') === head.ref && nature(e.record) === nature(record));
  return isAlike ? no(judge.placeOf(vary[0]!)) : [];
}

/** Readers come to an end with what waits for them. */
export function endReviews(shelf: Shelf, now: number): number {
  let ended = 0;
  for (const entry of Object.values(shelf.memory.entries)) {
    if (entry.standing !== 'looked_at' || entry.readyAt > now) continue;
    const isDoubtful = /\b(replica|knock-?off)\b/i.test(JSON.stringify(entry.record));
    entry.standing = isDoubtful ? 'turned_down' : 'showing';
    entry.because = isDoubtful ? 'We doubt that these goods are genuine.' : '';
    shelf.touch(entry);
    ended++;
  }
  return ended;
}

/** A buyer takes a piece. */
export function sellSome(shelf: Shelf, random: () => number): number {
  const there = Object.values(shelf.memory.entries).filter(
    (e) => e.standing === 'showing' && Number(lookUp(e.record, 'stock.on_hand') ?? 0) > 0,
  );
  const entry = there[Math.floor(random() * there.length)];
  if (!entry) return 0;
  const left = Number(lookUp(entry.record, 'stock.on_hand')) - 1;
  entry.record = mergeInto(entry.record, { stock: { on_hand: left } });
  entry.sold++;
  return 1;
}
