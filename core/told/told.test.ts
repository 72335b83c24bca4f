// What texts say of the facts of an item. The sentences are invented; how people write measures is common practice.
import { describe, expect, it } from 'vitest';
import { createWordFinder, findAmount, listStatements } from '.';

describe('statements of a text', () => {
  it.each([
    ['Pan, cast iron; 28 cm. Light', ['Pan', 'cast iron', '28 cm', 'Light']],
    ['1.5 l (1,5 litres)', ['1.5 l', '1,5 litres']],
    ['<p>One</p><p>two</p>', ['One', 'two']],
    ['', []],
  ])('%j are %j', (text, statements) => {
    expect(listStatements(text)).toEqual(statements);
  });
});

describe('words of a list', () => {
  const find = createWordFinder([
    { value: 'blu', names: ['Blue'] },
    { value: 'nvy', names: ['Navy', 'Navy blue'] },
    { value: 'irn', names: ['Cast iron'] },
    { value: 'lid', names: ['Lid'] },
    { value: 'non', names: ['', '–'] },
  ]);
  it.each<[string, string[]]>([
    ['Hearth Pan, cast-iron, BLUE', ['irn', 'blu']],
    ['A navy blue cloth', ['nvy']],
    ['Navy, blue', ['nvy', 'blu']],
    ['Two lids', ['lid']],
    ['Bluebell soap, eyelids, iron', []],
    ['Cast, iron', []],
    ['<b>Blue</b><i>pan</i>', ['blu']],
  ])('in %j are %j', (text, values) => {
    expect(find(text).map((s) => s.value)).toEqual(values);
    expect(find(text).every((s) => s.isSo)).toBe(true);
  });
  it.each(['without lid', 'Ohne Lid', 'no lid', 'lid free'])('are taken back in %j', (text) => {
    expect(find(text)).toEqual([{ value: 'lid', isSo: false }]);
  });
  it('are not taken back by what stands in another statement, or further away', () => {
    expect(find('No handle. Lid of glass')).toEqual([{ value: 'lid', isSo: true }]);
    expect(find('free delivery of the lid')).toEqual([{ value: 'lid', isSo: true }]);
  });
});

describe('an amount', () => {
  const diameter = { cues: ['Diameter', 'Ø'], unit: 'cm' };
  it.each<[string, string | undefined]>([
    ['Diameter: 28 cm', '28 cm'],
    ['28 cm diameter', '28 cm'],
    ['Ø 28 cm', '28 cm'],
    ['28cm in diameter', '28 cm'],
    ['A diameter of about 28.5 cm', '28.5 cm'],
    ['Diameter 280 mm', '280 mm'],
    ['Diameter 11"', '11 in'],
    ['Diameter 28,5 cm', '28.5 cm'],
    ['Diameter 28 cm, diameter 28 cm', '28 cm'],
    ['Height 12 cm, diameter 28 cm', '28 cm'],
    ['Diameter 28 cm height 12 cm', '28 cm'],
    ['<li>Diameter</li><li>28 cm</li>', undefined],
    ['Diameter 24 cm, base diameter 18 cm', undefined],
    ['Diameter: 2 kg', undefined],
    ['Diameter 20-28 cm', undefined],
    ['Diameter 28 x 20 cm', undefined],
    ['Diameter of a pan that is made to be 28 cm', undefined],
    ['A pan of 28 cm', undefined],
    ['Diameters: 28 cm', '28 cm'],
    ['Diameter A28 cm', undefined],
  ])('beside its word in %j is %s', (text, amount) => {
    expect(findAmount(['Hearth Pan', text], diameter, false)).toBe(amount);
  });
  it.each<[string[], string | undefined]>([
    [['Hearth Pan 28 cm'], '28 cm'],
    [['Hearth Pan 28 cm', 'Diameter 30 cm'], '30 cm'],
    [['Hearth Pan 28 cm, 1.5 l'], '28 cm'],
    [['Hearth Pans 28 cm, 24 cm'], undefined],
    [['Hearth Pan', 'It is 28 cm'], undefined],
    [['Hearth Tray 30 x 20 cm'], undefined],
    [['Hearth Tray 30 × 20 × 5 cm'], undefined],
    [[], undefined],
  ])('alone in the title of %j is %s', (texts, amount) => {
    expect(findAmount(texts, diameter, true)).toBe(amount);
  });
  it.each<[string, string | undefined]>([
    ['96 pages', '96'],
    ['Pages: 96', '96'],
    ['With 1,250 pages', '1250'],
    ['96 cm, no pages', undefined],
    ['A set of 6', undefined],
  ])('without a unit in %j is %s', (text, amount) => {
    expect(findAmount([text], { cues: ['pages'] }, false)).toBe(amount);
  });
  it('is told by words of more than one', () => {
    expect(findAmount(['A set of 6 spoons of 20 cm'], { cues: ['set of'] }, false)).toBe('6');
    expect(findAmount(['6 spoons, 1 set'], { cues: ['set of'] }, false)).toBeUndefined();
  });
});
