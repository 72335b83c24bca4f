import { describe, expect, it } from 'vitest';
import { listLeaves } from '../rulebook';
import { smallRulebook } from '../tests/builders';
import { createHabits } from './habits';
import { createLeafModel, type ItemTold, type LeafWords, listWords, proposeCategories, readClues } from './index';

const leaf = (key: string, label: string, ...words: string[]): LeafWords => ({
  key,
  label,
  path: ['Kitchen', label],
  words,
});
const leaves = [
  leaf('pans', 'Frying pans', 'skillet', 'sauté pan'),
  leaf('pots', 'Stock pots', 'casserole'),
  leaf('knives', 'Kitchen knives', 'santoku', 'paring knife'),
  leaf('tea', 'Loose tea', 'black tea', 'oolong'),
];
/** With as many others as a tree has, among which a word is rare. */
const tree = (...own: LeafWords[]) =>
  createLeafModel([...leaves, ...own, ...Array.from({ length: 40 }, (_, i) => leaf(`other${i}`, `Thing${i}s`))]);
const item = (title: string, own = '', rest: Partial<ItemTold> = {}): ItemTold => ({
  titles: [title],
  brand: '',
  own,
  elsewhere: [],
  ...rest,
});
const cold = createLeafModel(leaves);
const keysOf = (list: readonly { key: string }[]) => list.map((p) => p.key);

describe('the words of a text', () => {
  it.each([
    ['Frying pans, 28 cm', ['frying', 'pan']],
    ['Bratpfannen', ['bratpfann']],
    ['Bratpfanne', ['bratpfann']],
    ['A linen cloth', ['linen', 'cloth']],
    ['フライパン', ['フラ', 'ライ', 'イパ', 'パン']],
    ['鍋 28', ['鍋']],
    ['', []],
  ])('of “%s” are %j', (text, words) => {
    expect([...listWords(text).keys()]).toEqual(words);
  });
  it('are kept as they are written', () => {
    expect(listWords('Frying Pans').get('pan')).toBe('pans');
  });
});

describe('what an item tells', () => {
  it('weighs a word by how many titles of a family have it, its group whole, and places elsewhere together as one', () => {
    const clues = readClues({
      titles: ['Ember Towel Blue', 'Ember Towel Red', 'Ember Cloth Red', 'Ember Cloth Blue'],
      brand: '',
      own: 'Linen',
      elsewhere: ['a/x', 'b/y', 'a/x'],
    });
    expect(Object.fromEntries(clues.words.map((c) => [c.written, c.weight]))).toEqual({
      ...{ ember: 1, linen: 1, towel: 0.5, cloth: 0.5, blue: 0.5, red: 0.5 },
    });
    // In most titles is in more than half.
    expect([...clues.called]).toEqual(['ember']);
    expect(clues.own).toEqual([{ thing: 'Linen', written: 'Linen', weight: 1 }]);
    expect(clues.elsewhere.map((c) => [c.thing, c.weight])).toEqual([
      ['a/x', 0.5],
      ['b/y', 0.5],
    ]);
  });
  it('of three letters without spaces is each pair of them once', () => {
    expect([...listWords('鉄鍋蓋').keys()]).toEqual(['鉄鍋', '鍋蓋']);
  });
});

