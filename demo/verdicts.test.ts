// Two judges, written apart: our checks, which speak before a file leaves, and the market's stand-in, which speaks after.
// On the whole demo catalog, and on thousands of rows spoiled at random, they must agree but for what only one of them can
// know; every such difference is named here.
import { prepareChecks } from '@basileus/core/checks';
import { type FeedRow, findForm, writeForm } from '@basileus/core/forms';
import { readRows } from '@basileus/core/sheet';
import { type Listing, resolveListing } from '@basileus/core/listing';
import { compileCategory, parseRulebook } from '@basileus/core/rulebook';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { type BookDocument, openShelf, workThrough } from '@basileus/standins/quillhaven';
import { describe, expect, it } from 'vitest';
import { buildCatalog, lines } from './catalog';
import { sayTexts } from './tests/said';
import { describeDifference, judgeSpoiled, type Spoil } from './tests/spoil';

const reading = parseRulebook(quillhavenDocument);
if (!reading.ok) throw new Error('The rulebook is not valid.');
const book = reading.rulebook;
const form = findForm(book, 'create')!;
const compiled = new Map(
  book.tree.flatMap((n) => {
    const c = n.takesItems && compileCategory(book, n.key);
    return c ? [[n.key, { c, check: prepareChecks(c) }] as const] : [];
  }),
);
const fixed = sayTexts([
  ['condition', 'fresh'],
  ['handling_days', 'h2'],
  ['voltage', '230 V'],
  ['plug_kind', 'three'],
  ['age_limited', 'yes'],
  ['edge_kind', 'smooth'],
  ['auto_off', 'yes'],
  ['battery_needed', 'no'],
  ['weighing_limit', '5 kg'],
  ['weighing_step', '1 g'],
  ['roast', 'medium'],
  ['issue_rhythm', 'quart'],
  ['hob_kinds', 'gas|indu'],
  ['care_notes', 'w40'],
  ['tea_kind', 'black'],
  ['battery_kind', ''],
  ['battery_count', ''],
]);

/** Singles of the demo as listings, each in its leaf; families are judged by other tests. */
function makeListings(): Listing[] {
  const leafOf = new Map(lines.flatMap((l) => (l.leaf ? [[l.category, l.leaf] as const] : [])));
  return [...buildCatalog()].flatMap((p): Listing[] => {
    const category = leafOf.get(String(p.fields['category']));
    const made = category && compiled.get(category);
    if (!made || p.kind === 'family' || p.kind === 'bundle') return [];
    return [
      {
        sku: String(p.fields['sku']),
        role: 'single',
        parentSku: undefined,
        category,
        axes: [],
        values: resolveListing(made.c, p.fields, 'single', {}, fixed).values,
        cost: typeof p.fields['cost'] === 'string' ? p.fields['cost'] : undefined,
        accepted: undefined,
      },
    ];
  });
}

/** What the market says of one listing alone, on an empty shelf. */
function askMarket(l: Listing): string {
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
  const [, keys, cells] = readRows(writeForm(book, form, [row]), '\t');
  const record = Object.fromEntries(keys!.map((k, i) => [k, cells![i] ?? '']));
  const shelf = openShelf(undefined);
  // What others sell there is told by a look-up, not by a check.
  shelf.memory.others = [];
  const [answer] = workThrough(quillhavenDocument as BookDocument, shelf, 'create', [record], {
    reviewMs: 0,
    now: 0,
    uncleared: [],
  });
  return answer!.verdict === 'TURNED BACK' ? `${answer!.code} ${answer!.field}` : '';
}
/** Blockers that only we can raise: they protect our own money, or the file cannot carry what they speak of (a ninth picture). */
const oursAlone = new Set([
  'picture-rules/tooMany',
  'price-rules/underCost',
  'price-rules/underFloor',
  'price-rules/overCeiling',
  'quantity-rules/overCap',
  'list-form/boxForm',
  'wrong-type/date',
]);
const ask = (l: Listing) =>
  compiled
    .get(l.category)!
    .check(l)
    .filter((f) => f.level === 'blocker');
const relevant = (l: Listing) => ask(l).filter((f) => !oursAlone.has(`${f.check}/${f.message}`));
const ours = (l: Listing): string[] => relevant(l).map((f) => `${f.check}/${f.message} ${f.field} “${f.value}”`);
const theirs = (l: Listing): string[] => [askMarket(l)].filter((answer) => answer !== '');

