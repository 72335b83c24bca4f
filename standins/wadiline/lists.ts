// What the market puts into its folders for sellers to read.
import { writeFile } from '../frame';
import { textAt } from './judge';
import type { Other } from './others';
import { escape } from './sheet';
import { othersOn, type Shelf } from './shelf';
import type { Said } from './work';

const head = '<?xml version="1.0" encoding="UTF-8"?>\n';

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

/** Another seller puts an entry there. */
export function addOther(shelf: Shelf, other: Other): void {
  shelf.memory.others = [...othersOn(shelf), other];
  putLists(shelf);
}

/** How everything stands, and what can be found there. */
export function putLists(shelf: Shelf): void {
  const { memory } = shelf;
  const entries = Object.values(memory.entries);
  const standing = entries.map((e) => {
    const terms = ['price', 'sale', 'pieces'].map((t) => [t, textAt(e.cells, `terms.${t}`)] as const);
    const shown = terms.map(([term, text]) => `<${term}>${escape(text)}</${term}>`).join('');
    return `<entry ref="${escape(e.ref)}" number="${e.number}" is="${e.standing}" since="${e.since}"><because>${escape(e.because)}</because>${shown}</entry>\n`;
  });
  const own = entries
    .filter((e) => e.standing === 'on_sale' && !e.joins)
    .map((e): Other => ({
      number: e.number,
      name: textAt(e.cells, 'words[tongue=en].name'),
      maker: textAt(e.cells, 'maker'),
      barcode: textAt(e.cells, 'barcode'),
      shelf: textAt(e.cells, 'shelf'),
      facts: Object.fromEntries(
        ['colour', 'material', 'across', 'holds'].map((name) => {
          const at = `facts.fact[name=${name}]`;
          return [name, `${textAt(e.cells, at)} ${textAt(e.cells, `${at}.@unit`)}`.trim()];
        }),
      ),
    }));
  const found = [...own, ...othersOn(shelf)].map(
    ({ number, name, maker, barcode, shelf, facts }) =>
      `<entry number="${number}" shelf="${shelf}"><name>${escape(name)}</name><maker>${escape(maker)}</maker><barcode>${barcode}</barcode>${Object.entries(
        facts,
      )
        .filter(([, text]) => text !== '')
        .map(([fact, text]) => `<${fact}>${escape(text)}</${fact}>`)
        .join('')}</entry>\n`,
  );
  const put = (path: string, text: string): void => {
    writeFile(memory.folders, path, Buffer.from(text, 'utf8'));
  };
  put('/lists/standing.xml', `${head}<standing>\n${standing.join('')}</standing>\n`);
  put('/lists/entries.xml', `${head}<entries>\n${found.join('')}</entries>\n`);
}