describe('a leaf for an item, before anything is placed', () => {
  it.each([
    ['Hearth Frying Pan 28 cm', '', 'pans'],
    ['Iron skillet, small', '', 'pans'],
    ['Santoku 18 cm', '', 'knives'],
    ['Hearth 28', 'Frying pans', 'pans'],
    ['Sauté pan with lid', '', 'pans'],
    ['Oolong from the hills', 'Tea', 'tea'],
  ])('for “%s” of the group “%s” is %s', (title, category, key) => {
    expect(cold.propose(item(title, category))[0]?.key).toBe(key);
  });
  it('is none where no word is known', () => {
    expect(cold.propose(item('Garden hose'))).toEqual([]);
  });
  it('is not told by the brand', () => {
    const named = { brand: 'Stock & Pots' };
    expect(cold.propose(item('Stock & Pots Skillet', '', named))[0]).toMatchObject({ key: 'pans', words: ['skillet'] });
    expect(cold.propose(item('Stock & Pots', '', named))).toEqual([]);
  });
  it('names the words that speak for it, as they are written, and the strongest first', () => {
    const [first] = createLeafModel(listLeaves(smallRulebook())).propose(item('Iron frying pan'));
    expect(first).toMatchObject({ key: 'pans', words: ['frying', 'pan'], chosen: 0, elsewhere: [] });
    expect(tree(leaf('trays', 'Trays', 'tin')).propose(item('Tin Trays, black'))[0]).toMatchObject({
      key: 'trays',
      words: ['trays', 'tin'],
    });
  });
  it('is found by the end of a word that is put together', () => {
    const german = createLeafModel([leaf('a', 'Pfannen'), leaf('b', 'Töpfe')]);
    expect(german.propose(item('Bratpfanne 28'))[0]).toMatchObject({ key: 'a', words: ['bratpfanne'] });
    // Three letters are too few for an end.
    expect(createLeafModel([leaf('a', 'Tee')]).propose(item('Orchidee Vase'))).toEqual([]);
    const ends = createLeafModel([leaf('a', 'Wein'), leaf('b', 'Sessel')]);
    expect(keysOf(ends.propose(item('Rotwein')))).toEqual(['a']);
    // Neither are three before it: a word that is put together is two.
    expect(ends.propose(item('Eswein'))).toEqual([]);
  });
  it('counts the more where all words of one of its names are there', () => {
    const model = tree(leaf('a', 'Tea towels'), leaf('b', 'Tea bowls and towels', 'bowl'));
    const [first, second] = model.propose(item('Tea Towels, set of two'));
    expect(keysOf([first!, second!])).toEqual(['a', 'b']);
    expect(first!.share / second!.share).toBeGreaterThan(3);
    // Of a family whose titles differ, a word of one title is none of its name.
    const words = (titles: string[]) => model.propose({ ...item(''), titles }).find((p) => p.key === 'a')!.share;
    expect(words(['Tea towels', 'Tea towels'])).toBeGreaterThan(words(['Tea towels', 'Tea']));
  });
  it('counts a word of the label for more than one of those above it', () => {
    const trees = [
      { ...leaf('a', 'Trays'), path: ['Kitchen', 'Trays'] },
      { ...leaf('b', 'Kitchen'), path: ['Rooms', 'Kitchen'] },
    ];
    expect(keysOf(createLeafModel(trees).propose(item('For the kitchen')))).toEqual(['b', 'a']);
  });
  it('comes in the order of the tree where nothing tells leaves apart, and no more than asked for', () => {
    const twins = createLeafModel([leaf('b', 'Trays'), leaf('a', 'Trays'), leaf('c', 'Trays')]);
    expect(keysOf(twins.propose(item('Trays')))).toEqual(['b', 'a', 'c']);
    expect(twins.propose(item('Trays')).map((p) => [p.share.toFixed(3), p.sureness])).toEqual(
      Array.from({ length: 3 }, () => ['0.333', 'unsure']),
    );
    expect(twins.propose(item('Trays'), 2)).toHaveLength(2);
  });
});

describe('what was placed', () => {
  const learnt = (...examples: [string, string, string, string[]?][]) => {
    const model = createLeafModel(leaves);
    for (const [title, own, key, elsewhere = []] of examples) model.learn(item(title, own, { elsewhere }), key);
    return model;
  };
  it('teaches words that no leaf has', () => {
    const model = learnt(['Paella Ember 40', '', 'pans'], ['Paella Ash 30', '', 'pans'], ['Tagine', '', 'pots']);
    expect(cold.propose(item('Paella Slate 34'))).toEqual([]);
    expect(model.propose(item('Paella Slate 34'))[0]).toMatchObject({ key: 'pans', words: ['paella'] });
  });
  it('tells the leaf of an own category, with how many were placed there', () => {
    const model = learnt(
      ...Array.from({ length: 4 }, (_, i): [string, string, string] => [`Ember ${i}`, 'Cookware', 'pots']),
      ['Ash', 'Cookware', 'pans'],
    );
    const [first, second] = model.propose(item('Slate', 'Cookware'));
    expect(first).toMatchObject({ key: 'pots', chosen: 4, sureness: 'likely' });
    expect(second).toMatchObject({ key: 'pans', chosen: 1 });
  });
  it('tells the leaf by where an item stands on other markets', () => {
    const model = learnt(['Ember', '', 'pots', ['torgvik/grytor']], ['Ash', '', 'pots', ['torgvik/grytor']]);
    expect(model.propose(item('Slate', '', { elsewhere: ['torgvik/grytor'] }))[0]).toMatchObject({
      key: 'pots',
      elsewhere: ['torgvik/grytor'],
    });
  });
  it('by a name that was met once proves little against the word of a leaf', () => {
    const model = learnt(['Ember Casserole', '', 'pots']);
    expect(model.propose(item('Ember Frying Pan'))[0]?.key).toBe('pans');
  });
  it('can be taken back, so that nothing is left of it', () => {
    const model = learnt(['Paella Ember', 'Cookware', 'pans', ['torgvik/x']]);
    model.forget(item('Paella Ember', 'Cookware', { elsewhere: ['torgvik/x'] }), 'pans');
    expect(model.propose(item('Paella', 'Cookware', { elsewhere: ['torgvik/x'] }))).toEqual([]);
    expect(model.propose(item('Iron skillet'))).toEqual(cold.propose(item('Iron skillet')));
  });
  it('in a leaf that is no more teaches nothing', () => {
    expect(learnt(['Paella', '', 'gone']).propose(item('Paella'))).toEqual([]);
  });
  it('makes sure what it only thought likely', () => {
    const model = tree(leaf('a', 'Tea bowls'), leaf('b', 'Soup bowls'));
    expect(model.propose(item('Ember Bowl'))[0]?.sureness).toBe('likely');
    for (let i = 0; i < 12; i++) model.learn(item(`${i % 2 ? 'Ember' : 'Slate'} Bowl ${i}`, 'Bowls'), 'b');
    expect(model.propose(item('Ash Bowl', 'Bowls'))[0]).toMatchObject({ key: 'b', sureness: 'sure' });
  });
});

