// Working through a file row by row, and across rows, in the market's own way.
import { type IndexBy, indexBy } from '../frame';
import type { BookDocument, Cells, Fault } from './book';
import type { Judge } from './judge';
import { type Good, type Shelf, stands } from './shelf';

/** Faults of a row of a file, by its place from 0. */
export type Refusals = Map<number, Fault[]>;

interface Desk {
  book: BookDocument;
  judge: Judge;
  shelf: Shelf;
  now: number;
  reviewMs: number;
}

/** The desk while a file lies on it, with the goods by their barcodes and groups. */
type AtWork = Desk & { goods: IndexBy<Good> };
const textsOf = ({ cells }: Good): string[] => [`code ${cells['streckkod'] ?? ''}`, `group ${cells['grupp'] ?? ''}`];

/** Judges and takes every row of a file; what is not named was taken. */
export function workThrough(desk: Desk, form: string, rows: readonly Cells[]): Refusals {
  const refusals: Refusals = new Map();
  const seen = new Set<string>();
  const work: AtWork = { ...desk, goods: indexBy(Object.values(desk.shelf.memory.goods), textsOf) };
  rows.forEach((cells, i) => {
    const name = `${cells['vara_nr'] ?? ''}/${cells['land'] ?? ''}`;
    const faults = seen.has(name) ? [{ code: '171', field: 'vara_nr' }] : takeRow(work, form, cells);
    seen.add(name);
    if (faults.length) refusals.set(i, faults);
  });
  return refusals;
}

function takeRow(desk: AtWork, form: string, cells: Cells): Fault[] {
  switch (form) {
    case 'hel':
      return takeWhole(desk, cells);
    case 'bud':
      return takeOffer(desk, cells);
    case 'stopp':
      return takeOut(desk, cells);
    default:
      return [{ code: '170', field: 'vara_nr' }];
  }
}

function takeWhole({ book, judge, shelf, now, reviewMs, goods }: AtWork, cells: Cells): Fault[] {
  const sku = cells['vara_nr'] ?? '';
  const known = shelf.memory.goods[sku];
  const faults = [
    ...(/^[A-Z0-9._/-]{2,28}$/.test(sku) ? [] : [{ code: '110', field: 'vara_nr' }]),
    ...judge.judgeRow(cells),
    ...judgeTwin(goods, sku, cells),
    ...judgeGroup(judge, goods, sku, cells),
    ...(stands(known)
      ? ['marke', 'streckkod'].filter((k) => known.cells[k] !== cells[k]).map((field) => ({ code: '112', field }))
      : []),
  ];
  if (faults.length) return faults;
  const good: Good = known ?? { sku, number: String(shelf.memory.nextNumber++), cells: {}, places: {}, quantity: 0 };
  // What is left empty is emptied.
  good.cells = { ...cells };
  good.quantity = Number(cells['antal'] ?? 0);
  const unsold = judge.unsoldIn(cells);
  for (const { key } of book.sites) {
    const place = good.places[key];
    if (unsold.includes(key)) {
      // It ends there, if it was there.
      if (place) {
        place.standing = 'stoppad';
        shelf.touch(place);
      }
      continue;
    }
    if (place?.standing === 'aktiv' || place?.standing === 'granskas') shelf.touch(place);
    else {
      good.places[key] = { standing: 'granskas', reason: '', readyAt: now + reviewMs, stamp: 0, sold: 0 };
      shelf.touch(good.places[key]);
    }
  }
  shelf.memory.goods[sku] = good;
  goods.add(good);
  return [];
}

/** A barcode names one good of a seller. */
function judgeTwin(goods: IndexBy<Good>, sku: string, cells: Cells): Fault[] {
  const code = cells['streckkod'] ?? '';
  const other =
    code !== '' && goods.among(`code ${code}`).some((g) => g.sku !== sku && g.cells['streckkod'] === code && stands(g));
  return other ? [{ code: '131', field: 'streckkod' }] : [];
}

