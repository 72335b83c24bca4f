// Names in a file that no item has yet. No published source: what a second brand of one spelling costs is common practice.
import { describe, expect, it } from 'vitest';
import { createNoveltyJudge } from './novelty';

const judge = () => createNoveltyJudge({ shared: new Set(['brand', 'category']) } as never);
const known = new Map([
  ['brand', ['Brindlewick', 'Pellow']],
  ['category', ['Frying pans', 'Kettles']],
]);
const brand = (after: string | string[] | null) => [{ field: 'brand', after }];

describe('names that are new', () => {
  it('are told with their rows and the name that they are most like', () => {
    const j = judge();
    j.note(3, [...brand('Pellow'), { field: 'category', after: 'Fryng pans' }]);
    j.note(4, [...brand('Brindelwick'), { field: 'title', after: 'New title' }]);
    j.note(7, brand('Brindelwick'));
    j.note(9, brand('Xylo'));
    expect(j.fields()).toEqual(['brand', 'category']);
    expect(j.list(known)).toEqual([
      { field: 'brand', value: 'Brindelwick', rows: 2, first: 4, near: 'Brindlewick' },
      { field: 'brand', value: 'Xylo', rows: 1, first: 9, near: null },
      { field: 'category', value: 'Fryng pans', rows: 1, first: 3, near: 'Frying pans' },
    ]);
  });
  it('are like a short one only where nearly all letters are the same', () => {
    const j = judge();
    for (const [i, name] of ['blau', 'Blakk', 'Brown', 'Pallow'].entries()) j.note(i, brand(name));
    const near = j.list(new Map([['brand', ['Blak', 'Brawn', 'Pellaw']]])).map((n) => n.near);
    expect(near).toEqual([null, 'Blak', 'Brawn', null]);
    j.note(9, brand('Pellow'));
    expect(j.list(new Map([['brand', ['Pallaw', 'Pellew']]])).at(-1)!.near).toBe('Pellew');
  });
  it('are none where nothing is filled, where a list stands, or where no item has the field filled', () => {
    const j = judge();
    j.note(2, brand(null));
    j.note(3, brand(['Pellow', 'New']));
    expect(j.fields()).toEqual([]);
    j.note(4, brand('New'));
    expect(j.list(new Map([['brand', []]]))).toEqual([]);
    expect(j.list(new Map())).toEqual([]);
    expect(j.list(known).map((n) => n.value)).toEqual(['New']);
  });
  it('are not told of a column with 2,000 different ones, and 200 at the most of one with fewer', () => {
    const j = judge();
    for (let i = 0; i < 1999; i++) j.note(i, brand(`Name ${i} of many`));
    // Known ones are no news, and do not use up the room of those that are.
    const names = new Map([['brand', Array.from({ length: 100 }, (_, i) => `Name ${i} of many`)]]);
    const told = j.list(names);
    expect([told.length, told[0]!.value]).toEqual([200, 'Name 100 of many']);
    j.note(2000, brand('The last'));
    expect(j.list(names)).toEqual([]);
    // Past that, none is kept in mind.
    j.note(2001, brand('One more'));
    j.note(2002, brand('Name 5 of many'));
    expect(j.list(names)).toEqual([]);
  });
});
