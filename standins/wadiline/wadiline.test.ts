import { wadilineDocument } from '@basileus/rulebooks/wadiline';
import { describe, expect, it } from 'vitest';
import { type BookDocument, createJudge, endReviews, isBarcode, openShelf, readSheet, workThrough } from '.';
import type { Cells } from './book';
import { writeSaid } from './lists';
import { writeEntryPage } from './page';

const book = wadilineDocument as BookDocument;
const judge = createJudge(book);
const good = (ref: string, more: Cells = {}): Cells => ({
  '@do': 'new',
  '@ref': ref,
  shelf: 'HC-WOK',
  'words[tongue=ar].name': 'مقلاة ووك Tallow Lane',
  'words[tongue=ar].story': 'مقلاة من الفولاذ للطبخ السريع.',
  'words[tongue=en].name': 'Tallow Lane Wok',
  'words[tongue=en].story': 'A wok of steel for quick cooking.',
  maker: 'Tallow Lane',
  barcode: '9521234567899',
  'picture[]': ['https://p.example/1.jpg'],
  'facts.fact[name=material]': 'carbon',
  'facts.fact[name=across]': '32',
  'facts.fact[name=across].@unit': 'cm',
  'terms.price': '9.550',
  'terms.price.@coin': 'KWD',
  'terms.pieces': '7',
  'terms.ready': '3',
  ...more,
});
const offer = (ref: string, more: Cells = {}): Cells => ({
  '@ref': ref,
  '@joins': 'W900001',
  barcode: '9529990000018',
  'terms.price': '9.550',
  'terms.price.@coin': 'KWD',
  'terms.pieces': '7',
  'terms.ready': '3',
  ...more,
});
const openDesk = () => ({ book, judge, shelf: openShelf(undefined), now: 1000, reviewMs: 500 });
const faultsOf = (desk: ReturnType<typeof openDesk>, ...entries: Cells[]) =>
  workThrough(desk, 'full', entries).map((s) => s.faults.map((f) => `${f.id} ${f.at}`));

describe('an entry', () => {
  it('is taken, read by a person, put on sale, and looked at again', () => {
    const desk = openDesk();
    expect(workThrough(desk, 'full', [good('WOK-1')])).toEqual([
      { n: 1, ref: 'WOK-1', word: 'taken', number: 'W500001', faults: [] },
    ]);
    const entry = desk.shelf.memory.entries['WOK-1']!;
    expect(endReviews(desk.shelf, 1499, 500)).toBe(0);
    endReviews(desk.shelf, 1500, 500);
    expect(entry.standing).toBe('on_sale');
    entry.cells['words[tongue=en].name'] = 'A replica';
    endReviews(desk.shelf, 2999, 500);
    expect(entry.standing).toBe('on_sale');
    endReviews(desk.shelf, 3000, 500);
    expect([entry.standing, entry.because]).toEqual(['declined', expect.stringContaining('copy')]);
  });
  it.each<[string, Cells, string]>([
    ['an Arabic name in Latin letters', { 'words[tongue=ar].name': 'Wok for all' }, 'w07 words[tongue=ar].name'],
    [
      'an English story in Arabic',
      { 'words[tongue=en].story': 'مقلاة من الفولاذ للطبخ السريع' },
      'w07 words[tongue=en].story',
    ],
    ['a price between two coins', { 'terms.price': '9.551' }, 'w02 terms.price'],
    ['another coin', { 'terms.price.@coin': 'GBP' }, 'w02 terms.price.@coin'],
    ['a unit that is not taken', { 'facts.fact[name=across].@unit': 'in' }, 'w02 facts.fact[name=across].@unit'],
    ['a sale that is none', { 'terms.sale': '9.550', 'terms.sale.@from': '2026-11-27' }, 'w09 terms.sale'],
    ['a sale without a day', { 'terms.sale': '9.000' }, 'w09 terms.sale.@from'],
    ['advertisement in Arabic', { 'words[tongue=ar].name': 'مقلاة ووك توصيل مجاني' }, 'w08 words[tongue=ar].name'],
    ['a shelf that takes nothing', { shelf: 'home' }, 'w11 shelf'],
  ])('with %s is declined', (_, more, fault) => {
    const [faults] = faultsOf(openDesk(), good('WOK-1', more));
    // Steps of five fils are told where the amount is otherwise right.
    expect(faults!.map((f) => (f === 'w14 terms.price' ? 'w02 terms.price' : f))).toContain(fault);
  });
  it('changes only where it is named, and is emptied by a lone sign', () => {
    const desk = openDesk();
    workThrough(desk, 'full', [good('WOK-1', { 'facts.fact[name=colour]': 'black' })]);
    expect(faultsOf(desk, { '@do': 'amend', '@ref': 'WOK-1', 'facts.fact[name=colour]': '~' })).toEqual([[]]);
    expect(desk.shelf.memory.entries['WOK-1']!.cells).not.toHaveProperty('facts.fact[name=colour]');
    expect(faultsOf(desk, { '@do': 'amend', '@ref': 'WOK-1', maker: 'Other' })).toEqual([['w13 maker']]);
    expect(faultsOf(desk, { '@do': 'amend', '@ref': 'GHOST' })).toEqual([['w12 @ref']]);
  });
  it('rests, is woken, and has its barcode alone', () => {
    const desk = openDesk();
    faultsOf(desk, good('WOK-1'));
    expect(faultsOf(desk, good('WOK-2'))).toEqual([['w06 barcode']]);
    faultsOf(desk, { '@do': 'rest', '@ref': 'WOK-1' });
    expect(desk.shelf.memory.entries['WOK-1']!.standing).toBe('resting');
    faultsOf(desk, { '@do': 'wake', '@ref': 'WOK-1' });
    expect(desk.shelf.memory.entries['WOK-1']!.standing).toBe('being_read');
  });
  it('in a family differs from the others by what divides it', () => {
    const member = (ref: string, barcode: string, across: string): Cells =>
      good(ref, { '@family': 'WOK', differs: 'across', barcode, 'facts.fact[name=across]': across });
    const desk = openDesk();
    expect(faultsOf(desk, member('WOK-1', '9521234567899', '32'), member('WOK-2', '9529990000308', '36'))).toEqual([
      [],
      [],
    ]);
    expect(faultsOf(desk, member('WOK-3', '9529990000315', '36'))).toEqual([['w10 facts.fact[name=across]']]);
  });
});

