import { describe, expect, it } from 'vitest';
import { getListingState, type StateFacts } from './state';

const clean: StateFacts = {
  inFlight: 0,
  marketState: 'none',
  isRefusalOpen: false,
  hasCategory: true,
  blockers: 0,
};

describe('the state of a listing', () => {
  it.each<[string, Partial<StateFacts>]>([
    ['ready', {}],
    ['blocked', { blockers: 1 }],
    ['draft', { hasCategory: false }],
    ['draft', { hasCategory: false, blockers: 1 }],
    ['refused', { marketState: 'refused', isRefusalOpen: true, blockers: 1 }],
    ['ready', { marketState: 'refused' }],
    ['live', { marketState: 'live', blockers: 3, isRefusalOpen: true }],
    ['in review', { marketState: 'in review', hasCategory: false }],
    ['withdrawn', { marketState: 'withdrawn', isRefusalOpen: true }],
    ['sent', { inFlight: 1, marketState: 'live' }],
  ])('is %s for %j', (state, facts) => {
    expect(getListingState({ ...clean, ...facts })).toBe(state);
  });
});
