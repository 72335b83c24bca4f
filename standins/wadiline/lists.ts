// What the market puts into its folders for sellers to read.
import { writeFile } from '../frame';
import { textAt } from './judge';
import { escape } from './sheet';
import type { Shelf } from './shelf';
import type { Said } from './work';

const head = '<?xml version="1.0" encoding="UTF-8"?>\n';

/** What others sell here. */
const others: readonly (readonly [number: string, name: string, maker: string, barcode: string, shelf: string])[] = [
  ['W900001', 'Sadaf Glass Teapot', 'Sadaf', '9529990000018', 'HT-TPT'],
  ['W900002', 'Sadaf Coffee Cups', 'Sadaf', '9529990000025', 'HT-MUG'],
];

/** What was said of each entry of a file. */
export const writeSaid = (file: string, said: readonly Said[]): string =>
  `${head}<said file="${escape(file)}" entries="${said.length}">\n${said
    .map(
      ({ n, ref, word, number, faults }) =>
        `<of n="${n}" ref="${escape(ref)}" word="${word}"${number === '' ? '' : ` number="${number}"`}>${faults
          .map((f) => `<fault id="${f.id}" at="${escape(f.at)}"/>`)
          .join('')}</of>\n`,
    )
    .join('')}</said>\n`;

/** How everything stands, and what can be found there. */
export function putLists({ memory }: Shelf): void {
  const entries = Object.values(memory.entries);
  const standing = entries.map(
    (e) =>
      `<entry ref="${escape(e.ref)}" number="${e.number}" is="${e.standing}" since="${e.since}"><because>${escape(e.because)}</because></entry>\n`,
  );
  const own = entries
    .filter((e) => e.standing === 'on_sale')
    .map(
      (e) =>
        [
          e.number,
          textAt(e.cells, 'words[tongue=en].name'),
          textAt(e.cells, 'maker'),
          textAt(e.cells, 'barcode'),
          textAt(e.cells, 'shelf'),
        ] as const,
    );
  const found = [...own, ...others].map(
    ([number, name, maker, barcode, shelf]) =>
      `<entry number="${number}" shelf="${shelf}"><name>${escape(name)}</name><maker>${escape(maker)}</maker><barcode>${barcode}</barcode></entry>\n`,
  );
  const put = (path: string, text: string): void => {
    writeFile(memory.folders, path, Buffer.from(text, 'utf8'));
  };
  put('/lists/standing.xml', `${head}<standing>\n${standing.join('')}</standing>\n`);
  put('/lists/entries.xml', `${head}<entries>\n${found.join('')}</entries>\n`);
}
