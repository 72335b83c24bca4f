import { lumbaraDocument } from '@basileus/rulebooks/lumbara';
import { beforeEach, describe, expect, it } from 'vitest';
import { type BookDocument, createJudge, endReviews, openShelf, workThrough } from '.';
import { bytesOf, columnsOf } from './characters';
import { findEntries, writeShelfList } from './lists';
import { writeEntryPage } from './page';

const book = lumbaraDocument as BookDocument;
const judge = createJudge(book);
type Row = Record<string, string>;
const head: Row = {
  用件: '1',
  組番: 'FP-1',
  棚: '310204',
  呼び名: 'ハース　フライパン　24cm',
  呼び名カナ: 'ハース　フライパン',
  話: '底が平らで縁が斜めの、毎日使うフライパンです。',
  銘: 'Brindlewick',
  新旧: '1',
  税の別: '1',
  絵1: 'https://p.example/1.jpg',
  材: '301/302',
};
const item = (n: number, sku: string, jan: string, more: Row = {}): Row => ({
  [`枝${n}符号`]: sku,
  [`枝${n}JAN`]: jan,
  [`枝${n}直径`]: String(20 + n),
  [`枝${n}値`]: '4980',
  [`枝${n}残り`]: '12',
  ...more,
});
const alone: Row = { ...head, 直径: '24', ...item(1, 'FP-1', '9521234567899', { 枝1直径: '24' }) };
const family: Row = {
  ...head,
  分け方: '直径',
  ...item(1, 'FP-1-A', '9521234567899'),
  ...item(2, 'FP-1-B', '9520000001001'),
};
let shelf = openShelf(undefined);
beforeEach(() => {
  shelf = openShelf(undefined);
});
const sendTo = (form: string, ...rows: Row[]): string[] =>
  workThrough({ book, judge, shelf, now: 0, reviewMs: 100 }, form, rows).map((faults) =>
    faults.map((f) => `${f.code} ${f.column}`).join(', '),
  );
const send = (...rows: Row[]): string[] => sendTo('ichiran', ...rows);
const standings = (): Row =>
  Object.fromEntries(Object.values(shelf.memory.entries['FP-1']!.items).map((i) => [i.sku, i.standing]));

describe('the market’s own verdict on an entry', () => {
  it('takes an item by itself, and a family side by side, and reads them before they are shown', () => {
    expect(send(alone)).toEqual(['']);
    shelf = openShelf(undefined);
    expect(send(family)).toEqual(['']);
    expect(standings()).toEqual({ 'FP-1-A': '2', 'FP-1-B': '2' });
    expect([endReviews(shelf, 99), endReviews(shelf, 100)]).toEqual([0, 1]);
    expect(standings()).toEqual({ 'FP-1-A': '1', 'FP-1-B': '1' });
  });
  it.each<[string, Row, string]>([
    ['an empty column', { 材: '' }, '301 材'],
    ['a name with too many bytes', { 呼び名: 'フ'.repeat(29) }, '305 呼び名'],
    ['a narrow space', { 呼び名: 'ハース フライパン　24cm' }, '306 呼び名'],
    ['half-width kana', { 呼び名: 'ﾊｰｽ　フライパン　24cm' }, '306 呼び名'],
    ['a name that nobody here reads', { 呼び名: 'Hearth　pan　24cm' }, '317 呼び名'],
    ['a reading in hiragana', { 呼び名カナ: 'はーす' }, '302 呼び名カナ'],
    ['a word that advertises', { 呼び名: 'ハース　フライパン　送料無料' }, '309 呼び名'],
    ['a material that is on no list', { 材: '301/999' }, '303 材'],
    ['a column that frying pans do not use', { 電力: '900' }, '304 電力'],
    ['a shelf that takes nothing', { 棚: '310200' }, '312 棚'],
    ['a price with decimals', { 枝1値: '49.80' }, '302 枝1値'],
    ['a barcode with a wrong digit', { 枝1JAN: '9521234567890' }, '307 枝1JAN'],
    ['a sale without a beginning', { 枝1安値: '3980' }, '301 枝1安値から, 310 枝1安値から'],
    [
      'a sale that ends before it begins',
      { 枝1安値: '3980', 枝1安値から: '2026/11/27 00:00:00', 枝1安値まで: '2026/11/26 00:00:00' },
      '310 枝1安値まで',
    ],
    [
      'a day of no calendar',
      { 枝1安値: '3980', 枝1安値から: '2026/02/30 00:00:00' },
      '302 枝1安値から, 310 枝1安値から',
    ],
    ['a division of one', { 分け方: '直径' }, '311 分け方'],
    ['an operation that is none', { 用件: '7' }, '302 用件'],
  ])('finds %s', (_, change, faults) => {
    expect(send({ ...alone, ...change })).toEqual([faults]);
  });
  it.each<[string, Row, string]>([
    ['variants that are not told apart', { 枝2直径: '21' }, '311 枝2直径'],
    ['a variant without what divides', { 枝2直径: '' }, '311 枝2直径'],
    ['a division that the shelf does not allow', { 分け方: '寸法' }, '301 直径, 311 分け方'],
    ['a family that is not divided', { 分け方: '' }, '301 直径, 311 分け方'],
    ['one barcode on two variants', { 枝2JAN: '9521234567899' }, '308 枝1JAN, 308 枝2JAN'],
    ['no variant at all', { 枝1符号: '', 枝2符号: '' }, '315 組番'],
  ])('finds %s', (_, change, faults) => {
    expect(send({ ...family, ...change })).toEqual([faults]);
  });
  it('takes each entry once a file, and nothing of one that is at fault', () => {
    expect(send(family, family)).toEqual(['', '316 組番']);
    expect(send({ ...family, 組番: 'FP-2', 枝1JAN: '' })).toEqual(['301 枝1JAN, 308 枝2JAN']);
    expect(shelf.memory.entries['FP-2']).toBeUndefined();
  });
});

