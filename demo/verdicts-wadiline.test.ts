// Our checks against the stand-in of Wadiline, which judges with code of its own and reads sheets with a parser of its own:
// on the whole demo, and on thousands of rows spoiled at random, they must agree.
import type { Listing } from '@basileus/core/listing';
import { type BookDocument, createJudge, openShelf, readSheet, workThrough } from '@basileus/standins/wadiline';
import { describe } from 'vitest';
import { openJudgedMarket } from './tests/market';
import { agreeWith, type Spoil } from './tests/spoil';

const { document, form, listings, judgeOurs, writeAlone } = openJudgedMarket('wadiline', new Set());
const book = document as BookDocument;
const judge = createJudge(book);
const fieldOf = new Map(
  form.slots.flatMap(({ key, holds }) => ('attribute' in holds ? [[key, holds.attribute] as const] : [])),
);
/** The fields that the market finds fault with in a listing alone, on an empty shelf. */
function askMarket(l: Listing): string[] {
  const desk = { book, judge, shelf: openShelf(undefined), now: 0, reviewMs: 0 };
  // What others sell there is told by a look-up, not by a check.
  desk.shelf.memory.others = [];
  const [line] = workThrough(desk, 'full', readSheet(writeAlone(l), judge.many)!);
  return line!.faults.map((f) => fieldOf.get(f.at) ?? f.at);
}

const set =
  (field: string, value: string | readonly string[]): Spoil =>
  (v) => {
    v[field] = value;
  };
const sale =
  (from: string | undefined, to: string | undefined, amount = '0.500'): Spoil =>
  (v) => {
    v['sale'] = amount;
    if (from !== undefined) v['sale_from'] = from;
    if (to !== undefined) v['sale_to'] = to;
  };
const spoilers: readonly Spoil[] = [
  (v, pick) => {
    const keys = Object.keys(v);
    delete v[keys[pick(keys.length)]!];
  },
  set('name@ar', 'Frying pan for every day'),
  set('name@ar', 'مقلاة Hearth 28 سم'),
  set('name@ar', 'Сковорода مقلاة'),
  set('name@en', 'مقلاة من الحديد'),
  set('name@en', 'Pan'),
  set('name@en', 'x'.repeat(121)),
  set('name@ar', 'م'.repeat(120)),
  (v) => {
    v['name@en'] = `${String(v['name@en'] ?? 'A pan for the day')} www.shop.example/x`;
  },
  (v) => {
    v['name@ar'] = `${String(v['name@ar'] ?? 'مقلاة من الحديد').slice(0, 90)} توصيل مجاني`;
  },
  set('story@ar', '<p class="x">مقلاة لكل يوم من الحديد</p>'),
  set('story@en', 'Short.'),
  set('point@ar', ['هادئة', 'Only Latin']),
  set('point@en', ['Quiet', 'Quiet']),
  set('point@en', ['a', 'b', 'c', 'd', 'e', 'f', 'g']),
  (v) => {
    v['barcode'] = String(v['barcode'] ?? '').slice(0, 12) + '5';
  },
  set('barcode', '20000004'),
  set('barcode', '2012345678903'),
  set('colour', 'teal'),
  set('price', '0.049'),
  set('price', '9999.001'),
  set('price', '9.551'),
  set('price', '9.555'),
  set('price', '9.5555'),
  set('price', 'cheap'),
  sale(undefined, undefined),
  sale('2026-11-27', undefined),
  sale('2026-11-27', '2026-11-20'),
  sale('2026-11-27', '2026-12-20'),
  sale('2026-13-27', '2026-12-20'),
  sale('2026-11-27', undefined, '0.501'),
  (v) => {
    v['sale'] = v['price'] ?? '1.000';
    v['sale_from'] = '2026-11-27';
  },
  set('pieces', '10000'),
  set('pieces', 'many'),
  set('ready', 'soon'),
  set('picture', ['https://p.example/1.gif']),
  set(
    'picture',
    Array.from({ length: 9 }, (_, i) => `https://p.example/${i}.jpg`),
  ),
  set('across', '0 cm'),
  set('across', '28 cm'),
  set('across', '28.55 cm'),
  set('across', '11 in'),
  set('pieces_in', '1000'),
  set('made_in', 'Atlantis'),
  set('maker', '<b>Hearth</b>'),
];

describe('our checks and Wadiline agree', () => {
  agreeWith({ listings, judgeOurs }, askMarket, spoilers, 23);
});
