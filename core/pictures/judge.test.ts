import { describe, expect, it } from 'vitest';
import { judgePicture, type PictureFacts } from '.';

type There = Extract<PictureFacts, { is: 'there' }>;
const terms = { minEdge: 500, maxEdge: 3000, zoomEdge: 1000, maxRatio: '1.5', maxBytes: 2_000_000, firstOnWhite: true };
const link = 'https://p.example/1.jpg';
const there = (facts: Partial<There> = {}): There => ({
  ...{ is: 'there', width: 1200, height: 1200, kind: 'jpeg', bytes: 200_000, isOnWhite: true },
  ...facts,
});
const said = (facts: Partial<There>, isFirst = true, of = link) =>
  judgePicture(terms, of, there(facts), isFirst).map((f) => f.message);

describe('a picture', () => {
  it.each<[Partial<There>, string[]]>([
    [{}, []],
    [{ width: 500, height: 700 }, ['noZoom']],
    [{ width: 700, height: 499 }, ['small']],
    [{ width: 1000, height: 700 }, []],
    [{ width: 999, height: 700 }, ['noZoom']],
    [{ width: 3000, height: 2000 }, []],
    [{ width: 3001, height: 2500 }, ['large']],
    [{ width: 1500, height: 1000 }, []],
    [{ width: 1501, height: 1000 }, ['notSquare']],
    [{ width: 1000, height: 1501 }, ['notSquare']],
    [{ bytes: 2_000_000 }, []],
    [{ bytes: 2_000_001 }, ['heavy']],
    [{ isOnWhite: false }, ['notOnWhite']],
    [{ kind: 'png' }, ['otherKind']],
    [{ width: 400, height: 100, isOnWhite: false, kind: 'gif' }, ['small', 'notSquare', 'notOnWhite', 'otherKind']],
  ])('of %j is found %j', (facts, messages) => {
    expect(said(facts)).toEqual(messages);
  });
  it('behind the first may stand in a room, and one whose link promises nothing may be of any kind', () => {
    expect(said({ isOnWhite: false }, false)).toEqual([]);
    expect(said({ kind: 'png' }, true, 'https://p.example/1')).toEqual([]);
  });
  it('of which a market asks nothing is well, however it is', () => {
    const odd = there({ width: 10, height: 9000, bytes: 1e9, isOnWhite: false });
    expect(judgePicture({}, link, odd, true)).toEqual([]);
    expect(judgePicture({ firstOnWhite: false }, link, odd, true)).toEqual([]);
  });
  it('that is not there or is none is nothing else besides', () => {
    expect(judgePicture(terms, link, { is: 'missing', status: 410 }, true)).toEqual([
      { message: 'missing', params: { status: 410 } },
    ]);
    expect(judgePicture(terms, link, { is: 'strange' }, true)).toEqual([{ message: 'strange', params: {} }]);
  });
  it('is spoken of in numbers that people read', () => {
    expect(judgePicture(terms, link, there({ bytes: 2_000_001 }), true)).toEqual([
      { message: 'heavy', params: { kilobytes: 2001, most: 2000 } },
    ]);
  });
});