/** Members of a group stand on one shelf, are divided alike and differ by what divides them. */
function judgeGroup(judge: Judge, goods: IndexBy<Good>, sku: string, cells: Cells): Fault[] {
  const group = cells['grupp'] ?? '',
    divided = (cells['delas_av'] ?? '').split('|').filter((a) => a !== '');
  if (group === '') return divided.length ? [{ code: '150', field: 'delas_av' }] : [];
  const allowed = judge.axesOf(cells['hylla'] ?? '');
  if (divided.length === 0 || divided.length > 2 || divided.some((a) => !allowed.includes(a)))
    return [{ code: '150', field: 'delas_av' }];
  const nature = (c: Cells): string => divided.map((a) => c[judge.columnOf(a)] ?? '').join('|');
  const missing = divided.find((a) => (cells[judge.columnOf(a)] ?? '') === '');
  if (missing) return [{ code: '150', field: judge.columnOf(missing) }];
  const others = goods.among(`group ${group}`).filter((g) => g.sku !== sku && g.cells['grupp'] === group && stands(g));
  if (others.some((g) => g.cells['hylla'] !== cells['hylla'] || g.cells['delas_av'] !== cells['delas_av']))
    return [{ code: '150', field: 'grupp' }];
  return others.some((g) => nature(g.cells) === nature(cells))
    ? [{ code: '150', field: judge.columnOf(divided[0]!) }]
    : [];
}

const siteOf = (book: BookDocument, land: string) => book.sites.find((s) => s.key.toUpperCase() === land);

function takeOffer({ book, judge, shelf }: Desk, cells: Cells): Fault[] {
  const good = shelf.memory.goods[cells['vara_nr'] ?? ''],
    site = siteOf(book, cells['land'] ?? '');
  if (!site || !stands(good)) return [{ code: '170', field: site ? 'vara_nr' : 'land' }];
  const place = good.places[site.key];
  if (place?.standing !== 'aktiv' && place?.standing !== 'granskas') return [{ code: '170', field: 'land' }];
  const faults = judge.judgeOffer(cells, site.key, site.currency);
  if (faults.length) return faults;
  for (const key of ['pris', 'reapris', 'rea_fran', 'rea_till']) good.cells[`${key}_${site.key}`] = cells[key] ?? '';
  good.cells['antal'] = cells['antal'] ?? '';
  good.cells['ledtid'] = cells['ledtid'] ?? '';
  good.quantity = Number(cells['antal'] ?? 0);
  shelf.touch(place);
  return [];
}

function takeOut({ book, shelf }: Desk, cells: Cells): Fault[] {
  const good = shelf.memory.goods[cells['vara_nr'] ?? ''],
    site = siteOf(book, cells['land'] ?? '');
  const place = site && good?.places[site.key];
  if (!place || place.standing === 'avvisad') return [{ code: '170', field: site ? 'vara_nr' : 'land' }];
  place.standing = 'stoppad';
  shelf.touch(place);
  return [];
}

/** Readers in each country come to an end with what waits for them: what they doubt is refused there, and only there. */
export function endReviews(shelf: Shelf, now: number): number {
  let ended = 0;
  for (const good of Object.values(shelf.memory.goods))
    for (const [site, place] of Object.entries(good.places)) {
      if (place.standing !== 'granskas' || place.readyAt > now) continue;
      const text = Object.entries(good.cells)
        .filter(([k]) => k.endsWith(site === 'de' ? '_de' : '_sv'))
        .map(([, v]) => v)
        .join(' ');
      const isDoubtful = /\b(nachbildung|replik|kopia)\b/i.test(text);
      place.standing = isDoubtful ? 'avvisad' : 'aktiv';
      place.reason = isDoubtful ? (site === 'de' ? 'Echtheit zweifelhaft' : 'Äkthet oviss') : '';
      shelf.touch(place);
      ended++;
    }
  return ended;
}

/** Buyers in both countries take a few pieces. */
export function sellSome(shelf: Shelf, random: () => number): number {
  const there = Object.values(shelf.memory.goods).filter(
    (g) => g.quantity > 0 && Object.values(g.places).some((p) => p.standing === 'aktiv'),
  );
  const good = there[Math.floor(random() * there.length)];
  if (!good) return 0;
  good.quantity--;
  const place = Object.values(good.places).find((p) => p.standing === 'aktiv')!;
  place.sold++;
  return 1;
}
