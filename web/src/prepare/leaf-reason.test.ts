import { expect, it } from 'vitest';
import { wordLeafReason } from './leaf-reason';

const nothing = { words: [], chosen: 0, elsewhere: [], family: false };
it.each([
  [nothing, 'some words are alike'],
  [{ ...nothing, words: ['iron', 'skillet', 'deep'] }, '“iron”, “skillet” in its name or group'],
  [{ ...nothing, chosen: 6 }, 'chosen 6 times for “Pans”'],
  [{ ...nothing, elsewhere: [{ market: 'Torgvik', leaf: 'Pannor' }] }, 'it is “Pannor” on Torgvik'],
  [{ ...nothing, chosen: 2, words: ['wok'] }, 'chosen 2 times for “Pans”; “wok” in its name or group'],
  [{ ...nothing, words: ['wok'], family: true }, 'others of its family are there'],
])('%j is said as “%s”', (reason, text) => {
  expect(wordLeafReason(reason, 'Pans')).toBe(text);
});
