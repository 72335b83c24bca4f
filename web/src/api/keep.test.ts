import { describe, expect, it } from 'vitest';
import { keepWithin } from './keep';

describe('what is shown while the next answer is on its way', () => {
  const keep = keepWithin('lines', 7, { state: 'refused', code: '' });
  const after = (...queryKey: unknown[]) => keep('before', { queryKey });
  it('is another page of the same list', () => {
    expect(after('lines', 7, { code: '', state: 'refused' }, 200)).toBe('before');
    expect(after('lines', 7, { state: 'refused', code: '' })).toBe('before');
  });
  it('is nothing of another view, of another thing, or of a shorter question', () => {
    expect(after('lines', 7, { state: 'accepted', code: '' }, 0)).toBeUndefined();
    expect(after('lines', 8, { state: 'refused', code: '' }, 0)).toBeUndefined();
    expect(after('lines', 7)).toBeUndefined();
    expect(keep('before')).toBeUndefined();
  });
});
