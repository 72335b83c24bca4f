import { describe, expect, it } from 'vitest';
import { shareRuns } from './share-runs';

/** A question whose runs end when they are told to. */
function ask() {
  const runs: { key: string; end: (fails?: boolean) => void }[] = [];
  const share = shareRuns(
    (key) =>
      new Promise<number>((done, fail) => {
        const n = runs.length;
        runs.push({
          key,
          end: (fails = false) => {
            if (fails) fail(new Error(`run ${n}`));
            else done(n);
          },
        });
      }),
  );
  return { runs, share };
}
const turn = () => new Promise((r) => setImmediate(r));

describe('a question that many ask at once', () => {
  it('is answered by a run that began after it was asked, one for all who wait', async () => {
    const { runs, share } = ask();
    const first = share('a'),
      later = [share('a'), share('a'), share('a')];
    await turn();
    expect(runs).toHaveLength(1);
    runs[0]!.end();
    expect(await first).toBe(0);
    await turn();
    expect(runs).toHaveLength(2);
    const last = share('a');
    runs[1]!.end();
    expect(await Promise.all(later)).toEqual([1, 1, 1]);
    await turn();
    runs[2]!.end();
    expect(await last).toBe(2);
    await turn();
    // Nobody waits: the next begins at once.
    void share('a');
    expect(runs).toHaveLength(4);
  });
  it('does not wait for another question', () => {
    const { runs, share } = ask();
    void share('a');
    void share('b');
    expect(runs.map((r) => r.key)).toEqual(['a', 'b']);
  });
  it('fails for those alone whose run failed', async () => {
    const { runs, share } = ask();
    const first = share('a'),
      second = share('a');
    runs[0]!.end(true);
    await expect(first).rejects.toThrow('run 0');
    await turn();
    runs[1]!.end();
    expect(await second).toBe(1);
  });
});