describe('how sure a leaf is', () => {
  const jars = leaf('jars', 'Storage jars', 'canister', 'jar');
  const learn = (titles: string[]) => {
    const model = tree(jars);
    for (const title of titles) model.learn(item(title), 'jars');
    return (title: string, rest: Partial<ItemTold> = {}) => model.propose(item(title, '', rest))[0];
  };
  const five = ['Ash Storage Jar', 'Elm Storage Jar', 'Oak Storage Jar', 'Fir Storage Jar', 'Yew Storage Jar'];
  it('is not told by there being no other: a word of its name alone is a guess', () => {
    // Of nothing else is “storage” said, and what it is may have no leaf at all.
    expect(learn([])('Storage Bench')).toMatchObject({ key: 'jars', share: 1, sureness: 'likely' });
    expect(learn([])('Oak Canister')).toMatchObject({ sureness: 'sure' });
  });
  it('falls where an item lacks what nearly all there are called by', () => {
    const placed = learn(five);
    expect(placed('Beech Storage Jar')).toMatchObject({ sureness: 'sure' });
    expect(placed('Beech Canister')).toMatchObject({ key: 'jars', sureness: 'likely' });
    expect(placed('Oak Bench')).toMatchObject({ key: 'jars', sureness: 'unsure' });
  });
  it('is told by what they are called as a rule, where their leaf is called otherwise', () => {
    const rule = learn(five.map((t) => t.replace('Storage Jar', 'Tin')));
    expect(rule('Beech Tin')).toMatchObject({ key: 'jars', sureness: 'sure' });
    expect(learn(['Ash Tin', 'Elm Tin', 'Oak Tin', 'Fir Tin'])('Beech Tin')).toMatchObject({ sureness: 'likely' });
  });
  it.each([
    ['four', 4, 4, []],
    ['five', 5, 5, ['storage', 'jar']],
    ['ten, of which nine say more', 10, 9, ['storage', 'jar']],
    ['ten, of which eight do', 10, 8, ['jar']],
  ])('makes a rule of what nine in ten have: of %s', (_, all, more, words) => {
    const habits = createHabits();
    for (let i = 0; i < all; i++) habits.count(0, new Set(i < more ? ['storage', 'jar'] : ['jar']), 1);
    expect(habits.of(0)).toEqual(words);
  });
  it('follows what is taken back', () => {
    const habits = createHabits();
    for (let i = 0; i < 5; i++) habits.count(0, new Set(['jar']), 1);
    expect(habits.of(0)).toEqual(['jar']);
    habits.count(0, new Set(['jar']), -1);
    expect(habits.of(0)).toEqual([]);
  });
});

describe('a category for one of ours', () => {
  it('follows what people chose before, over the words, with how often', () => {
    const used = new Map([
      ['pots', 2],
      ['knives', 6],
      ['tea', 2],
    ]);
    const found = proposeCategories(cold, item('Hearth frying pan', 'Cookware'), used);
    expect(found.map((p) => [p.key, p.chosen, p.share, p.sureness])).toEqual([
      ['knives', 6, 0.6, 'sure'],
      ['pots', 2, 0.2, 'sure'],
      ['tea', 2, 0.2, 'sure'],
      ['pans', 0, expect.any(Number), 'sure'],
    ]);
    expect(proposeCategories(cold, item('Hearth frying pan', 'Cookware'), used, 2)).toHaveLength(2);
  });
  it('stands in the order of its keys where several were chosen as often, and five are told where nothing is said', () => {
    const often = new Map(['pots', 'knives', 'tea'].map((k) => [k, 2]));
    expect(keysOf(proposeCategories(cold, item('Thing'), often))).toEqual(['knives', 'pots', 'tea']);
    const many = createLeafModel(Array.from({ length: 7 }, (_, i) => leaf(`l${i}`, 'Trays')));
    expect(proposeCategories(many, item('Trays'))).toHaveLength(5);
    expect(many.propose(item('Trays'))).toHaveLength(5);
    expect(proposeCategories(many, item('Trays'), new Map([['l6', 1]]))).toHaveLength(5);
  });
  it('is told by words where nobody chose', () => {
    expect(proposeCategories(cold, item('Iron skillet'))[0]).toMatchObject({ key: 'pans', words: ['skillet'] });
  });
});
