import { describe, expect, it } from 'vitest';
import type { UnsavedCell } from './queue';
import { createUndoLog } from './undo';

const cell = (id: number, before: string, after: string): UnsavedCell => ({ id, field: 'price', before, after });

describe('taking back and making again', () => {
  const setUp = () => {
    const log = createUndoLog();
    const saved: string[] = [];
    const save = (cells: UnsavedCell[]) => {
      saved.push(cells.map((c) => `${c.id}: ${String(c.before)} to ${String(c.after)}`).join(', '));
      return Promise.resolve(cells);
    };
    return { log, saved, save };
  };
  it('takes the last change back, and the one before it, and makes them again in turn', async () => {
    const { log, saved, save } = setUp();
    log.note('a', Promise.resolve([cell(1, '1', '2')]));
    log.note('a', Promise.resolve([cell(1, '2', '3')]));
    await log.undo('a', save);
    await log.undo('a', save);
    expect(log.undo('a', save)).toBeUndefined();
    await log.redo('a', save);
    await log.redo('a', save);
    expect(log.redo('a', save)).toBeUndefined();
    await log.undo('a', save);
    expect(saved).toEqual(['1: 3 to 2', '1: 2 to 1', '1: 1 to 2', '1: 2 to 3', '1: 3 to 2']);
  });
  it('waits for the answer to a change that is on its way, and leaves out what of it was refused', async () => {
    const { log, saved, save } = setUp();
    let answer: (cells: UnsavedCell[]) => void = () => undefined;
    log.note('a', new Promise((done) => (answer = done)));
    const back = log.undo('a', save)!;
    expect(saved).toEqual([]);
    answer([cell(2, 'x', 'y')]);
    expect(await back).toBe(1);
    expect(saved).toEqual(['2: y to x']);
  });
  it('saves nothing for a change of which nothing was made', async () => {
    const { log, saved, save } = setUp();
    log.note('a', Promise.resolve([]));
    expect(await log.undo('a', save)).toBe(0);
    expect(saved).toEqual([]);
  });
  it('cannot make again what a new change has followed, and keeps what belongs elsewhere', async () => {
    const { log, save } = setUp();
    log.note('a', Promise.resolve([cell(1, '1', '2')]));
    log.note('b', Promise.resolve([cell(9, '1', '2')]));
    await log.undo('a', save);
    log.note('a', Promise.resolve([cell(1, '1', '5')]));
    expect(log.redo('a', save)).toBeUndefined();
    expect(log.undo('b', save)).toBeDefined();
  });
});