describe('an entry that stands', () => {
  beforeEach(() => {
    send(family);
    endReviews(shelf, 100);
  });
  const entry = () => shelf.memory.entries['FP-1']!;
  it('keeps what is left blank, changes what is said, and empties what is to be empty', () => {
    expect(send({ 用件: '2', 組番: 'FP-1', 呼び名: 'ハース　フライパン　深型', 材: '302' })).toEqual(['']);
    expect(entry().cells).toMatchObject({ 呼び名: 'ハース　フライパン　深型', 材: '302', 銘: 'Brindlewick' });
    expect(send({ 用件: '2', 組番: 'FP-1', 材: '＊空＊' })).toEqual(['301 材']);
    expect(send({ 用件: '2', 組番: 'FP-1', 英字名: 'Hearth' }, { 用件: '2', 組番: 'FP-9' })).toEqual(['', '313 組番']);
    expect(send({ 用件: '2', 組番: 'FP-1', 英字名: '＊空＊' })).toEqual(['']);
    expect(entry().cells['英字名']).toBe('');
  });
  it('is joined by a variant, which is read while the others stay shown', () => {
    const third = item(1, 'FP-1-C', '9520000001018', { 枝1直径: '30' });
    expect(send({ 用件: '1', 組番: 'FP-1', ...third })).toEqual(['']);
    expect(standings()).toEqual({ 'FP-1-A': '1', 'FP-1-B': '1', 'FP-1-C': '2' });
    expect(send({ 用件: '1', 組番: 'FP-1', ...item(1, 'FP-1-D', '9520000001025', { 枝1直径: '30' }) })).toEqual([
      '311 枝1直径',
    ]);
    endReviews(shelf, 100);
    expect(standings()['FP-1-C']).toBe('1');
  });
  it('keeps its brand and its barcodes', () => {
    expect(send({ 用件: '2', 組番: 'FP-1', 銘: 'Other' })).toEqual(['314 銘']);
    expect(send({ 用件: '2', 組番: 'FP-1', 枝1符号: 'FP-1-A', 枝1JAN: '9520000001018' })).toEqual(['314 枝1JAN']);
  });
  it('is priced item by item', () => {
    expect(sendTo('nedan', { 符号: 'FP-1-B', 値: '5980' })).toEqual(['']);
    expect(entry().items['FP-1-B']!.cells).toMatchObject({ '枝{n}値': '5980', '枝{n}残り': '12' });
    expect(sendTo('nedan', { 符号: 'FP-1-B', 値: '0' }, { 符号: 'FP-9', 値: '1' })).toEqual(['302 値', '313 符号']);
  });
  it('loses the items that are named, or all, and is gone with the last', () => {
    expect(send({ 用件: '9', 組番: 'FP-1', 枝1符号: 'FP-1-A' })).toEqual(['']);
    expect([standings(), entry().standing]).toEqual([{ 'FP-1-A': '9', 'FP-1-B': '1' }, '1']);
    expect(send({ 用件: '9', 組番: 'FP-1' })).toEqual(['']);
    expect(entry().standing).toBe('9');
    expect(send({ 用件: '2', 組番: 'FP-1', 英字名: 'x' })).toEqual(['313 組番']);
    expect(send(family)).toEqual(['']);
  });
  it('is turned down whole where readers doubt it', () => {
    expect(
      send({
        ...family,
        用件: '1',
        組番: 'FP-2',
        呼び名: 'ハース　フライパン　複製',
        ...item(1, 'X', '9520000001032'),
        ...item(2, 'Y', '9520000001049'),
      }),
    ).toEqual(['']);
    endReviews(shelf, 100);
    expect(shelf.memory.entries['FP-2']).toMatchObject({
      standing: '3',
      reason: '真贋に疑い',
      items: { X: { standing: '3' } },
    });
  });
  it('is shown in lists and on its page, of a family its own line too', () => {
    const { bytes, cursor } = writeShelfList(shelf, 0);
    const lines = new TextDecoder('shift_jis').decode(bytes).trimEnd().split('\r\n').slice(1);
    expect(lines.map((l) => l.split(',').slice(0, 3).join(','))).toEqual([
      '"FP-1","7000001","1"',
      '"FP-1-A","7000001","1"',
      '"FP-1-B","7000001","1"',
    ]);
    expect(
      new TextDecoder('shift_jis').decode(writeShelfList(shelf, cursor).bytes).trimEnd().split('\r\n'),
    ).toHaveLength(1);
    const found = (words: string) => new TextDecoder('shift_jis').decode(findEntries(shelf, words)).split('\r\n')[1];
    expect(found('ﾌﾗｲﾊﾟﾝ brindlewick')).toMatch(/^"7000001","ハース　フライパン　24cm"/);
    expect(found('9520000001001')).toMatch(/^"7000001"/);
    expect(found('土鍋')).toBe('');
    expect(writeEntryPage(entry())).toMatch(/<td>21<\/td><td><b>4980円<\/b>/);
  });
});

describe('characters', () => {
  it('take bytes and columns by their width', () => {
    expect([bytesOf('ｶﾞﾗｽガラスA'), columnsOf('ｶﾞﾗｽガラスA')]).toEqual([11, 11]);
  });
});
