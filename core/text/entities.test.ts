// Names of signs (HTML Living Standard 13.5).
import { expect, it } from 'vitest';
import { decodeEntities } from './entities';

it.each([
  ['no sign', 'no sign'],
  ['Pan &amp; lid', 'Pan & lid'],
  ['caf&eacute; &#233; &#xE9;', 'café é é'],
  ['&amp;amp;', '&amp;'],
  ['AT&T & co; R&D;', 'AT&T & co; R&D;'],
  ['&nosuchname;', '&nosuchname;'],
  ['&lt;b&gt; &quot;x&quot;', '<b> "x"'],
  ['&amp; twice &amp;', '& twice &'],
])('%s is %s', (text, plain) => {
  // The second time it is remembered.
  expect([decodeEntities(text), decodeEntities(text)]).toEqual([plain, plain]);
});
it('names that are made up do not push out those that are meant', () => {
  for (let i = 0; i < 1500; i++) decodeEntities(`&made${i.toString(36).replace(/\d/g, 'z')};`);
  expect(decodeEntities('&uuml;')).toBe('ü');
});
