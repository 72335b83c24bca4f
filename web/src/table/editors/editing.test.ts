import { describe, expect, it } from 'vitest';
import {
  dropEntry,
  findOptions,
  finishLastPart,
  getLastPart,
  guessOption,
  joinEntries,
  listAmounts,
  splitEntries,
  stepEntry,
  toggleEntry,
} from './editing';

const colours = ['Dark red', 'Red', 'Rust', 'Blue'].map((label) => ({ code: label.toLowerCase(), label }));
const labels = (typed: string) => findOptions(colours, typed).map((o) => o.label);

describe('a list with search', () => {
  it('shows all where nothing is typed', () => {
    expect(labels('')).toEqual(['Dark red', 'Red', 'Rust', 'Blue']);
  });
  it('puts first what begins with what was typed, then what has such a word, then what holds it', () => {
    expect(labels('r')).toEqual(['Red', 'Rust', 'Dark red']);
    expect(labels('ed')).toEqual(['Dark red', 'Red']);
    expect(labels('green')).toEqual([]);
  });
  it.each([
    ['re', 'Red'],
    ['BLUE', 'Blue'],
    ['dark', 'Dark red'],
  ])('takes with Enter what begins so: %s', (typed, label) => {
    const found = findOptions(colours, typed);
    expect(found[guessOption(found, typed)]?.label).toBe(label);
  });
  it('takes nothing that only holds what was typed, and nothing where nothing is typed', () => {
    const only = [{ code: 'dr', label: 'Dark red' }];
    expect(guessOption(findOptions(only, 'red'), 'red')).toBe(-1);
    expect(guessOption(findOptions(colours, ''), '')).toBe(-1);
  });
  it('takes a code that is typed in full before a word that begins with it', () => {
    const sizes = [
      { code: 'x', label: 'Small' },
      { code: 's', label: 'Super large' },
    ];
    expect(findOptions(sizes, 's')[guessOption(findOptions(sizes, 's'), 's')]?.code).toBe('s');
  });
});

describe('a line of entries', () => {
  it('is read and written with bars', () => {
    expect(splitEntries(' a |b||  c ')).toEqual(['a', 'b', 'c']);
    expect(joinEntries(['a', 'b'])).toBe('a | b');
    expect(getLastPart('a | bl')).toBe('bl');
    expect(getLastPart('a')).toBe('a');
  });
  it('has the last part put in full', () => {
    expect(finishLastPart('Red | bl', 'Blue')).toBe('Red | Blue | ');
    expect(finishLastPart('bl', 'Blue')).toBe('Blue | ');
  });
  it('gets and loses entries, and changes their order', () => {
    expect(toggleEntry('a | b', 'c')).toBe('a | b | c');
    expect(toggleEntry('a | b', 'a')).toBe('b');
    expect(dropEntry('a | b | c', 1)).toBe('a | c');
    expect(stepEntry('a | b | c', 2, -1)).toBe('a | c | b');
    expect(stepEntry('a | b', 0, -1)).toBe('a | b');
    expect(stepEntry('a | b', 1, 1)).toBe('a | b');
  });
});

describe('a measure', () => {
  it('is offered in every unit, exactly', () => {
    expect(listAmounts('24 cm', ['mm', 'cm', 'in'])).toEqual(['240 mm', '24 cm', '9.448819 in']);
  });
  it('without a unit is offered with each', () => {
    expect(listAmounts('24', ['mm', 'cm'])).toEqual(['24 mm', '24 cm']);
  });
  it('of something else is offered nothing', () => {
    expect(listAmounts('2 kg', ['mm'])).toEqual([]);
    expect(listAmounts('wide', ['mm'])).toEqual([]);
    expect(listAmounts('3 hands', ['mm'])).toEqual([]);
  });
});
