import { describe, expect, it } from 'vitest';
import { isOnWhite, readPromisedKind } from '.';

/** A square of ten with a colour at some of its edge, in light grey where it is not said. */
const square = (edge: readonly [number, number, number], from: number, to: number): Uint8Array => {
  const pixels = new Uint8Array(10 * 10 * 3).fill(250);
  let n = 0;
  for (let y = 0; y < 10; y++)
    for (let x = 0; x < 10; x++) {
      if (x > 0 && x < 9 && y > 0 && y < 9) pixels.set([0, 0, 0], (y * 10 + x) * 3);
      else if (n >= from && n++ < to) pixels.set(edge, (y * 10 + x) * 3);
      else if (n < from) n++;
    }
  return pixels;
};

describe('a picture is on white', () => {
  it('where nine tenths of its edge are, whatever is in the middle', () => {
    expect(isOnWhite(square([0, 0, 0], 0, 0), 10, 10)).toBe(true);
    // Of 36 pixels at the edge three may be of something else.
    expect(isOnWhite(square([0, 0, 0], 0, 3), 10, 10)).toBe(true);
    expect(isOnWhite(square([0, 0, 0], 0, 4), 10, 10)).toBe(false);
  });
  it('where all three colours are bright', () => {
    expect(isOnWhite(square([245, 245, 245], 0, 36), 10, 10)).toBe(true);
    for (const dull of [
      [244, 255, 255],
      [255, 244, 255],
      [255, 255, 244],
    ] as const)
      expect(isOnWhite(square(dull, 0, 36), 10, 10)).toBe(false);
  });
  it('never where there is none', () => {
    expect(isOnWhite(new Uint8Array(), 0, 0)).toBe(false);
  });
});

it.each([
  ['https://a.example/1.jpg', 'jpeg'],
  ['https://a.example/1.JPEG?w=100', 'jpeg'],
  ['https://a.example/1.png#x', 'png'],
  ['https://a.example/1.webp', 'webp'],
  ['https://a.example/picture', undefined],
  ['https://a.example/1.jpg/show', undefined],
  ['https://a.example/show?name=1.jpg', undefined],
])('the link %s promises %s', (link, kind) => {
  expect(readPromisedKind(link)).toBe(kind);
});
