import { expect, it } from 'vitest';
import { isWorthAsking, noteAsked, smallOf } from './small-pictures';

it('a host that gives no small picture three times in a row is left in peace for a minute', () => {
  const link = 'https://a.example/1.jpg';
  for (let n = 0; n < 3; n++) {
    expect(isWorthAsking(link, 1000)).toBe(true);
    noteAsked(link, false, 1000);
  }
  expect(isWorthAsking('https://a.example/2.jpg', 1001)).toBe(false);
  expect(isWorthAsking('https://b.example/2.jpg', 1001)).toBe(true);
  expect(isWorthAsking(link, 61_001)).toBe(true);
  noteAsked(link, true, 61_001);
  expect(isWorthAsking(link, 61_002)).toBe(true);
});
it('a link is asked for whole', () => {
  expect(smallOf('https://a.example/a b.jpg?x=1&y')).toBe(
    '/api/pictures/small?link=https%3A%2F%2Fa.example%2Fa%20b.jpg%3Fx%3D1%26y',
  );
});
