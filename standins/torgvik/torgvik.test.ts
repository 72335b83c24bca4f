import { torgvikDocument } from '@basileus/rulebooks/torgvik';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import validator from 'validator';
import {
  type BookDocument,
  createJudge,
  endReviews,
  isBarcode,
  openShelf,
  type RunningMarket,
  startMarket,
  workThrough,
} from '.';

const book = torgvikDocument as BookDocument;
const judge = createJudge(book);
const good: Record<string, string> = {
  vara_nr: 'FP-1',
  hylla: 'T4-0110',
  streckkod: '9521234567899',
  marke: 'Brindlewick',
  titel_de: 'Brindlewick Hearth Bratpfanne 28 cm',
  titel_sv: 'Brindlewick Hearth Stekpanna 28 cm',
  text_de: '<p>Eine Pfanne für jeden Tag, mit ebenem Boden.</p>',
  text_sv: '<p>En panna för varje dag, med plan botten.</p>',
  punkter_de: 'Hält die Wärme|Ebener Boden',
  punkter_sv: 'Håller värmen|Jämn botten',
  bild_1: 'https://p.example/1.jpg',
  bild_2: 'https://p.example/2.jpg',
  ansvarig_eu: 'Brindlewick Continental, Hafenstadt',
  paket_v_g: '2300',
  material: 'M10',
  diameter_mm: '280',
  moms_klass: 'M1',
  pris_de: '39,99',
  pris_se: '449,00',
  antal: '40',
  ledtid: 'D3',
};
let shelf = openShelf(undefined);
beforeEach(() => {
  shelf = openShelf(undefined);
});
const send = (form: string, ...rows: Record<string, string>[]) =>
  [...workThrough({ book, judge, shelf, now: 0, reviewMs: 1000 }, form, rows)].map(
    ([i, faults]) => `${i}: ${faults.map((f) => `${f.code} ${f.field}`).join(', ')}`,
  );

