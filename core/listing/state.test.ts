import { describe, expect, it } from 'vitest';
import { combineStandings, type StandingState } from './standing';
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
    ['left out', { marketState: 'left out', hasCategory: false, blockers: 2 }],
    ['sent', { inFlight: 1, marketState: 'live' }],
  ])('is %s for %j', (state, facts) => {
    expect(getListingState({ ...clean, ...facts })).toBe(state);
  });
});

describe('the state of an entry with several sites', () => {
  it.each<[StandingState, StandingState[]]>([
    ['live', ['refused', 'live']],
    ['live', ['withdrawn', 'live', 'in review']],
    ['in review', ['refused', 'in review']],
    ['refused', ['withdrawn', 'refused']],
    ['withdrawn', ['withdrawn', 'withdrawn']],
  ])('is %s for %j', (state, states) => {
    expect(combineStandings(states)).toBe(state);
  });
  it('is none without a site', () => {
    expect(() => combineStandings([])).toThrow();
  });
});
