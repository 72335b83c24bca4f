// Broken and hostile files without end, from a seed: what people, programs and enemies make of a sheet. Shared by the tests
// (some hundreds) and the long run in bench/.
import { strToU8, zipSync } from 'fflate';

export interface HostileFile {
  about: string;
  name: string;
  bytes: Uint8Array;
}
type Random = () => number;

const pick = <T>(list: readonly T[], random: Random): T => list[Math.floor(random() * list.length)]!;
const upTo = (n: number, random: Random): number => Math.floor(random() * n);

const headings = [
  'SKU',
  'Title',
  'Price',
  'Stock',
  'EAN',
  'Brand',
  'Colour',
  'Highlights',
  'Pictures',
  'Family SKU',
  'Cost',
  'Weight',
];
const cells: readonly ((random: Random) => string)[] = [
  (r) => `HF-${upTo(400, r)}`,
  () => '',
  () => 'Pan with lid, 24 cm',
  () => '12,50',
  () => '1.299,00',
  () => '$12',
  () => '10000000000',
  () => '2147483648',
  () => '-1',
  () => '5.90123E+12',
  () => '4006381333931',
  () => '36000291452',
  () => '2. Mrz',
  () => 'CafÃ©',
  () => '=HYPERLINK("http://pages.example")',
  () => '@SUM(1)',
  () => 'two\nlines',
  () => 'three\r\nlines\r\nhere',
  () => 'say "hello"',
  () => '"',
  () => '""',
  () => '\u0000',
  () => 'a\u0000b',
  () => '\ufeff',
  () => 'ab\u202e right to left',
  () => '😀'.repeat(50),
  () => 'x'.repeat(40_000),
  () => 'S'.repeat(5000),
  () => ' '.repeat(2000),
  () => '@'.repeat(3000),
  () => '<img src=x onerror=alert(1)',
  () => 'www. ' + 'a-'.repeat(800),
  () => '__proto__',
  () => 'constructor',
  () => 'a|b|c|',
  () => '|'.repeat(400),
  () => 'NaN',
  () => '1e400',
  () => 'https://pictures.example/1.jpg',
];
const ends = ['\n', '\r\n', '\r', '\n\r', '\n\n'];

