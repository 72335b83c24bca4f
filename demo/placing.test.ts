// How well items of the demo are placed by what they tell: with parts of what is placed held back, and their own category unsaid.
import { listLeaves, parseRulebook } from '@basileus/core/rulebook';
import { createLeafModel, type ItemTold } from '@basileus/core/suggest';
import { cedarpostDocument } from '@basileus/rulebooks/cedarpost';
import { lumbaraDocument } from '@basileus/rulebooks/lumbara';
import { quillhavenDocument } from '@basileus/rulebooks/quillhaven';
import { torgvikDocument } from '@basileus/rulebooks/torgvik';
import { wadilineDocument } from '@basileus/rulebooks/wadiline';
import { describe, expect, it } from 'vitest';
import { buildCatalog } from './catalog';
import { demoMarkets } from './markets';

const documents: Record<string, unknown> = {
  cedarpost: cedarpostDocument,
  lumbara: lumbaraDocument,
  quillhaven: quillhavenDocument,
  torgvik: torgvikDocument,
  wadiline: wadilineDocument,
};

interface Unit {
  key: string;
  own: string;
  told: ItemTold & { titles: string[] };
}
/** Items by themselves and families as one, with what they tell but for their own category. */
const units = new Map<string, Unit>();
for (const { fields } of buildCatalog()) {
  const text = (key: string): string => String(fields[key] ?? '');
  const key = text('parent_sku') || text('sku');
  const unit = units.get(key) ?? {
    key,
    own: text('category'),
    told: { titles: [], brand: text('brand'), own: '', elsewhere: [] },
  };
  units.set(key, unit);
  unit.told.titles.push(text('title'));
}
const spread = (text: string): number => [...text].reduce((n, c) => (n * 31 + c.charCodeAt(0)) >>> 0, 7);

function prepare(market: string) {
  const reading = parseRulebook(documents[market]);
  if (!reading.ok) throw new Error(market);
  return {
    categories: demoMarkets.find((m) => m.key === market)!.categories,
    model: createLeafModel(listLeaves(reading.rulebook)),
  };
}

/** Share of the units that are not learnt which are placed right, and of those that are sure, which are. */
function measure(market: string, isLearnt: (u: Unit) => boolean, tellElsewhere: boolean) {
  const { categories, model } = prepare(market);
  const toldOf = (u: Unit): ItemTold => ({
    ...u.told,
    elsewhere: tellElsewhere
      ? demoMarkets.flatMap((m) =>
          m.key !== market && m.categories.has(u.own) ? `${m.key}/${m.categories.get(u.own)!}` : [],
        )
      : [],
  });
  const known = [...units.values()].filter((u) => categories.has(u.own));
  for (const u of known) if (isLearnt(u)) model.learn({ ...toldOf(u), own: u.own }, categories.get(u.own)!);
  const judged = known
    .filter((u) => !isLearnt(u))
    .map((u) => {
      const [first] = model.propose(toldOf(u), 1);
      return { isRight: first?.key === categories.get(u.own), isSure: first?.sureness === 'sure' };
    });
  const share = (list: readonly { isRight: boolean }[]) => list.filter((j) => j.isRight).length / list.length;
  const sure = judged.filter((j) => j.isSure);
  return { right: share(judged), sureRight: share(sure), sure: sure.length / judged.length, judged: judged.length };
}

describe.each(demoMarkets.map((m) => m.key))('items on %s', (market) => {
  it.each([
    ['before anything is placed', () => false, false],
    ['with a tenth placed', (u: Unit) => spread(u.key) % 10 === 0, false],
    ['with a thirtieth placed, and all on the other markets', (u: Unit) => spread(u.key) % 30 === 0, true],
    ['of categories of which none is placed', (u: Unit) => spread(u.own) % 2 === 0, false],
  ])('%s', (_, isLearnt, tellElsewhere) => {
    const { right, sureRight, sure, judged } = measure(market, isLearnt, tellElsewhere);
    expect(judged).toBeGreaterThan(100);
    expect(right).toBeGreaterThan(0.98);
    expect(sureRight).toBeGreaterThan(0.995);
    expect(sure).toBeGreaterThan(0.85);
  });
});

describe.each(['wadiline', 'lumbara'])('items for which %s has no category', (market) => {
  const { categories, model } = prepare(market);
  const strangers = [...units.values()].filter((u) => !categories.has(u.own));
  const countSure = () => strangers.filter((u) => model.propose(u.told, 1)[0]?.sureness === 'sure').length;
  it('are seldom sure before anything is placed, and never once the rest is', () => {
    expect(strangers.length).toBeGreaterThan(100);
    expect(countSure()).toBeLessThan(strangers.length / 4);
    for (const u of units.values())
      if (categories.has(u.own)) model.learn({ ...u.told, own: u.own }, categories.get(u.own)!);
    expect(countSure()).toBe(0);
  });
});
