// Our checks against the stand-in of Lumbara, which judges with code of its own, counts bytes and widths by itself and reads
// files with a parser of its own: on the whole demo, and on thousands of rows spoiled at random, they must agree.
import { listColumns } from '@basileus/core/forms';
import type { Listing, Value } from '@basileus/core/listing';
import { type BookDocument, createJudge, openShelf, readText, toCells, workThrough } from '@basileus/standins/lumbara';
import { describe } from 'vitest';
import { openJudgedMarket } from './tests/market';
import { agreeWith, type Spoil } from './tests/spoil';

const { document, form, listings, judgeOurs, writeAlone } = openJudgedMarket('lumbara', new Set());
const book = document as BookDocument;
const judge = createJudge(book);
const fieldOf = new Map(
  listColumns(form).flatMap(({ key, holds }) => ('attribute' in holds ? [[key, holds.attribute] as const] : [])),
);
/** The fields that the market finds fault with in an item by itself, on an empty shelf. */
function askMarket(l: Listing): string[] {
  const [header, row] = readText(writeAlone(l));
  const desk = { book, judge, shelf: openShelf(undefined), now: 0, reviewMs: 0 };
  const [faults] = workThrough(desk, 'ichiran', [toCells(header!, row!)]);
  return [...new Set(faults!.map((f) => fieldOf.get(f.column) ?? f.column))];
}

const set =
  (field: string, value: string | readonly string[]): Spoil =>
  (v) => {
    v[field] = value;
  };
const sale =
  (from: string | undefined, till: string | undefined, amount = '100'): Spoil =>
  (v) => {
    v['yasune'] = amount;
    if (from !== undefined) v['yasune_kara'] = from;
    if (till !== undefined) v['yasune_made'] = till;
  };
const join = (v: Value | undefined): string => (typeof v === 'string' ? v : (v ?? []).join(' '));
const day = (d: string, time = '00:00:00'): string => `${d}T${time}+09:00`;
const spoilers: readonly Spoil[] = [
  (v, pick) => {
    const keys = Object.keys(v);
    delete v[keys[pick(keys.length)]!];
  },
  set('na', 'Brindlewick Hearth Frying Pan'),
  set('na', 'ブリンドルウィック　ハース　フライパン　24cm'),
  set('na', 'ブリンドルウィック ハース フライパン'),
  set('na', 'ﾌﾗｲﾊﾟﾝ　ハース　24cm'),
  set('na', 'ハース　フライパン　２４cm'),
  set('na', 'ハース　フライパン（深型）'),
  set('na', 'ナベ'),
  set('na', 'フ'.repeat(28)),
  set('na', 'フ'.repeat(29)),
  set('na', `${'フ'.repeat(27)}ab`),
  set('na', `${'フ'.repeat(27)}abc`),
  set('na', 'ハース　сковорода　フライパン'),
  set('na', '★ハース　フライパン★'),
  (v) => {
    v['na'] = `${join(v['na']).slice(0, 20)}　最安値`;
  },
  (v) => {
    v['hanashi'] = `${join(v['hanashi'])} www.shop.example/x`;
  },
  set('hanashi', '短い話です。'),
  set('hanashi', '鍋'.repeat(1000)),
  set('hanashi', '鍋'.repeat(1001)),
  set('hanashi', 'A pan for every day, with a flat base.'),
  set('hanashi', 'ﾌﾗｲﾊﾟﾝの話です。毎日使える、底の平らな一枚。'),
  set('yomi', 'ハース フライパン'),
  set('yomi', 'ハース　フライパン　24センチ'),
  set('yomi', 'はーす　ふらいぱん'),
  set('yomi', 'ア'.repeat(61)),
  set('eimei', 'x'.repeat(60)),
  set('eimei', 'x'.repeat(61)),
  set('eimei', `${'x'.repeat(57)}鍋鍋`),
  set('eimei', 'Hearth　pan'),
  set('mei', '銘'.repeat(31)),
  (v) => {
    v['jan'] = join(v['jan']).slice(0, 12) + '5';
  },
  set('jan', '20000004'),
  set('jan', '036000291452'),
  set('shinkyu', '4'),
  set('zei', '10%'),
  set('iro', '黒'),
  set('zai', ['301', '302', '303', '304']),
  set('zai', ['301', '999']),
  set('kei', '28 cm'),
  set('kei', '28.55 cm'),
  set('kei', '0 cm'),
  set('yoryo', '1500 ml'),
  set('yoryo', '0.5 ml'),
  set('sun', 'x'.repeat(25)),
  set('ne', '0'),
  set('ne', '12.5'),
  set('ne', '10000000'),
  set('ne', '高い'),
  sale(undefined, undefined),
  sale(day('2026-11-27'), undefined),
  sale(day('2026-11-27'), day('2026-11-20')),
  sale(day('2026-11-27'), day('2026-12-20', '23:59:59')),
  sale('2026-11-27', undefined),
  (v) => {
    v['yasune'] = v['ne'] ?? '1980';
    v['yasune_kara'] = day('2026-11-27');
  },
  set('nokori', '10000'),
  set('nokori', 'many'),
  set('kosu', '1000'),
  set('e', ['https://p.example/1.gif']),
  set('e', ['https://p.example/1.jpg', 'https://p.example/1.jpg']),
  set('sanchi', '99'),
];

describe('our checks and Lumbara agree', () => {
  agreeWith({ listings, judgeOurs }, askMarket, spoilers, 29);
});