describe('the market’s own verdict on whole goods', () => {
  it('takes a good row, and reads it in each country before it is shown there', () => {
    expect(send('hel', good)).toEqual([]);
    expect(endReviews(shelf, 999)).toBe(0);
    expect(endReviews(shelf, 1000)).toBe(2);
    expect(Object.values(shelf.memory.goods['FP-1']!.places).map((p) => p.standing)).toEqual(['aktiv', 'aktiv']);
  });
  it.each([
    ['an empty must', { ansvarig_eu: '' }, '101 ansvarig_eu'],
    ['a text missing in one language', { titel_sv: '' }, '140 titel_sv'],
    ['several things at once', { titel_sv: '', material: 'M1' }, '140 titel_sv, 118 material'],
    ['a decimal point', { pris_de: '39.99' }, '110 pris_de'],
    ['a price missing in one country', { pris_se: '' }, '101 pris_se'],
    ['three decimals', { pris_de: '39,999' }, '110 pris_de'],
    ['a barcode with a wrong digit', { streckkod: '9521234567890' }, '130 streckkod'],
    ['a field of another category', { innehall_de: 'Tee' }, '121 innehall_de'],
    ['a category that takes nothing', { hylla: 'T4-01' }, '230 hylla'],
    ['a day of another form', { reapris_de: '29,99', rea_fran_de: '2026-11-27' }, '110 rea_fran_de, 208 rea_fran_de'],
    ['a sale that is none', { reapris_se: '449,00', rea_fran_se: '27.11.2026' }, '208 reapris_se'],
    [
      'a sale that ends first',
      { reapris_se: '99,00', rea_fran_se: '27.11.2026', rea_till_se: '26.11.2026' },
      '208 rea_till_se',
    ],
    ['words of advertisement of the language', { titel_de: 'Brindlewick Pfanne BESTPREIS' }, '141 titel_de'],
    ['one picture', { bild_2: '' }, '101 bild_1'],
    ['more than it shows', { antal: '501' }, '160 antal'],
    ['a free material without its name', { material: 'M99' }, '101 material_fritt'],
    ['a SKU in small letters', { vara_nr: 'fp-1' }, '110 vara_nr'],
  ])('turns back %s', (_, change, faults) => {
    expect(send('hel', { ...good, ...change })).toEqual([`0: ${faults}`]);
  });
  it('does not mind words of advertisement of another language', () => {
    expect(send('hel', { ...good, titel_sv: 'Brindlewick Bestpreis Panna' })).toEqual([]);
  });
  it('empties what is left empty, and does not let brand or barcode change', () => {
    send('hel', { ...good, diskmaskin: 'ja' });
    expect(send('hel', { ...good })).toEqual([]);
    expect(shelf.memory.goods['FP-1']!.cells['diskmaskin'] ?? '').toBe('');
    expect(send('hel', { ...good, marke: 'Other' })).toEqual(['0: 112 marke']);
  });
  it('is not sold in a country of which a row says nothing, and ends there where it was', () => {
    const onlyGerman = Object.fromEntries(Object.entries(good).filter(([k]) => !/_(se|sv)$/.test(k)));
    expect(send('hel', onlyGerman)).toEqual([]);
    expect(Object.keys(shelf.memory.goods['FP-1']!.places)).toEqual(['de']);
    expect(
      send('bud', { vara_nr: 'FP-1', land: 'SE', pris: '429,00', valuta: 'SEK', antal: '1', ledtid: 'D1' }),
    ).toEqual(['0: 170 land']);
    expect(send('hel', good)).toEqual([]);
    expect(shelf.memory.goods['FP-1']!.places['se']).toMatchObject({ standing: 'granskas' });
    expect(send('hel', onlyGerman)).toEqual([]);
    expect(shelf.memory.goods['FP-1']!.places).toMatchObject({
      de: { standing: 'granskas' },
      se: { standing: 'stoppad' },
    });
    // Half of a country is not none of it, and sold nowhere is no way to be sold.
    expect(send('hel', { ...onlyGerman, titel_sv: 'Brindlewick Stekpanna 28 cm' })).toEqual([
      expect.stringContaining('101 pris_se'),
    ]);
    const nowhere = Object.fromEntries(Object.entries(onlyGerman).filter(([k]) => !/_de$/.test(k)));
    expect(send('hel', nowhere)).toEqual([
      expect.stringMatching(/140 titel_de.*140 titel_sv.*101 pris_de.*101 pris_se/),
    ]);
  });
  it('wants groups of one shelf, divided alike, whose members differ', () => {
    const member = (sku: string, code: string, more: Record<string, string> = {}) => ({
      ...good,
      vara_nr: sku,
      streckkod: code,
      grupp: 'FP',
      delas_av: 'diameter',
      ...more,
    });
    const codes = ['9521234567899', '9521234567882', '9521234567875'];
    expect(codes.every(isBarcode)).toBe(true);
    expect(send('hel', member('A1', codes[0]!), member('B1', codes[1]!, { diameter_mm: '240' }))).toEqual([]);
    expect(send('hel', member('C1', codes[2]!, { diameter_mm: '240' }))).toEqual(['0: 150 diameter_mm']);
    expect(send('hel', member('C1', codes[2]!, { delas_av: 'farg', farg: 'F01' }))).toEqual(['0: 150 grupp']);
    expect(send('hel', member('C1', codes[2]!, { delas_av: 'volym' }))).toEqual(
      expect.arrayContaining([expect.stringContaining('150 delas_av')]),
    );
    expect(send('hel', member('C1', codes[0]!, { diameter_mm: '200' }))).toEqual(['0: 131 streckkod']);
  });
});

describe('offers and taking out', () => {
  const offer = { vara_nr: 'FP-1', land: 'SE', pris: '429,00', valuta: 'SEK', antal: '12', ledtid: 'D1' };
  it('go by country', () => {
    send('hel', good);
    expect(send('bud', offer)).toEqual([]);
    expect(shelf.memory.goods['FP-1']).toMatchObject({ quantity: 12, cells: { pris_se: '429,00', pris_de: '39,99' } });
    expect(send('stopp', { vara_nr: 'FP-1', land: 'SE' })).toEqual([]);
    expect(shelf.memory.goods['FP-1']!.places).toMatchObject({
      de: { standing: 'granskas' },
      se: { standing: 'stoppad' },
    });
  });
  it.each([
    ['the money of another country', { valuta: 'EUR' }, '207 valuta'],
    ['no price', { pris: '' }, '101 pris'],
    ['a country that is none', { land: 'NO' }, '170 land'],
    ['what does not stand there', { vara_nr: 'FP-9' }, '170 vara_nr'],
  ])('turn back %s', (_, change, fault) => {
    send('hel', good);
    expect(send('bud', { ...offer, ...change })).toEqual([`0: ${fault}`]);
  });
  it('name a number once a country', () => {
    send('hel', good);
    expect(send('bud', offer, { ...offer, land: 'DE', valuta: 'EUR' }, offer)).toEqual(['2: 171 vara_nr']);
  });
});

