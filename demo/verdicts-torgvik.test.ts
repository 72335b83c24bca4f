// Our checks against the stand-in of Torgvik, which judges with code of its own: on the whole demo, and on thousands of rows
// spoiled at random, they must agree but for what only one of them can know; every such difference is named here.
import type { Listing } from '@basileus/core/listing';
import { readRows } from '@basileus/core/sheet';
import { type BookDocument, createJudge, openShelf, workThrough } from '@basileus/standins/torgvik';
import { describe } from 'vitest';
import { openJudgedMarket } from './tests/market';
import { agreeWith, type Spoil } from './tests/spoil';

/** Blockers that only we can raise: the file cannot carry a seventh picture, and converts units that were typed. */
const oursAlone = new Set(['picture-rules/tooMany', 'unit-not-accepted/convertible']);
const { document, form, listings, judgeOurs, writeAlone } = openJudgedMarket('torgvik', oursAlone);
const book = document as BookDocument;
const judge = createJudge(book);
const fieldOf = new Map(
  form.slots.flatMap(({ key, holds }) => ('attribute' in holds ? [[key, holds.attribute] as const] : [])),
);
/** The fields that the market finds fault with in a listing alone, on an empty shelf. */
function askMarket(l: Listing): string[] {
  const lines = readRows(writeAlone(l), ';');
  const keys = lines[2]!,
    cells = Object.fromEntries(keys.map((k, i) => [k, lines[3]![i] ?? '']));
  const desk = { book, judge, shelf: openShelf(undefined), now: 0, reviewMs: 0 };
  return (workThrough(desk, 'hel', [cells]).get(0) ?? []).map((f) => fieldOf.get(f.field) ?? f.field);
}

const spoilers: readonly Spoil[] = [
  (v, pick) => {
    const keys = Object.keys(v);
    delete v[keys[pick(keys.length)]!];
  },
  (v) => {
    v['titel@de'] = `${String(v['titel@de'] ?? 'Eine Ware')} www.laden.example/x`;
  },
  (v) => {
    v['titel@sv'] = 'x'.repeat(91);
  },
  (v) => {
    v['titel@sv'] = 'x'.repeat(90);
  },
  (v) => {
    v['titel@de'] = 'Kurz';
  },
  (v) => {
    v['titel@sv'] = `${String(v['titel@sv'] ?? 'En vara')} fri frakt`;
  },
  (v) => {
    v['titel@sv'] = `${String(v['titel@sv'] ?? 'En vara')} versandkostenfrei`;
  },
  (v) => {
    v['text@de'] = `${String(v['text@de'] ?? '<p>Ein Text über eine Ware.</p>')} <b>fett</b>`;
  },
  (v, pick) => {
    v['streckkod'] = String(v['streckkod'] ?? '').slice(0, 12) + String(pick(10));
  },
  (v) => {
    v['streckkod'] = '2012345678903';
  },
  (v) => {
    v['farg'] = 'svart';
  },
  (v) => {
    v['paket_v'] = '31501 g';
  },
  (v) => {
    v['paket_v'] = '31.5 kg';
  },
  (v) => {
    v['diameter'] = '0 mm';
  },
  (v) => {
    v['antal'] = 'viele';
  },
  (v) => {
    v['pris@se'] = '0.49';
  },
  (v) => {
    v['pris@de'] = '90000.01';
  },
  (v) => {
    v['pris@de'] = '12.999';
  },
  (v) => {
    v['reapris@de'] = v['pris@de'] ?? '1';
    v['rea_fran@de'] = '2026-11-27';
  },
  (v) => {
    v['reapris@se'] = '1.00';
  },
  (v) => {
    v['reapris@se'] = '1.00';
    v['rea_fran@se'] = '2026-11-27';
    v['rea_till@se'] = '2026-11-20';
  },
  (v) => {
    v['reapris@se'] = '1.00';
    v['rea_fran@se'] = '2026-11-27';
  },
  (v) => {
    v['bilder'] = ['https://p.example/1.png', 'https://p.example/2.jpg'];
  },
  (v) => {
    v['bilder'] = ['https://p.example/1.jpg'];
  },
  (v) => {
    v['material'] = 'M99';
  },
  (v) => {
    v['material'] = 'M99';
    v['material_fritt'] = 'Schiefer';
  },
  (v) => {
    v['diskmaskin'] = 'vielleicht';
  },
  (v) => {
    v['allergener'] = ['A1', 'A1'];
  },
];

describe('our checks and Torgvik agree', () => {
  agreeWith({ listings, judgeOurs }, askMarket, spoilers, 77, 300);
});
