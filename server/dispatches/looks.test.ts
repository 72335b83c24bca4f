// How often a market's shelf is looked at: at the usual pace while there is news, ever less often while there is none.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { allJobs } from '../all-jobs';
import { writeOn } from '../database';
import { type House, openHouse } from '../tests/house';
import { pauseBetweenLooks } from './jobs';
import { watchShelf } from '.';

let house: House;
beforeAll(async () => {
  house = await openHouse('looks_test', { size: 40, worker: false });
});
afterAll(() => house.close());

describe('the pause between two looks', () => {
  it.each([
    [15, 0, 15],
    [15, 20, 15],
    [15, 21, 30],
    [15, 24, 240],
    [15, 25, 300],
    [15, 9999, 300],
    [1.5, 20, 1.5],
    [1.5, 27, 192],
    // A market whose own pace is slower is never asked faster than that.
    [900, 5, 900],
    [900, 50, 900],
  ])('of %s seconds is, after %s looks without news, %s', (usual, quiet, seconds) => {
    expect(pauseBetweenLooks(usual, quiet)).toBe(seconds);
  });
});

describe('looks without news', () => {
  const quiet = async () =>
    (await house.rows<{ n: number }>(`select quiet_looks as n from markets where key = 'quillhaven'`))[0]!.n;
  const look = () =>
    allJobs
      .find((j) => j.kind === 'watch-shelf')!
      .run(
        { market: 'quillhaven' },
        {
          id: 'test',
          db: house.db,
          attempt: 1,
          beside: undefined,
          progress: () => Promise.resolve(),
          write: writeOn(house.db),
        },
      );
  it('are counted, and make the next one later', async () => {
    await look();
    const before = await quiet();
    await look();
    expect(await quiet()).toBe(before + 1);
    await house.rows(`update markets set quiet_looks = 40 where key = 'quillhaven'`);
    expect(await look()).toMatchObject({ again: 300 });
  });
  it('begin anew with news, and when somebody wants a look', async () => {
    await house.rows(`update markets set quiet_looks = 40, shelf_cursor = null where key = 'quillhaven'`);
    expect(((await look()) as { again: number }).again).toBeLessThanOrEqual(15);
    expect(await quiet()).toBe(0);
    await house.rows(`update markets set quiet_looks = 40 where key = 'quillhaven'`);
    await watchShelf(house.db, 'quillhaven');
    expect(await quiet()).toBe(0);
  });
});