describe('a sheet', () => {
  const read = (text: string) => readSheet(text, judge.many);
  it('is read with its attributes, tongues and units', () => {
    const [entry] = read(
      '<sheet><entry do="new" ref="A&amp;B"><words tongue="ar"><name>مقلاة</name><point>a</point><point>b</point></words><facts><fact name="across" unit="cm">32</fact></facts></entry></sheet>',
    )!;
    expect(entry).toEqual({
      '@do': 'new',
      '@ref': 'A&B',
      'words[tongue=ar].name': 'مقلاة',
      'words[tongue=ar].point[]': ['a', 'b'],
      'facts.fact[name=across]': '32',
      'facts.fact[name=across].@unit': 'cm',
    });
  });
  it.each(['<sheet><entry>', 'no sheet', '<!DOCTYPE sheet [<!ENTITY a "b">]><sheet/>', '<other/>'])(
    'is none: %s',
    (text) => {
      expect(read(text)).toBeUndefined();
    },
  );
});

it('says what became of each, and shows buyers a page in each language', () => {
  const desk = openDesk();
  const said = workThrough(desk, 'full', [good('WOK-1'), good('WOK-1')]);
  expect(writeSaid('a.xml', said)).toContain(
    '<said file="a.xml" entries="2">\n<of n="1" ref="WOK-1" word="taken" number="W500001"></of>\n<of n="2" ref="WOK-1" word="declined" number="W500001"><fault id="w15" at="@ref"/></of>',
  );
  const entry = desk.shelf.memory.entries['WOK-1']!;
  expect(writeEntryPage(entry, 'ar')).toContain('<html lang="ar" dir="rtl">');
  expect(writeEntryPage(entry, 'en')).toContain('<h1>Tallow Lane Wok</h1>');
});

it.each([
  ['9521234567899', true],
  ['95200002', true],
  ['1234-5679', true],
  ['1234-5678', false],
  ['20000004', false],
  ['9521234567890', false],
])('%s is a barcode: %s', (code, is) => {
  expect(isBarcode(code)).toBe(is);
});

describe('an offer on an entry of another seller', () => {
  const join = (desk: ReturnType<typeof openDesk>, ...offers: Cells[]) =>
    workThrough(desk, 'offer', offers).map((s) => [s.number, ...s.faults.map((f) => `${f.id} ${f.at}`)]);
  it('is on sale at once under the number of the entry, changes its terms, rests and wakes', () => {
    const desk = openDesk();
    expect(join(desk, offer('POT-1'))).toEqual([['W900001']]);
    const entry = desk.shelf.memory.entries['POT-1']!;
    expect([entry.standing, entry.joins]).toEqual(['on_sale', true]);
    expect(workThrough(desk, 'terms', [{ '@ref': 'POT-1', 'terms.price': '8.000' }])[0]!.faults).toEqual([]);
    expect(entry.cells['terms.price']).toBe('8.000');
    const turn = (word: string) => workThrough(desk, 'full', [{ '@do': word, '@ref': 'POT-1' }])[0]!.faults;
    expect([turn('rest'), entry.standing]).toEqual([[], 'resting']);
    expect([turn('wake'), entry.standing]).toEqual([[], 'on_sale']);
    expect(faultsOf(desk, { ...good('POT-1'), '@do': 'amend' })).toEqual([['w12 @ref']]);
  });
  it.each<[string, Cells, string]>([
    ['no such entry', { '@joins': 'W1' }, 'w17 @joins'],
    ['another item', { barcode: '9521234567899' }, 'w17 barcode'],
    ['no price', { 'terms.price': '' }, 'w01 terms.price'],
    ['a price between two coins', { 'terms.price': '9.551' }, 'w14 terms.price'],
  ])('with %s is declined', (_, more, fault) => {
    expect(join(openDesk(), offer('POT-1', more))[0]).toContain(fault);
  });
  it('is what the item needs: a second entry of it is declined', () => {
    expect(faultsOf(openDesk(), good('POT-1', { barcode: '9529990000018' }))).toEqual([['w16 barcode']]);
  });
});
