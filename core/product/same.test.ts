// When two values of a field of ours are the same.
import { expect, it } from 'vitest';
import type { Value } from '../listing/values';
import { fields } from '../tests/house-fields';
import { isSameField } from '.';

it.each<[string, Value | null, Value | null, boolean]>([
  ['price', '12.5', '12.50', true],
  ['price', '12.5', '12.51', false],
  ['stock', '7', '07', true],
  ['stock', '7', '7', true],
  ['price', '12.5', null, false],
  ['price', null, null, true],
  ['price', null, '', true],
  // What is no number is the same only letter by letter.
  ['price', 'dear', 'dear ', false],
  ['price', 'dear', '12.50', false],
  ['price', '12.50', 'dear', false],
  ['price', ['12.5'], '12.50', false],
  ['title', '12.5', '12.50', false],
  ['ghost', '1', '1.0', false],
  ['highlights', ['a', 'b'], ['a', 'b'], true],
  ['highlights', ['a', 'b'], ['b', 'a'], false],
])('%s: %j and %j: %s', (field, a, b, is) => {
  expect([isSameField(fields, field, a, b), isSameField(fields, field, b, a)]).toEqual([is, is]);
});
