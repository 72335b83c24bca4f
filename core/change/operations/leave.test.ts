// A price worked out to leave a margin, as a step of a bulk change.
import { describe, expect, it } from 'vitest';
import { extendFields } from '../../product';
import { listMarketFields } from '../../rulebook';
import { smallRulebook } from '../../tests/builders';
import { fields } from '../../tests/house-fields';
import {
  type ChangeOperation,
  listOperations,
  prepareChange,
  type PriceLeaving,
  wordRowProblem,
  wordStepProblem,
} from '..';

const book = extendFields(fields, listMarketFields({ key: 'stall', name: 'Stall' }, smallRulebook()));
const leave = (margin: string, ending = ''): ChangeOperation => ({ do: 'leave', margin, ending });
const prepare = (operation: ChangeOperation, field = 'stall/price') => prepareChange([{ field, operation }], book);
function run(operation: ChangeOperation, priceLeaving: PriceLeaving | undefined, cost?: string) {
  const made = prepare(operation);
  if (!made.ok) throw new Error(wordStepProblem(made.problem));
  return made.change.run(
    {
      kind: 'single',
      values: { 'stall/price': '10.00', ...(cost ? { cost } : {}) },
      listing: { priceLeaving, refuse: () => undefined },
    },
    { today: '2026-11-28', index: 0 },
  );
}

describe('a price that leaves a margin', () => {
  it('is worked out for prices of a market, and for nothing else', () => {
    const offered = book.all.filter((f) => listOperations(f).includes('leave')).map((f) => f.key);
    expect(offered).toEqual(['stall/price', 'stall/sale_price']);
    const made = prepare(leave('18'), 'price');
    expect(made.ok || made.problem).toEqual({ is: 'not-for-field', field: 'Price' });
  });
  it('asks for the share, the ending and the cost of the item', () => {
    const asked: unknown[] = [];
    const answer: PriceLeaving = (...given) => {
      asked.push(given);
      return { ok: true, price: '23.99' };
    };
    expect(run(leave('18', '.99'), answer, '8.40').changes).toEqual([
      { field: 'stall/price', before: '10.00', after: '23.99' },
    ]);
    run(leave('-2.5'), answer);
    expect(asked).toEqual([
      ['stall/price', '8.40', '0.18', '0.99'],
      ['stall/price', undefined, '-0.025', undefined],
    ]);
    const made = prepare(leave('18'));
    expect(made.ok && made.change).toMatchObject({
      asksPrices: true,
      asksGiven: false,
      reads: ['stall/price', 'cost'],
    });
    expect(prepare({ do: 'clear' })).toMatchObject({ change: { asksPrices: false } });
  });
  it('leaves the row alone with the reason where there is none', () => {
    const why = (fault: Extract<ReturnType<PriceLeaving>, { ok: false }>['fault']) => {
      const { changes, problem } = run(leave('18'), () => ({ ok: false, fault }), '8.40');
      expect(changes).toEqual([]);
      return wordRowProblem(problem!, book);
    };
    expect(why({ kind: 'cost-unknown' })).toBe(
      'Its cost is not known, so that nobody can say what a price leaves; give it one in the catalog.',
    );
    expect(why({ kind: 'rate-unknown', currency: 'SEK' })).toBe(
      'There is no rate for SEK, so its cost is not known there; say one under Connection.',
    );
    expect(why({ kind: 'no-price-leaves' })).toBe(
      'No price leaves so much: the fees take the rest. Ask for a lower margin.',
    );
    expect(why({ kind: 'no-category' })).toMatch(/no category on this market/);
    expect(run(leave('18'), undefined, '8.40')).toEqual({ changes: [], problem: null });
  });
  it('is refused without a margin, and with one that is none', () => {
    const refused = (operation: ChangeOperation) => {
      const made = prepare(operation);
      return made.ok ? 'taken' : wordStepProblem(made.problem);
    };
    expect(refused(leave(''))).toBe('Say the margin.');
    expect(refused(leave('a lot'))).toBe('“a lot” is no margin; write percent under 100, such as 18.');
    expect(refused(leave('100'))).toBe('“100” is no margin; write percent under 100, such as 18.');
    expect(refused(leave('-100'))).toBe('“-100” is no margin; write percent under 100, such as 18.');
    expect(refused(leave('99.9'))).toBe('taken');
    expect(refused(leave('18', 'x'))).toBe('“x” is not a number; write digits with a point, such as 12.5.');
  });
});
