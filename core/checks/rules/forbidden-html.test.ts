// Markup where none is taken, in texts and in each entry of a list.
import { expect, it } from 'vitest';
import { listing, pans } from '../../tests/builders';
import { prepareChecks } from '..';

const judge = prepareChecks(pans, (id) => id === 'forbidden-html');
it.each<[Record<string, string | string[]>, unknown[]]>([
  [{ title: 'A <b>pan</b>' }, [['noMarkup', 'title', 'A <b>pan</b>', 'A pan']]],
  [{ description: '<p>A <b>pan</b></p>' }, []],
  [{ description: '<p>A <i>pan</i></p>' }, [['tag', 'description', '<p>A <i>pan</i></p>', '<p>A pan</p>']]],
  [
    { points: ['Plain', 'A <b>pan</b>', '<u>Flat</u>'] },
    [
      ['noMarkup', 'points', 'A <b>pan</b>', 'fill'],
      ['noMarkup', 'points', '<u>Flat</u>', 'fill'],
    ],
  ],
  [{ points: ['3 < 4'] }, []],
  // A code is none of a text.
  [{ colour: '<b>' }, []],
])('%j', (values, found) => {
  expect(
    judge(listing(values)).map((f) => {
      const [r] = f.remedies;
      return [f.message, f.field, f.value, r && 'value' in r ? r.value : r?.kind];
    }),
  ).toEqual(found);
});
