// The stand-in for the host of pictures: real pictures, as good and as bad as those of real catalogs.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import sharp from 'sharp';
import { type Flaw, flawOf, nameDrawing, type RunningPictures, startPictures } from '.';

let host: RunningPictures, base: string;
beforeAll(async () => {
  const port = await new Promise<number>((ready) => {
    host = startPictures({ workMs: 0, reviewMs: 0, sellEveryMs: 0 }, 0, ready);
  });
  base = `http://127.0.0.1:${port}`;
});
afterAll(() => host.stop());

const names = Array.from({ length: 4000 }, (_, i) => `mg-dune-${i}-1`);
const first = (flaw: Flaw): string => names.find((n) => flawOf(n) === flaw)!;
const get = async (name: string) => {
  const r = await fetch(`${base}/${name}.jpg`);
  return { status: r.status, type: r.headers.get('content-type'), bytes: Buffer.from(await r.arrayBuffer()) };
};

describe('a picture of the stand-in', () => {
  it.each<[Flaw, { format: string; width: number; height: number }]>([
    ['none', { format: 'jpeg', width: 1200, height: 1200 }],
    ['small', { format: 'jpeg', width: 420, height: 420 }],
    ['long', { format: 'jpeg', width: 2400, height: 1200 }],
    ['png', { format: 'png', width: 1200, height: 1200 }],
  ])('%s is %j', async (flaw, shape) => {
    const { status, bytes } = await get(first(flaw));
    expect(status).toBe(200);
    expect(await sharp(bytes).metadata()).toMatchObject(shape);
  });
  it('is gone, or a page, or in a room, now and then', async () => {
    expect((await get(first('gone'))).status).toBe(404);
    expect((await get(first('page'))).type).toBe('text/html');
    const corner = async (flaw: Flaw) => [
      ...(await sharp((await get(first(flaw))).bytes)
        .extract({ left: 5, top: 5, width: 1, height: 1 })
        .raw()
        .toBuffer()),
    ];
    expect(Math.min(...(await corner('none')))).toBeGreaterThan(250);
    expect(Math.max(...(await corner('room')))).toBeLessThan(230);
  });
  it('is the same whenever it is asked for, another for another item, and mostly as it should be', () => {
    expect(nameDrawing('fp-hear-28-1')).toEqual(nameDrawing('fp-hear-28-1'));
    expect(nameDrawing('fp-hear-28-1')).toMatchObject({ shape: 'pan', view: 1 });
    expect(nameDrawing('mg-dune-1')).toMatchObject({ shape: 'mug' });
    expect(nameDrawing('mg-dune-whi-2').colour).not.toBe(nameDrawing('mg-dune-nav-2').colour);
    expect(nameDrawing('zz-1').shape).toBe('box');
    expect(new Set(names.map((n) => nameDrawing(n).colour)).size).toBeGreaterThan(4);
    const good = names.filter((n) => flawOf(n) === 'none').length;
    expect(good / names.length).toBeGreaterThan(0.95);
    expect(good / names.length).toBeLessThan(0.99);
  });
  it('is asked for by its name and nothing else', async () => {
    expect((await fetch(`${base}/a/b.jpg`)).status).toBe(404);
    expect((await fetch(`${base}/a-1.jpg`, { method: 'POST', body: 'x' })).status).toBe(404);
  });
});
