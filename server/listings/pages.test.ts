import { describe, expect, it } from 'vitest';
import { eachPage } from './pages';

const ids = Array.from({ length: 23 }, (_, i) => i);
/** Does pages, each when it is let go; answers who did which. */
function makeDesk() {
  const done: { by: string; page: readonly number[] }[] = [];
  const work = (by: string) => async (page: readonly number[]) => {
    // Others are asked meanwhile, as a database lets them.
    await new Promise((r) => setImmediate(r));
    done.push({ by, page });
    return page.length;
  };
  return { done, work };
}

describe('work by pages', () => {
  it.each([
    ['in one thread', false],
    ['in two', true],
  ])('does every id once, %s, and tells what came of each page', async (_, isTwo) => {
    const { done, work } = makeDesk();
    const told: number[] = [];
    await eachPage(ids, 4, { here: work('here'), there: isTwo ? work('there') : undefined }, (rows) => {
      told.push(rows);
      return Promise.resolve();
    });
    expect(done.flatMap((d) => d.page).sort((a, b) => a - b)).toEqual(ids);
    expect(told.sort()).toEqual([3, 4, 4, 4, 4, 4]);
    expect(new Set(done.map((d) => d.by)).size).toBe(isTwo ? 2 : 1);
  });
  it('leaves what is left to whoever is quicker', async () => {
    const { done, work } = makeDesk();
    let letGo = (): void => undefined;
    const held = new Promise<void>((r) => (letGo = r));
    const slow = async (page: readonly number[]) => {
      await held;
      return work('there')(page);
    };
    const all = eachPage(ids, 4, { here: work('here'), there: slow }, () => {
      // The last page of those here lets the others go.
      if (done.length === 4) letGo();
      return Promise.resolve();
    });
    await all;
    expect(done.filter((d) => d.by === 'here')).toHaveLength(4);
    expect(done.flatMap((d) => d.page).sort((a, b) => a - b)).toEqual(ids);
  });
  it('fails with the page that fails, in whichever thread', async () => {
    const { work } = makeDesk();
    const lost = () => Promise.reject(new Error('lost'));
    await expect(eachPage(ids, 4, { here: work('here'), there: lost }, () => Promise.resolve())).rejects.toThrow(
      'lost',
    );
  });
});