function makeText(random: Random): { about: string; text: string } {
  const delimiter = pick([',', ';', '\t', '|'], random),
    end = pick(ends, random),
    mixes = random() < 0.2,
    width = 1 + upTo(headings.length, random),
    rows = upTo(pick([3, 40, 300], random), random);
  const quote = (c: string): string =>
    random() < 0.03 ? c : c.includes(delimiter) || /["\r\n]/.test(c) ? `"${c.replaceAll('"', '""')}"` : c;
  const line = (list: readonly string[]): string =>
    list.map(quote).join(delimiter) + (mixes ? pick(ends, random) : end);
  const head =
    random() < 0.9 ? headings.slice(0, width) : headings.slice(0, width).map((h) => h.repeat(1 + upTo(2000, random)));
  let text = random() < 0.2 ? `A title of the list${end}${end}` : '';
  text += line(head);
  for (let i = 0; i < rows; i++) {
    const ragged = random() < 0.03 ? upTo(2 * width + 2, random) : width;
    text += line(Array.from({ length: ragged }, (_, k) => (k === 0 ? `HF-${i}` : pick(cells, random)(random))));
  }
  if (random() < 0.1) text += 'All prices are free of tax, carriage paid from two hundred and fifty' + end;
  return { about: `text, ${rows} rows by ${JSON.stringify(delimiter)}, ends ${JSON.stringify(end)}`, text };
}

function encode(text: string, random: Random): Uint8Array {
  switch (upTo(6, random)) {
    case 0:
      return Buffer.from(text, 'latin1');
    case 1:
      return Buffer.concat([Uint8Array.of(0xff, 0xfe), Buffer.from(text, 'utf16le')]);
    case 2:
      return Buffer.concat([Uint8Array.of(0xef, 0xbb, 0xbf), Buffer.from(text, 'utf8')]);
    default:
      return Buffer.from(text, 'utf8');
  }
}

const references = ['A1', 'XFD1', 'ZZZZZZ3', 'A0', '', '1', 'A99999999999', 'a1', 'Ä1', 'A1048576', 'A-5', 'AAAA1'];
const values = [
  '1',
  '',
  'abc',
  '1e400',
  '-1',
  '99999999999',
  '0.1',
  'NaN',
  '45000',
  '  ',
  '&#0;',
  '&#xD83D;',
  '&undefined;',
  '<v>1</v>',
];

function makeWorkbook(random: Random): Record<string, Uint8Array> {
  const cell = (): string => {
    const at = random() < 0.7 ? '' : ` r="${pick(references, random)}"`,
      kind = pick(['', ' t="s"', ' t="b"', ' t="inlineStr"', ' t="e"', ' t="d"', ' s="0"', ' s="99"'], random);
    const value = random() < 0.6 ? String(upTo(9, random)) : pick(values, random);
    return kind.includes('inlineStr')
      ? `<c${at}${kind}><is><t>${value}</t></is></c>`
      : `<c${at}${kind}><v>${value}</v></c>`;
  };
  const rows = Array.from({ length: upTo(60, random) }, () => {
    const at = random() < 0.9 ? '' : ` r="${pick(['1', '5', '-3', '1048577', '99999999', 'x', '2.5', '1e9'], random)}"`;
    return `<row${at}>${Array.from({ length: upTo(8, random) }, cell).join('')}</row>`;
  }).join('');
  const strings = ['SKU', 'Title', 'Price', 'HF-1', 'HF-2', 'Pan', 'Größe', '😀', 'x'.repeat(50_000)]
    .map((s) => `<si><t>${s}</t></si>`)
    .join('');
  const head = '<row><c t="s"><v>0</v></c><c t="s"><v>1</v></c><c t="s"><v>2</v></c></row>';
  const parts: Record<string, string> = {
    '[Content_Types].xml': '<Types/>',
    'xl/workbook.xml': `<workbook xmlns:r="r"><workbookPr date1904="${pick(['0', '1', 'x'], random)}"/><sheets><sheet name="One" ${random() < 0.2 ? 'state="veryHidden" ' : ''}r:id="r1"/>${random() < 0.3 ? '<sheet name="Two" r:id="r2"/>' : ''}</sheets></workbook>`,
    'xl/_rels/workbook.xml.rels': `<Relationships><Relationship Id="r1" Target="${pick(['worksheets/sheet1.xml', '/xl/worksheets/sheet1.xml', '../../etc/passwd', 'nowhere.xml'], random)}"/><Relationship Id="r2" Target="worksheets/sheet1.xml"/></Relationships>`,
    'xl/sharedStrings.xml': `<sst>${strings}</sst>`,
    'xl/styles.xml': `<styleSheet><numFmts><numFmt numFmtId="200" formatCode="${pick(['yyyy-mm-dd', 'General', '0.00', '[h]:mm', '&quot;x&quot;'], random)}"/></numFmts><cellXfs><xf numFmtId="${pick(['14', '200', 'x', '0'], random)}"/></cellXfs></styleSheet>`,
    'xl/worksheets/sheet1.xml': `<worksheet><sheetData>${head}${rows}</sheetData></worksheet>`,
  };
  if (random() < 0.15)
    parts['xl/worksheets/sheet1.xml'] =
      `<!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;">]>${parts['xl/worksheets/sheet1.xml']!.replace('<row>', '<row><c><v>&b;</v></c>')}`;
  if (random() < 0.1) delete parts[pick(Object.keys(parts), random)];
  if (random() < 0.1) parts[pick(Object.keys(parts), random)] = '<'.repeat(1 + upTo(50, random));
  if (random() < 0.01)
    parts['xl/worksheets/sheet1.xml'] = `<worksheet><sheetData>${'<row/>'.repeat(1_100_000)}</sheetData></worksheet>`;
  if (random() < 0.05) parts['xl/sharedStrings.xml'] = `<sst><si><t>${'z'.repeat(5_000_000)}</t></si></sst>`;
  if (random() < 0.05) parts['xl/worksheets/sheet1.xml'] = `<a>`.repeat(20_000);
  return Object.fromEntries(Object.entries(parts).map(([n, t]) => [n, strToU8(t)]));
}

/** What happens to a file on its way: cut short, bytes turned, a piece doubled. */
function damage(bytes: Uint8Array, random: Random): { bytes: Uint8Array; how: string } {
  if (bytes.length === 0) return { bytes, how: '' };
  switch (upTo(8, random)) {
    case 0:
      return { bytes: bytes.subarray(0, upTo(bytes.length, random)), how: ', cut short' };
    case 1: {
      const turned = Uint8Array.from(bytes);
      for (let i = 0; i < 1 + upTo(20, random); i++) turned[upTo(turned.length, random)] = upTo(256, random);
      return { bytes: turned, how: ', bytes turned' };
    }
    case 2: {
      const at = upTo(bytes.length, random);
      return {
        bytes: Buffer.concat([bytes.subarray(0, at), bytes.subarray(0, at), bytes.subarray(at)]),
        how: ', a piece doubled',
      };
    }
    default:
      return { bytes, how: '' };
  }
}

/** The next file of a seed. */
export function makeHostileFile(random: Random): HostileFile {
  const kind = random();
  let about: string, name: string, whole: Uint8Array;
  if (kind < 0.6) {
    const { about: what, text } = makeText(random);
    [about, name, whole] = [
      what,
      pick(['list.csv', 'list.txt', 'list.tsv', '../../list.csv', 'Liste für „Küche“.csv'], random),
      encode(text, random),
    ];
  } else if (kind < 0.95)
    [about, name, whole] = ['workbook', 'list.xlsx', zipSync(makeWorkbook(random), { level: pick([0, 6, 9], random) })];
  else
    [about, name, whole] = [
      'bytes',
      'list.csv',
      Uint8Array.from({ length: upTo(5000, random) }, () => upTo(256, random)),
    ];
  const { bytes, how } = damage(whole, random);
  return { about: about + how, name, bytes };
}
