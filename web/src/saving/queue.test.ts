import { describe, expect, it } from 'vitest';
import { createQueue, overlayOf, takeBackCells, type Unsaved } from './queue';

const storage = (limit = Infinity) => {
  const held = new Map<string, string>();
  return {
    held,
    getItem: (k: string) => held.get(k) ?? null,
    setItem: (k: string, v: string) => {
      if (v.length > limit) throw new Error('QuotaExceededError');
      held.set(k, v);
    },
  };
};
const entry = (id: string, after: string, part: Partial<Unsaved> = {}): Unsaved => ({
  id,
  scope: 'products',
  title: 'Edited a cell',
  cells: [{ id: 1, field: 'title', before: 'a', after }],
  isUndo: false,
  isLate: false,
  ...part,
});

describe('what is not saved yet', () => {
  it('is there again after a reload, in its order, with what was late', () => {
    const s = storage();
    const before = createQueue(s);
    before.add(entry('1', 'b'));
    before.add(entry('2', 'c'));
    before.markLate('2');
    before.remove('1');
    expect(createQueue(s).list()).toEqual([entry('2', 'c', { isLate: true })]);
  });
  it('of two tabs is one queue: neither loses what the other has typed', () => {
    const s = storage();
    const [a, b] = [createQueue(s), createQueue(s)];
    a.add(entry('a', 'x'));
    b.add(entry('b', 'y'));
    a.add(entry('c', 'z'));
    b.remove('a');
    a.readAgain();
    expect(a.list().map((e) => e.id)).toEqual(['b', 'c']);
    // What the other tab has saved is not put back by marking it.
    b.remove('b');
    a.markLate('b');
    expect(
      createQueue(s)
        .list()
        .map((e) => e.id),
    ).toEqual(['c']);
  });
  it('that does not fit into the browser stays in memory, and is known to be there alone', () => {
    const q = createQueue(storage(300));
    q.add(entry('1', 'b'));
    expect(q.isKept()).toBe(true);
    q.add(entry('2', 'x'.repeat(400)));
    expect(q.isKept()).toBe(false);
    expect(q.list().map((e) => e.id)).toEqual(['1', '2']);
    q.remove('2');
    expect(q.isKept()).toBe(true);
  });
  it.each(['not JSON', '{"a":1}', '[1,null,{"id":"x"}]', '[{"id":"x","scope":"p","title":"t","cells":[{"id":"1"}]}]'])(
    'that somebody else has written there is left aside: %s',
    (text) => {
      const s = storage();
      s.held.set('basileus-unsaved', text);
      expect(createQueue(s).list()).toEqual([]);
    },
  );
  it('tells whoever shows it', () => {
    const q = createQueue(storage());
    let told = 0;
    const stop = q.subscribe(() => told++);
    q.add(entry('1', 'b'));
    stop();
    q.remove('1');
    expect(told).toBe(1);
  });
});

describe('the cells of a scope', () => {
  it('show the last word of each, and whether it is late', () => {
    const entries = [
      entry('1', 'b', { isLate: true }),
      entry('2', 'c'),
      entry('3', 'd', { scope: 'listings:quillhaven' }),
      entry('4', 'e', { cells: [{ id: 2, field: 'title', before: 'x', after: null, reset: true }] }),
    ];
    expect([...overlayOf(entries, 'products')]).toEqual([['1/title', { value: 'c', isLate: false }]]);
  });
  it('are taken back in reverse, each to what stood there', () => {
    const cells = [
      { id: 1, field: 'a', before: 'x', after: 'y' },
      { id: 1, field: 'a', before: 'y', after: 'z' },
    ];
    expect(takeBackCells(cells)).toEqual([
      { id: 1, field: 'a', before: 'z', after: 'y' },
      { id: 1, field: 'a', before: 'y', after: 'x' },
    ]);
  });
});
