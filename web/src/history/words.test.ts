import { historyFact, type HistoryFact } from '@basileus/contract';
import { describe, expect, it } from 'vitest';
import { wordHistory } from './words';

const dispatched = { rows: 2, market: 'Quillhaven', operation: 'price', file: 'price.tsv' } as const;

describe('words of the history', () => {
  const cases: [HistoryFact, string, string][] = [
    [{ is: 'added', sku: 'MP-1', title: 'Mug' }, 'added MP-1', 'Mug'],
    [{ is: 'changed', title: 'Prices', cells: 1 }, 'changed Prices', '1 cell'],
    [{ is: 'changed', title: 'Prices', cells: 1200, removed: 1 }, 'changed Prices', '1,200 cells, 1 item removed'],
    [{ is: 'imported', name: 'a.csv', rows: 3 }, 'imported a.csv', '3 rows'],
    [{ is: 'import-stopped', name: 'a.csv', rows: 1 }, 'stopped importing a.csv', '1 row'],
    [{ is: 'import-timed', name: 'a.csv', at: null }, 'took the time of a.csv away', ''],
    [{ is: 'in-force', market: 'Quillhaven', version: '2026.2' }, 'put the Quillhaven rulebook 2026.2 in force', ''],
    [
      { is: 'wished', rows: 1, wish: 'withdraw', market: 'Quillhaven' },
      'decided that 1 listing is to be withdrawn',
      'Quillhaven',
    ],
    [{ is: 'wanted', rows: 4, wanted: false, market: 'Lumbara' }, 'left out 4 listings', 'Lumbara'],
    [{ is: 'wanted', rows: 1, wanted: true, market: 'Lumbara' }, 'took in 1 listing', 'Lumbara'],
    [
      {
        is: 'sending-said',
        market: 'Lumbara',
        how: 'set',
        operations: ['stock', 'price'],
        schedule: { every: 'minutes', minutes: 15 },
        at: null,
        rows: 0,
      },
      'let go to Lumbara by the clock:',
      'stock, price · every 15 minutes',
    ],
    [
      { is: 'entries-judged', rows: 2, as: 'joined', market: 'Wadiline' },
      'decided that 2 items join entries that are there',
      'Wadiline',
    ],
    [
      { is: 'entries-judged', rows: 1, as: 'other', market: 'Wadiline' },
      'decided that 1 item is another than the entry there',
      'Wadiline',
    ],
    [
      { is: 'entries-judged', rows: 2, as: 'found', market: 'Wadiline' },
      'left open whether 2 items join entries that are there',
      'Wadiline',
    ],
    [
      { is: 'wished', rows: 4, wish: 'keep', market: 'Quillhaven' },
      'decided that 4 listings are to stay',
      'Quillhaven',
    ],
    [{ is: 'built', ...dispatched }, 'built 2 rows to Quillhaven (price)', 'price.tsv'],
    [{ is: 'sent', ...dispatched }, 'sent 2 rows to Quillhaven (price)', 'price.tsv'],
    [{ is: 'stopped', ...dispatched, rows: 1 }, 'stopped 1 row to Quillhaven (price)', 'price.tsv'],
    [{ is: 'abandoned', ...dispatched }, 'abandoned 2 rows to Quillhaven (price)', 'price.tsv'],
    [{ is: 'settled-by-shelf', ...dispatched }, 'settled by the shelf 2 rows to Quillhaven (price)', 'price.tsv'],
    [{ is: 'let-go', rows: 5, dispatch: 12, code: 'Q17' }, 'let 5 refused lines of dispatch 12 go', 'Q17'],
    [{ is: 'market-added', market: 'Torgvik', version: '2026.10' }, 'added the market Torgvik', 'rulebook 2026.10'],
    [{ is: 'market-changed', market: 'Torgvik', what: ['address', 'key'] }, 'changed Torgvik', 'address, key'],
    [{ is: 'rate-said', currency: 'SEK', rate: '13.2' }, 'set the rate of SEK', '13.2'],
    [{ is: 'own-said', what: 'field', name: 'Spout', how: 'added', to: null }, 'added the field Spout', ''],
    [
      { is: 'own-said', what: 'category', name: 'Pans', how: 'renamed', to: 'Pots' },
      'renamed the category Pans',
      'to Pots',
    ],
    [
      { is: 'own-said', what: 'category', name: 'Pans', how: 'moved', to: null },
      'moved the category Pans',
      'to the top',
    ],
    [
      { is: 'own-said', what: 'category', name: 'Pans', how: 'moved', to: 'Cook' },
      'moved the category Pans',
      'under Cook',
    ],
    [
      {
        is: 'source-said',
        market: 'Torgvik',
        attribute: 'Namn',
        category: null,
        before: null,
        after: { is: 'formula', formula: '[Brand] & [Title]' },
      },
      'chose what fills Namn on Torgvik',
      'what is said above became [Brand] & [Title]',
    ],
    [
      {
        is: 'source-said',
        market: 'Torgvik',
        attribute: 'Namn',
        category: 'Kök › Grytor',
        before: { is: 'text', text: 'x' },
        after: { is: 'nothing' },
      },
      'chose what fills Namn on Torgvik',
      'for Kök › Grytor: “x” for every item became nothing',
    ],
    [
      { is: 'codes-said', market: 'Torgvik', category: null, attribute: 'Färg', ours: 'Navy', theirs: 'B1', values: 1 },
      'matched Navy on Torgvik',
      'Färg, Navy is B1',
    ],
    [
      {
        is: 'codes-said',
        market: 'Torgvik',
        category: 'Kök',
        attribute: 'Färg',
        ours: 'Navy',
        theirs: null,
        values: 1,
      },
      'forgot the match of Navy on Torgvik',
      'for Kök, Färg',
    ],
    [
      {
        is: 'codes-said',
        market: 'Torgvik',
        category: null,
        attribute: 'Färg',
        ours: 'Navy',
        theirs: 'B1',
        values: 12,
      },
      'matched 12 values on Torgvik',
      'Färg, Navy is B1',
    ],
    [{ is: 'market-removed', market: 'Torgvik', rows: 2 }, 'removed the market Torgvik', '2 listings with it'],
    [{ is: 'person-said', name: 'Åsa Lund', how: 'came' }, 'Åsa Lund is one of the people here', ''],
    [{ is: 'person-said', name: 'Åsa Lund', how: 'left' }, 'Åsa Lund has left', ''],
    [
      { is: 'laid-out', live: 640 },
      'laid out the demo of Brindlewick Housewares',
      '640 listings are live from the start',
    ],
    [{ is: 'said', action: 'sent', subject: '3 rows', detail: 'x.tsv' }, 'sent 3 rows', 'x.tsv'],
  ];
  it.each(cases)('says %j', (fact, what, detail) => {
    expect(wordHistory(historyFact.parse(fact))).toEqual({ what, detail });
  });
  it('has a case here for every kind', () => {
    expect(new Set(cases.map(([f]) => f.is))).toEqual(new Set(historyFact.options.map((o) => o.shape.is.value)));
  });
});
