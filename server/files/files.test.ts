import { randomBytes } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type House, openHouse } from '../tests/house';
import { dropFile, openFile, storeFile } from '.';

let house: House;
beforeAll(async () => {
  house = await openHouse('files_test', { worker: false, size: 3 });
});
afterAll(async () => {
  await house.close();
});
const from = (data: Uint8Array, size: number) =>
  (async function* () {
    for (let i = 0; i < data.length; i += size) yield await Promise.resolve(data.subarray(i, i + size));
  })();
const read = async (id: number) => {
  const chunks: Uint8Array[] = [];
  for await (const c of openFile(house.db, id)()) chunks.push(c);
  return Buffer.concat(chunks);
};

describe('files in the database', () => {
  it.each([
    [0, 10],
    [1, 1],
    [1 << 20, 4096],
    [(1 << 20) * 2 + 17, 70_001],
  ])('keep %i bytes that came in pieces of %i, and can be read twice', async (size, piece) => {
    const data = randomBytes(size);
    const file = await storeFile(house.db, 'x.bin', from(data, piece));
    expect(file.size).toBe(size);
    expect((await read(file.id)).equals(data)).toBe(true);
    expect((await read(file.id)).equals(data)).toBe(true);
    await dropFile(house.db, file.id);
    expect(await read(file.id)).toHaveLength(0);
  });
  it('are cut where they come in one piece, so that a look at their beginning reads no more than that', async () => {
    const { id } = await storeFile(house.db, 'whole.bin', from(randomBytes(3_500_000), 3_500_000));
    const pieces = await house.rows<{ n: number }>(
      'select length(bytes) as n from file_chunks where file_id = ? order by seq',
      [id],
    );
    expect(pieces.map((p) => p.n)).toEqual([1 << 20, 1 << 20, 1 << 20, 3_500_000 - 3 * (1 << 20)]);
    await dropFile(house.db, id);
  });
  it('past their limit are refused with the limit, and leave nothing behind', async () => {
    await expect(
      storeFile(house.db, 'big.csv', from(randomBytes(3_000_000), 100_000), 2_000_000),
    ).rejects.toMatchObject({
      code: 'too-large',
      message: 'The file “big.csv” is larger than 2 MB, which is the most that is taken at once.',
    });
    expect(await house.rows(`select 1 from files where name = 'big.csv'`)).toEqual([]);
    expect(await house.rows('select 1 from file_chunks')).toEqual([]);
  });
  it('whose sender breaks off leave nothing behind', async () => {
    await expect(
      storeFile(
        house.db,
        'half.csv',
        (async function* () {
          yield await Promise.resolve(randomBytes(2_000_000));
          throw new Error('gone');
        })(),
      ),
    ).rejects.toThrow('gone');
    expect(await house.rows(`select 1 from files where name = 'half.csv'`)).toEqual([]);
  });
});

describe('what needs a person today', () => {
  interface Overview {
    stops: Record<string, number>;
    products: number;
    states: Record<string, number>;
    today: { kind: string; market: string | null; count: number; name?: string; refuse?: number; fault?: string }[];
    readiness: { market: string; states: Record<string, number> }[];
  }
  const overview = async (q = '') => (await house.call<Overview>('GET', `/overview${q}`)).body;
  it('adds up: every listing has one state', async () => {
    const o = await overview();
    const [n] = await house.rows<{ n: number }>('select count(*) as n from listings');
    expect(Object.values(o.states).reduce((a, b) => a + b, 0)).toBe(n!.n);
    expect(o.readiness.map((r) => r.market)).toEqual(['quillhaven']);
    expect(await overview('?market=quillhaven')).toMatchObject({ states: o.states });
    expect((await overview('?market=nowhere')).states).toEqual({});
  });
  it('names an import that waits, a failed dispatch first', async () => {
    await house.rows(
      `insert into dispatches (market_id, operation, state, key, file_name, by_whom, total, fault)
        values (1, 'price', 'failed', 'overview-test', 'x.txt', 'x', 4, 'Nobody answers.')
        returning id`,
    );
    const file = await storeFile(house.db, 'wait.csv', from(Buffer.from('x'), 1));
    await house.rows(
      `insert into imports (file_id, name, kind, state, reading, counts)
        values (?, 'wait.csv', 'text', 'planned', '{}', '{"refuse": 2}')
        returning id`,
      [file.id],
    );
    const o = await overview();
    expect(o.today[0]).toMatchObject({ kind: 'failed', market: 'quillhaven', fault: 'Nobody answers.', count: 4 });
    expect(o.today.find((t) => t.kind === 'import')).toMatchObject({ name: 'wait.csv', refuse: 2, count: 1 });
    expect(o.stops['gather']).toBe(1);
  });
});
