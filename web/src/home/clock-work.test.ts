import type { ClockWork } from '@basileus/contract';
import { describe, expect, it } from 'vitest';
import { wordClockWork } from './clock-work';

const at = '2026-11-28T05:00:00.000Z';
const sent = {
  kind: 'sent',
  market: 'stall',
  name: 'Stall',
  at,
  times: 3,
  rows: 1200,
  accepted: 0,
  refused: 0,
} as const;
const brought = { kind: 'brought', source: 4, name: 'Ledger', at, times: 24, items: 1, failed: 0, held: 0 } as const;
const say = (w: ClockWork) => {
  const { title, detail, isBad, link } = wordClockWork(w);
  return [`${title}. ${detail}`, isBad, link];
};

describe('what the clock did', () => {
  it('says how much went out, and what came of it once something did', () => {
    expect(say(sent)).toEqual(['1,200 rows sent to Stall. In 3 dispatches.', false, '/stall/settle']);
    expect(say({ ...sent, times: 1, accepted: 1199, refused: 1 })).toEqual([
      '1,200 rows sent to Stall. In 1 dispatch. 1,199 lines taken so far. 1 line refused.',
      true,
      '/stall/settle',
    ]);
  });
  it('says what a business system brought, and whether it was held or failed', () => {
    const link = '/all/gather/sources?source=4';
    expect(say(brought)).toEqual(['1 item brought in from Ledger. Asked 24 times.', false, link]);
    expect(say({ ...brought, held: 1 })).toEqual([
      '1 item brought in from Ledger. Asked 24 times. Held for a look 1 time.',
      true,
      link,
    ]);
    expect(say({ ...brought, items: 0, failed: 2 })).toEqual([
      'Nothing new from Ledger. Asked 24 times. Failed 2 times.',
      true,
      link,
    ]);
  });
  it('says what a recipe changed, and which file was made', () => {
    expect(say({ kind: 'recipe', name: 'Round up', at, times: 1, items: 40, changeSet: 9 })).toEqual([
      '40 items changed by “Round up”. Done 1 time.',
      false,
      '/all/history?set=9',
    ]);
    expect(say({ kind: 'file', name: 'Stock', at, times: 2 })).toEqual([
      'File of “Stock” taken out. Made 2 times.',
      false,
      '/all/gather/exports',
    ]);
    expect(say({ kind: 'import', import: 7, name: 'spring.csv', at, rows: 9, refused: 0 })).toEqual([
      '9 rows of spring.csv written. ',
      false,
      '/all/gather/imports/7',
    ]);
    expect(say({ kind: 'import', import: 7, name: 'spring.csv', at, rows: 1, refused: 2 })).toEqual([
      '1 row of spring.csv written. 2 rows refused.',
      true,
      '/all/gather/imports/7',
    ]);
  });
});
