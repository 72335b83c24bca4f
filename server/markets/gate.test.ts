// What a market takes in a stretch of time, shared by all who ask at once; against the real database.
import { parseRulebook, type Quota } from '@basileus/core/rulebook';
import { cedarpostDocument } from '@basileus/rulebooks/cedarpost';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { type House, openHouse } from '../tests/house';
import { loadKeyDay, openGate, storeKey } from './gate';
import { loadMarket, type Market } from './load';

const reading = parseRulebook(cedarpostDocument);
if (!reading.ok) throw new Error('The rulebook is not valid.');
const { transport } = reading.rulebook;

let house: House, id: number;
beforeAll(async () => {
  house = await openHouse('gate_test', { size: 20, worker: false });
  ({ id } = await loadMarket(house.db, 'quillhaven'));
});
beforeEach(() => house.rows('delete from market_quotas'));
afterAll(() => house.close());

/** The gate of a market with this quota. */
const gateOf = (quota: Quota) =>
  openGate(house.db, { id, name: 'Cedarpost', rulebook: { transport: { ...transport, quota } } } as unknown as Market);
const outcome = async (spending: Promise<void>) => {
  try {
    await spending;
    return 'through';
  } catch (error) {
    const { code, about, retryAfterSeconds } = error as { code: string; about: object; retryAfterSeconds: number };
    return { code, about, retryAfterSeconds };
  }
};

describe('a quota', () => {
  it('lets so many requests through and no more, however many ask at once', async () => {
    const gates = Array.from({ length: 40 }, () => gateOf({ seconds: 60, requests: 12 }));
    const outcomes = await Promise.all(gates.map((g) => outcome(g.spend(0))));
    expect(outcomes.filter((o) => o === 'through')).toHaveLength(12);
    const [refused] = outcomes.filter((o) => o !== 'through');
    expect(refused).toMatchObject({ code: 'market-unreachable', about: { notTaken: true } });
    const { retryAfterSeconds } = refused as { retryAfterSeconds: number };
    expect(retryAfterSeconds).toBeGreaterThan(50);
    expect(retryAfterSeconds).toBeLessThanOrEqual(60);
  });
  it('counts records too, and lets a small file pass where a large one has to wait', async () => {
    const gate = gateOf({ seconds: 60, requests: 100, records: 1000 });
    expect(await outcome(gate.spend(900))).toBe('through');
    expect(await outcome(gate.spend(101))).toMatchObject({ code: 'market-unreachable' });
    expect(await outcome(gate.spend(100))).toBe('through');
    expect(await outcome(gate.spend(1))).toMatchObject({ code: 'market-unreachable' });
    expect(await outcome(gate.spend(0))).toBe('through');
  });
  it('begins anew when its time is over', async () => {
    const gate = gateOf({ seconds: 60, requests: 1 });
    expect(await outcome(gate.spend(0))).toBe('through');
    expect(await outcome(gate.spend(0))).not.toBe('through');
    await house.rows(`update market_quotas set ends = clock_timestamp() - interval '1 second'`);
    expect(await outcome(gate.spend(0))).toBe('through');
    expect(await outcome(gate.spend(0))).not.toBe('through');
  });
});

describe('a key', () => {
  it('is kept, replaced, forgotten, and gone with its market', async () => {
    const gate = gateOf({ seconds: 1, requests: 1 });
    expect(await gate.loadKey()).toBeUndefined();
    expect(await loadKeyDay(house.db, id)).toBeUndefined();
    await storeKey(house.db, id, 'first');
    await storeKey(house.db, id, 'second');
    expect(await gate.loadKey()).toBe('second');
    expect(await loadKeyDay(house.db, id)).toBeInstanceOf(Date);
    await storeKey(house.db, id, null);
    expect(await gate.loadKey()).toBeUndefined();
  });
});
