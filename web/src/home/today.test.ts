import type { Today } from '@basileus/contract';
import { describe, expect, it } from 'vitest';
import { gatherToday, wordGathered, wordToday } from './today';

const wording = { market: 'Stall', labelOf: () => 'Capacity' };
const cause = { check: 'demanded-missing', message: 'must', field: 'capacity' };
const all: Today[] = [
  { kind: 'failed', market: 'stall', count: 4, dispatch: 7, fault: 'Nobody answers.' },
  { kind: 'refused', market: 'stall', count: 3, dispatch: 7 },
  { kind: 'mended', market: 'stall', count: 1, dispatch: 7 },
  { kind: 'turned-back', market: 'stall', count: 2 },
  { kind: 'held', market: 'stall', count: 1 },
  { kind: 'drift', market: 'stall', count: 2 },
  { kind: 'blocker', market: 'stall', count: 142, cause },
  { kind: 'category', market: 'stall', count: 40 },
  { kind: 'import', market: null, count: 1, import: 9, name: 'a.csv', refuse: 2 },
  { kind: 'send', market: 'stall', count: 1200, operations: [{ operation: 'price', count: 1200 }] },
  {
    kind: 'unsent',
    market: 'stall',
    count: 30,
    surprises: [{ kind: 'stock-gone', operation: 'stock', rows: 30, live: 60 }],
    fault: null,
  },
  { kind: 'unsent', market: 'stall', count: 1, surprises: [], fault: 'It broke.' },
  { kind: 'job', market: null, count: 1, name: 'Importing a.csv', fault: 'Gone.', link: '/x' },
];
const say = (t: Today) => wordToday(t, () => 'Stall', wording);

describe('what needs a person today', () => {
  it('is said without its number, which stands before it, and leads somewhere', () => {
    for (const t of all) {
      const line = say(t);
      expect(line.title).not.toMatch(/\d/);
      expect(line.title).not.toMatch(/undefined/);
      expect(line.link).toMatch(/^\//);
    }
    expect(new Set(all.map((t) => say(t).title)).size).toBe(all.length);
  });
  it.each([
    [1, 'listing blocked: “Capacity” is missing'],
    [142, 'listings blocked: “Capacity” is missing'],
  ])('%i %s', (count, title) => {
    expect(say({ kind: 'blocker', market: 'stall', count, cause })).toMatchObject({
      title,
      link: '/stall/check?cause=demanded-missing.must.capacity',
    });
  });
  it('gathers what several markets have alike, in the place of the first, and nothing else', () => {
    const on = (kind: 'category' | 'send' | 'refused', market: string, n: number): Today =>
      kind === 'send'
        ? { kind, market, count: n, operations: [] }
        : kind === 'refused'
          ? { kind, market, count: n, dispatch: 1 }
          : { kind, market, count: n };
    const lines = gatherToday(
      [
        on('refused', 'stall', 3),
        on('category', 'stall', 4),
        on('refused', 'fair', 5),
        on('send', 'stall', 6),
        on('category', 'fair', 7),
      ],
      ['fair', 'stall'],
    );
    expect(lines.map((l) => l.map((t) => `${t.kind} ${t.market}`))).toEqual([
      ['refused stall'],
      ['category fair', 'category stall'],
      ['refused fair'],
      ['send stall'],
    ]);
    expect(wordGathered(lines[1]!)).toMatchObject({ count: 11, title: 'items without a category', tone: 'warn' });
  });
  it.each<[Today, string]>([
    [{ kind: 'turned-back', market: 'stall', count: 1 }, 'entries turned back after review'],
    [{ kind: 'held', market: 'stall', count: 1 }, 'prices held for a look'],
    [{ kind: 'drift', market: 'stall', count: 1 }, 'entries shown otherwise than sent'],
    [{ kind: 'send', market: 'stall', count: 1, operations: [] }, 'rows ready to go'],
  ])('says once what two markets have: %j', (t, title) => {
    expect(wordGathered([t, { ...t, market: 'fair' } as Today])).toMatchObject({ count: 2, title });
  });
  it('groups thousands, and names what is wrong', () => {
    expect(say(all[9]!).detail).toBe('1,200 price');
    expect(say(all[0]!).detail).toBe('Nobody answers.');
    expect(say(all[8]!).detail).toBe('2 rows of it would be refused.');
    expect(say(all[10]!)).toMatchObject({
      detail: '30 of 60 live entries fall to no stock at all at once.',
      link: '/stall/send?operation=stock',
    });
    expect(say(all[11]!).detail).toBe('It broke.');
  });
});
