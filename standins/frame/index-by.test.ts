import { expect, it } from 'vitest';
import { indexBy } from './index-by';

it('finds things by each of their texts, those that come later too, and one that is added twice once', () => {
  const one = { code: '1', kin: 'a' },
    two = { code: '2', kin: 'a' };
  const index = indexBy([one], (t) => [`code ${t.code}`, `kin ${t.kin}`]);
  expect(index.among('kin a')).toEqual([one]);
  index.add(two);
  index.add(two);
  expect([index.among('kin a'), index.among('code 2'), index.among('code 3')]).toEqual([[one, two], [two], []]);
  two.code = '3';
  index.add(two);
  expect([index.among('code 2'), index.among('code 3')]).toEqual([[two], [two]]);
});