describe('our checks and the market agree', () => {
  const listings = makeListings();
  it('on every single of the demo catalog: nothing we let go is turned back, nothing we stop would have been taken', () => {
    expect(listings.length).toBeGreaterThan(1000);
    const differences = listings.flatMap((l) => describeDifference(l, ours(l), theirs(l)));
    expect(differences).toEqual([]);
  });

  const spoilers: readonly Spoil[] = [
    (v, pick) => {
      const keys = Object.keys(v);
      delete v[keys[pick(keys.length)]!];
    },
    (v) => {
      v['page_count'] = '12';
      v['net_weight'] = '3 g';
    },
    (v) => {
      v['title'] = `${String(v['title'])} www.shop.example/x`;
    },
    (v) => {
      v['title'] = 'x'.repeat(141);
    },
    (v) => {
      v['title'] = 'Short';
    },
    (v) => {
      v['description'] = `${String(v['description'])} <i>slanted</i>`;
    },
    (v) => {
      v['item_number'] = String(v['item_number'] ?? '1').slice(0, -1);
    },
    (v, pick) => {
      v['item_number'] = String(v['item_number'] ?? '').slice(0, 12) + String(pick(10));
    },
    (v) => {
      v['item_number'] = '0412345678903';
    },
    (v) => {
      v['colour'] = 'blak';
    },
    (v) => {
      v['parcel_weight'] = '1.5 lb';
    },
    (v) => {
      v['parcel_weight'] = '71 kg';
    },
    (v) => {
      v['parcel_weight'] = '70 kg';
    },
    (v) => {
      v['quantity'] = '1.5';
    },
    (v) => {
      v['quantity'] = 'many';
    },
    (v) => {
      v['price'] = '0.04';
    },
    (v) => {
      v['price'] = '25000';
    },
    (v) => {
      v['price'] = '25000.01';
    },
    (v) => {
      v['sale_price'] = v['price'] ?? '1';
      v['sale_start'] = '2026-11-27';
    },
    (v) => {
      v['sale_price'] = '0.10';
    },
    (v) => {
      v['sale_price'] = '0.10';
      v['sale_start'] = '2026-11-27';
      v['sale_end'] = '2026-11-20';
    },
    (v) => {
      v['pictures'] = ['http://p.example/1.jpg'];
    },
    (v) => {
      v['pictures'] = ['https://p.example/1.gif'];
    },
    (v) => {
      v['pictures'] = Array.from({ length: 9 }, (_, i) => `https://p.example/${i}.jpg`);
    },
    (v) => {
      v['highlights'] = Array.from({ length: 7 }, (_, i) => `Point ${i}`);
    },
    (v) => {
      v['condition'] = 'mended';
    },
    (v) => {
      v['condition'] = 'mended';
      v['condition_note'] = 'A scratch at the back';
    },
    (v) => {
      v['dispatch_country'] = 'GB';
    },
    (v) => {
      v['material'] = 'other';
    },
    (v) => {
      v['material'] = 'other';
      v['material_other'] = 'Slate';
    },
    (v) => {
      v['gift_wrap'] = 'maybe';
    },
    (v) => {
      v['title'] = `${String(v['title'])} limited time`;
    },
    (v) => {
      v['title'] = `★ ${String(v['title'])}`;
    },
    (v) => {
      v['diameter'] = '400 mm';
      v['capacity'] = '70 l';
    },
  ];
  it('on six thousand rows, each with one to three random faults', () => {
    const { stopped, taken, differences } = judgeSpoiled(listings, spoilers, 42, ours, theirs);
    expect(stopped).toBeGreaterThan(2000);
    expect(taken).toBeGreaterThan(300);
    expect(differences.slice(0, 12)).toEqual([]);
  });
  it('on which field is at fault, where each names one: the market’s is among ours', () => {
    const misses = listings.flatMap((l) => {
      const ours = relevant(l),
        theirs = askMarket(l);
      if (!theirs || ours.length === 0) return [];
      const field = theirs
        .split(' ')[1]!
        .replace(/^picture_\d+$/, 'pictures')
        .replace('item_number_kind', 'item_number');
      return ours.some((f) => f.field === field)
        ? []
        : [`${l.sku}: ${theirs} against ${ours.map((f) => f.field).join(', ')}`];
    });
    expect(misses).toEqual([]);
  });
});
