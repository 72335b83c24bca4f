import { describe, expect, it } from 'vitest';
import { type MarketPort, readWholeShelf } from './port';

const line = (n: number) => ({ sku: `S${n}`, site: undefined, number: String(n), state: 'live', reason: '' });
/** A market that lists so many entries at a time, by the number of the last one told. */
const openPaged = (entries: number, atOnce: number): { port: MarketPort; asked: (string | null)[] } => {
  const asked: (string | null)[] = [];
  const readShelf = (cursor: string | null) => {
    asked.push(cursor);
    const from = Number(cursor ?? 0);
    const lines = Array.from({ length: Math.max(0, Math.min(atOnce, entries - from)) }, (_, i) => line(from + i + 1));
    return Promise.resolve({ cursor: String(from + lines.length), lines });
  };
  return { port: { readShelf } as unknown as MarketPort, asked };
};

describe('a whole shelf', () => {
  it.each([
    [7, 3, 4],
    [6, 3, 3],
    [2, 3, 2],
    [0, 3, 1],
  ])('of %i entries, %i at a time, is asked for %i times', async (entries, atOnce, times) => {
    const { port, asked } = openPaged(entries, atOnce);
    expect((await readWholeShelf(port)).map((l) => l.number)).toEqual(
      Array.from({ length: entries }, (_, i) => String(i + 1)),
    );
    expect(asked).toHaveLength(times);
  });
  it('comes to an end where a market tells the same place again', async () => {
    const port = { readShelf: () => Promise.resolve({ cursor: 'same', lines: [line(1)] }) } as unknown as MarketPort;
    expect(await readWholeShelf(port)).toHaveLength(2);
  });
});