describe('reviews', () => {
  it('refuse in the country whose reader doubts, and there alone', () => {
    send('hel', { ...good, text_sv: '<p>En kopia av en känd panna, mycket fin.</p>' });
    endReviews(shelf, 1000);
    expect(shelf.memory.goods['FP-1']!.places).toMatchObject({
      de: { standing: 'aktiv' },
      se: { standing: 'avvisad', reason: 'Äkthet oviss' },
    });
  });
});

describe('barcodes', () => {
  // A general-purpose package is the judge; restricted and coupon numbers are left out before (GS1 General Specifications, prefixes).
  it('are counted as the package validator counts them', () => {
    const random = (
      (seed) => () =>
        (seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0) / 4294967296
    )(5);
    let right = 0;
    for (let i = 0; i < 5000; i++) {
      const text = `40${String(Math.floor(random() * 1e11)).padStart(11, '0')}`;
      if (validator.isEAN(text)) right++;
      expect(isBarcode(text), text).toBe(validator.isEAN(text));
    }
    expect(right).toBeGreaterThan(300);
  });
});

describe('over HTTP', () => {
  let market: RunningMarket | undefined;
  afterEach(() => market?.stop());
  it('takes a file once a key, answers with what it refused, and lists how goods stand', async () => {
    const base = await new Promise<string>((done) => {
      market = startMarket({ book, workMs: 10, reviewMs: 0, sellEveryMs: 0 }, 0, (p) => {
        done(`http://127.0.0.1:${p}`);
      });
    });
    const keys = book.forms.find((f) => f.key === 'hel')!.slots.map((s) => s.key);
    const line = (cells: Record<string, string>) => keys.map((k) => cells[k] ?? '').join(';');
    const file = [
      keys.join(';'),
      keys.join(';'),
      keys.join(';'),
      line(good),
      line({ ...good, vara_nr: 'FP-2', titel_sv: '' }),
    ].join('\r\n');
    const hand = () =>
      fetch(`${base}/inlamning/hel?fil=x.csv`, { method: 'POST', body: file, headers: { 'Idempotency-Key': 'k-1' } });
    const first = await hand();
    expect(first.status).toBe(201);
    const place = first.headers.get('location')!;
    expect((await hand()).headers.get('location')).toBe(place);
    let answer = await fetch(`${base}${place}/fel`);
    while (answer.status === 204) answer = await fetch(`${base}${place}/fel`);
    expect((await answer.text()).split('\r\n').slice(0, 3)).toEqual([
      'Datei;x.csv;Zeilen;2;abgelehnt;1',
      'rad;felkod;falt;forklaring',
      '5;140,131;titel_sv,streckkod;',
    ]);
    const lines = async () => (await (await fetch(`${base}/varor?efter=`)).text()).trim().split('\r\n');
    while (!(await lines()).some((l) => l.includes('aktiv'))) await new Promise((r) => setImmediate(r));
    expect((await lines())[0]).toBe('vara_nr;land;vara_id;laege;skal;andrad;pris;reapris;antal');
    expect((await lines()).slice(1).map((l) => l.split(';').slice(0, 4))).toEqual([
      ['FP-1', 'DE', '40000001', 'aktiv'],
      ['FP-1', 'SE', '40000001', 'aktiv'],
    ]);
    expect(await (await fetch(`${base}/se/vara/40000001`)).text()).toContain('Brindlewick Hearth Stekpanna 28 cm');
    expect((await fetch(`${base}/inlamning/annat`, { method: 'POST', body: 'x' })).status).toBe(400);
  });
});
