// Our checks against the stand-in of Cedarpost, which judges with code of its own: on the whole demo, and on thousands of
// rows spoiled at random, they must agree but for what only one of them can know; every such difference is named here.
import { type BookDocument, createJudge, openShelf, workThrough } from '@basileus/standins/cedarpost';
import type { Listing } from '@basileus/core/listing';
import { describe } from 'vitest';
import { openJudgedMarket } from './tests/market';
import { agreeWith, type Spoil } from './tests/spoil';

/** Blockers that only we can raise: units are converted as the file is written, whatever was typed. */
const oursAlone = new Set(['unit-not-accepted/convertible']);
const { document, form, listings, judgeOurs, writeAlone } = openJudgedMarket('cedarpost', oursAlone);
const book = document as BookDocument;
const judge = createJudge(book);
const fieldOf = new Map(
  form.slots.flatMap(({ key, holds }) =>
    'attribute' in holds ? [[key.replace('[]', ''), holds.attribute] as const] : [],
  ),
);
/** The fields that the market finds fault with in a listing alone, on an empty shelf. */
function askMarket(l: Listing): string[] {
  const desk = { book, judge, shelf: openShelf(undefined), now: 0, reviewMs: 0 };
  const [line] = workThrough(desk, 'goods', [JSON.parse(writeAlone(l)) as never]);
  return (line!.notes ?? []).map((n) => fieldOf.get(n.at) ?? n.at);
}

const set =
  (field: string, value: string | readonly string[]): Spoil =>
  (v) => {
    v[field] = value;
  };
const spoilers: readonly Spoil[] = [
  (v, pick) => {
    const keys = Object.keys(v);
    delete v[keys[pick(keys.length)]!];
  },
  (v) => {
    v['name'] = `${String(v['name'] ?? 'A thing for the kitchen')} www.shop.example/x`;
  },
  set('name', 'x'.repeat(75)),
  set('name', 'x'.repeat(76)),
  set('name', 'Short'),
  (v) => {
    v['name'] = `Lowest Price ${String(v['name'] ?? 'pan').slice(0, 50)}`;
  },
  set('story', 'Too short.'),
  set('story', '<p class="x">Holds its heat and has an even base for daily frying.</p>'),
  (v) => {
    v['code'] = String(v['code'] ?? '').slice(0, 12) + '7';
  },
  set('code', '00000000000000'),
  set('code', '95200012'),
  set('code', '2012345678903'),
  set('color', 'teal'),
  set('state', 'broken'),
  set('ask', '0.49'),
  set('ask', '50000.01'),
  set('ask', '12.999'),
  set('ask', 'cheap'),
  (v) => {
    v['least'] = '20.00';
    v['most'] = '10.00';
  },
  (v) => {
    v['least'] = '1.00';
    v['most'] = '90.00';
  },
  set('least', '1.00'),
  set('most', '9000.00'),
  (v) => {
    v['deal'] = v['ask'] ?? '1.00';
    v['deal_from'] = '2026-11-27T00:00:00-07:00';
  },
  set('deal', '0.60'),
  (v) => {
    v['deal'] = '0.60';
    v['deal_from'] = '2026-11-27T00:00:00-07:00';
    v['deal_until'] = '2026-11-20T23:59:59-07:00';
  },
  (v) => {
    v['deal'] = '0.60';
    v['deal_from'] = '2026-11-27T00:00:00';
  },
  (v) => {
    v['deal'] = '0.60';
    v['deal_from'] = '2026-02-30T00:00:00Z';
  },
  (v) => {
    v['deal'] = '0.60';
    v['deal_from'] = '2026-11-27T00:00:00-07:00';
  },
  set('on_hand', 'many'),
  set('on_hand', '1.5'),
  set('on_hand', '100001'),
  set('box_l', '109 in'),
  set('box_l', '300 cm'),
  set('box_weight', '0 lb'),
  set('box_weight', '2.345 lb'),
  set('photos', ['https://p.example/1.gif', 'https://p.example/2.jpg']),
  set('photos', ['https://p.example/1.jpg', 'https://p.example/1.jpg']),
  set(
    'photos',
    Array.from({ length: 13 }, (_, i) => `https://p.example/${i}.jpg`),
  ),
  set('hazard', 'lithium_ion'),
  (v) => {
    v['hazard'] = 'lithium_metal';
    v['un_number'] = 'UN3091';
    v['cells'] = '2';
  },
  (v) => {
    v['hazard'] = 'flammable';
    v['un_number'] = '1993';
  },
  (v) => {
    v['hazard'] = 'lithium_ion';
    v['un_number'] = 'UN3481';
    v['cells'] = '0';
    v['watt_hours'] = '0.001';
  },
  set('dishwasher', 'maybe'),
  set('pieces', '501'),
  set('allergens', ['milk', 'milk']),
  set('allergens', ['dust']),
  set('points', ['One', 'Two', 'Three', 'Four', 'Five', 'Six']),
  set('points', ['Today only, three for two', 'Quiet in use', 'Made to last']),
  set('fits', ['KT-100']),
];

describe('our checks and Cedarpost agree', () => {
  agreeWith({ listings, judgeOurs }, askMarket, spoilers, 41);
});
