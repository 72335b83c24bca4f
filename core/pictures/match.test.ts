// Names of pictures as people and cameras give them; common practice, no source.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { foldSku } from '../identifiers';
import { matchPictures, namePicture } from '.';

const catalog = ['MG-DUNE', 'MG-DUNE-WHI', 'MG-DUNE-WHI-2', 'KET/7', 'ジャム', 'A1', 'TW-1', 'TW_1'];
const barcodes: Readonly<Record<string, string>> = { '9521234567899': 'KET/7' };
const skusOf = (key: string): string[] => [
  ...catalog.filter((sku) => foldSku(sku) === key),
  ...(barcodes[key] === undefined ? [] : [barcodes[key]]),
];
const match = (...links: string[]) => matchPictures(links.map(namePicture), skusOf);

describe('a picture is of the item', () => {
  it.each([
    ['https://p.example/mg-dune-whi-1.jpg', 'MG-DUNE-WHI'],
    ['https://p.example/mg-dune-whi.jpg', 'MG-DUNE-WHI'],
    // The longest SKU counts: this is the second item, not the second picture.
    ['https://p.example/mg-dune-whi-2.jpg', 'MG-DUNE-WHI-2'],
    ['https://p.example/mg-dune-whi-2_3.jpg', 'MG-DUNE-WHI-2'],
    ['https://p.example/MG_DUNE_front.JPG', 'MG-DUNE'],
    ['https://p.example/mg dune (4).jpeg', 'MG-DUNE'],
    ['https://p.example/MG%20DUNE%20back.png?w=1200#x', 'MG-DUNE'],
    ['photos/MG-DUNE-WHI/01.jpg', 'MG-DUNE-WHI'],
    ['C:\\photos\\MG-DUNE\\lid off.jpg', 'MG-DUNE'],
    ['9521234567899_2.jpg', 'KET/7'],
    ['ket-7.jpg', 'KET/7'],
    ['%E3%82%B8%E3%83%A3%E3%83%A0-1.jpg', 'ジャム'],
    ['100%-a1/a1.jpg', 'A1'],
  ])('whose SKU or barcode %s begins with, or whose folder it lies in', (link, sku) => {
    expect([...match(link).bySku.keys()]).toEqual([sku]);
  });
  it.each(['https://p.example/other-1.jpg', 'mg-dunes.jpg', 'mgd.jpg', 'https://mg-dune.example/1.jpg', '', '/'])(
    'of none: “%s”',
    (link) => {
      expect(match(link)).toMatchObject({ unmatched: [link], unclear: [] });
    },
  );
  it('of none where it may be of two, which are named', () => {
    expect(match('tw-1-1.jpg')).toMatchObject({
      unclear: [{ link: 'tw-1-1.jpg', skus: ['TW-1', 'TW_1'] }],
      unmatched: [],
    });
  });
});

describe('the pictures of an item stand', () => {
  it('by what says that it is first, then without a word, by number, by word', () => {
    const links = ['a1-side.jpg', 'a1-10.jpg', 'a1-2.jpg', 'a1.jpg', 'a1_main.jpg', 'a1-back.jpg'];
    expect(match(...links).bySku.get('A1')).toEqual([
      'a1_main.jpg',
      'a1.jpg',
      'a1-2.jpg',
      'a1-10.jpg',
      'a1-back.jpg',
      'a1-side.jpg',
    ]);
  });
  it('as they came where nothing says an order, and each once', () => {
    expect(match('x/A1/b.jpg', 'y/A1/b.jpg', 'x/A1/b.jpg').bySku.get('A1')).toEqual(['x/A1/b.jpg', 'y/A1/b.jpg']);
  });
  it('with none lost and none doubled, whatever they are called', () => {
    const part = fc.constantFrom('mg-dune', 'a1', 'tw-1', 'main', '2', '_', '-', '/', 'x', '%', '%20', 'ジャム');
    fc.assert(
      fc.property(fc.array(fc.array(part, { maxLength: 6 }).map((p) => p.join(''))), (links) => {
        const { bySku, unmatched, unclear } = match(...links);
        const all = [...[...bySku.values()].flat(), ...unmatched, ...unclear.map((u) => u.link)];
        expect(all.sort()).toEqual([...new Set(links)].sort());
      }),
    );
  });
});
