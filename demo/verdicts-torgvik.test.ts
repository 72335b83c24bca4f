// Our checks against the stand-in of Torgvik, which judges with code of its own: on the whole demo, and on thousands of rows
// spoiled at random, they must agree but for what only one of them can know; every such difference is named here.
import { prepareChecks } from '@basileus/core/checks';
import { type FeedRow, findForm, writeForm } from '@basileus/core/forms';
import { type Correspondences, type Listing, resolveListing } from '@basileus/core/listing';
import { compileCategory, listLeaves, parseRulebook } from '@basileus/core/rulebook';
import { readRows } from '@basileus/core/sheet';
import { type BookDocument, createJudge, openShelf, workThrough } from '@basileus/standins/torgvik';
import { describe, expect, it } from 'vitest';
import { buildCatalog } from './catalog';
import { demoMarkets } from './markets';
import { describeDifference, judgeSpoiled, type Spoil } from './tests/spoil';

const market = demoMarkets.find((m) => m.key === 'torgvik')!;
const reading = parseRulebook(market.document);
if (!reading.ok) throw new Error('The rulebook is not valid.');
const book = reading.rulebook;
const form = findForm(book, 'create')!;
const compiled = new Map(
  listLeaves(book).map(({ key }) => {
    const c = compileCategory(book, key)!;
    return [key, { c, check: prepareChecks(c) }] as const;
  }),
);
const decided: Correspondences = {
  fields: new Map(market.fields),
  values: new Map<string, Map<string, string>>(),
};

/** Singles and variants of the demo, each as a row by itself. */
const listings = [...buildCatalog()].flatMap((p): Listing[] => {
  const category = market.categories.get(String(p.fields['category']));
  const made = category && compiled.get(category);
  if (!made || p.kind === 'family' || p.kind === 'bundle') return [];
  return [
    {
      sku: String(p.fields['sku']),
      role: 'single',
      parentSku: undefined,
      category,
      axes: [],
      values: resolveListing(made.c, p.fields, 'single', {}, decided).values,
      cost: undefined,
      accepted: undefined,
    },
  ];
});

const judge = createJudge(market.document as BookDocument);
/** The columns that the market finds fault with in a listing alone, on an empty shelf. */
function askMarket(l: Listing): string[] {
  const row: FeedRow = {
    operation: 'create',
    sku: l.sku,
    role: 'single',
    parentSku: undefined,
    axes: [],
    category: l.category,
    values: l.values,
    cleared: [],
  };
  const lines = readRows(writeForm(book, form, [row]), ';');
  const keys = lines[2]!,
    cells = Object.fromEntries(keys.map((k, i) => [k, lines[3]![i] ?? '']));
  const desk = { book: market.document as BookDocument, judge, shelf: openShelf(undefined), now: 0, reviewMs: 0 };
  return (workThrough(desk, 'hel', [cells]).get(0) ?? []).map((f) => f.field);
}
const fieldOf = new Map(
  form.slots.flatMap(({ key, holds }) => ('attribute' in holds ? [[key, holds.attribute] as const] : [])),
);

/** Blockers that only we can raise: the file cannot carry a seventh picture, and converts units that were typed. */
const oursAlone = new Set(['picture-rules/tooMany', 'unit-not-accepted/convertible']);
const ours = (l: Listing): string[] =>
  compiled
    .get(l.category)!
    .check(l)
    .filter((f) => f.level === 'blocker' && !oursAlone.has(`${f.check}/${f.message}`))
    .map((f) => f.field);
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
  it('on every item of the demo: nothing we let go is turned back, nothing we stop would have been taken', () => {
    expect(listings.length).toBeGreaterThan(700);
    expect(listings.filter((l) => ours(l).length === 0).length).toBeGreaterThan(500);
    expect(listings.flatMap((l) => describeDifference(l, ours(l), askMarket(l)))).toEqual([]);
  });
  it('on six thousand rows, each with one to three random faults', () => {
    const { stopped, taken, differences } = judgeSpoiled(listings, spoilers, 77, ours, askMarket);
    expect(stopped).toBeGreaterThan(2000);
    expect(taken).toBeGreaterThan(300);
    expect(differences.slice(0, 12)).toEqual([]);
  });
  it('on which fields are at fault: all that the market names are among ours', () => {
    const misses = listings.flatMap((l) => {
      const here = new Set(ours(l));
      return askMarket(l)
        .map((slot) => fieldOf.get(slot) ?? slot)
        .filter((field) => !here.has(field))
        .map((field) => `${l.sku}: ${field} against ${[...here].join(', ')}`);
    });
    expect(misses).toEqual([]);
  });
});
