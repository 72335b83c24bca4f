// Lines of what is in the box, with the remedy that each has: sure where a count stands there. Common practice of marketplaces.
import { expect, it } from 'vitest';
import { listing, pans } from '../../tests/builders';
import { prepareChecks } from '..';

const judge = prepareChecks(pans, (id) => id === 'list-form');
const mend = (...box: string[]) =>
  judge(listing({ box })).flatMap((f) =>
    f.remedies.map((r) => ('value' in r ? [r.value, 'safe' in r && r.safe] : r.kind)),
  );

it.each<[string[], unknown[]]>([
  [['1 x pan', '12 x lid'], []],
  [['2× lid'], [[['2 x lid'], true]]],
  [['2x lid'], [[['2 x lid'], true]]],
  [['2 * lid'], [[['2 x lid'], true]]],
  [['2 lid'], [[['2 x lid'], true]]],
  [['lid'], [[['1 x lid'], false]]],
])('%j', (box, remedies) => {
  expect(mend(...box)).toEqual(remedies);
});
it('one line that nobody can be sure of makes the whole list so', () => {
  const found = judge(listing({ box: ['2× lid', 'pan'] }));
  expect(found.map((f) => f.remedies.map((r) => ('safe' in r ? r.safe : undefined)))).toContainEqual([false]);
});
