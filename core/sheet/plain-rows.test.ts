// Rows read without a parser of XML, held to what the parser (saxes, which is not ours) reads of the same sheet.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sheetBounds } from './bounds';
import { createRowHandlers, createRowReader, type RowTaker } from './plain-rows';
import { type Attributes, createSax } from './zip-parts';

type Told = (string | boolean | undefined)[];
const open = (): { told: Told[]; to: RowTaker } => {
  const told: Told[] = [];
  return {
    told,
    to: {
      row: (r, isHidden) => void told.push(['row', r, isHidden]),
      cell: (...cell) => void told.push(['cell', ...cell]),
      end: () => void told.push(['end']),
    },
  };
};
interface Reading {
  told: Told[];
  /** Elements that were left to the parser. */
  opened: string[];
  fault: boolean;
}
/** What is told of a sheet that comes in these pieces. */
function read(pieces: readonly string[], isPlain: boolean): Reading {
  const { told, to } = open();
  const on = createRowHandlers(to),
    opened: string[] = [];
  const noted = {
    ...on,
    open: (name: string, a: Attributes) => {
      opened.push(name);
      on.open(name, a);
    },
  };
  const take = isPlain ? createRowReader(to, noted) : createSax(noted);
  try {
    for (const [i, piece] of pieces.entries()) take(piece, i === pieces.length - 1);
    return { told, opened, fault: false };
  } catch {
    return { told, opened, fault: true };
  }
}
const head =
  '<?xml version="1.0"?>\n<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><cols/>';
const sheetOf = (rows: string): string =>
  `${head}<sheetData>${rows}</sheetData><mergeCells><c r="A1"/></mergeCells></worksheet>`;
const over = ['worksheet', 'cols', 'sheetData'],
  under = ['mergeCells', 'c'];
const cutAt = (text: string, places: readonly number[]): string[] => {
  const at = [...new Set(places.map((p) => p % text.length))].sort((a, b) => a - b);
  return [0, ...at].map((from, i) => text.slice(from, at[i] ?? text.length));
};
/** Both readings, which are to be the same. */
function readBoth(rows: string, places: readonly number[] = []): Reading {
  const pieces = cutAt(sheetOf(rows), places);
  const plain = read(pieces, true),
    parsed = read(pieces, false);
  expect(plain.fault).toBe(parsed.fault);
  // Of a faulty sheet nothing is kept.
  if (!parsed.fault) expect(plain.told).toEqual(parsed.told);
  return plain;
}

const texts = fc.constantFrom(
  ...[
    '',
    '12.5',
    'Pan &amp; lid',
    '&lt;b&gt; &quot;x&quot; &apos;',
    'ケトル',
    '🍳',
    ' a  b ',
    'a\nb',
    'a\tb',
    '</row',
    ']]',
  ],
  ...['&#65;', '&nope;', 'a & b', 'a\r\nb', ']]>', '\u0001', '<b/>', '<![CDATA[</row>]]>', '<!-- </row> -->'],
);
const cellHeads = fc.constantFrom(
  ...['<c>', '<c r="A1">', '<c r="C1" s="2">', '<c r="AB1" t="s">', '<c r="B1" s="1" t="inlineStr" >', '<c t="str">'],
  ...['<c t="s" r="A1">', "<c r='D1'>", '<c r="A1" r="B1">', '<c  r="A1">', '<c r="A1" cm="1">', '<x:c r="E1">'],
);
const cells = fc
  .tuple(cellHeads, texts, fc.constantFrom('v', 't', 'is', 'f', 'runs', 'none', 'closed'))
  .map(([begin, text, kind]) => {
    const end = begin.startsWith('<x:') ? '</x:c>' : '</c>';
    if (kind === 'closed') return begin.replace('>', '/>');
    if (kind === 'none') return begin + end;
    if (kind === 'v') return `${begin}<v>${text}</v>${end}`;
    if (kind === 'f') return `${begin}<f>A1&lt;2</f><v>${text}</v>${end}`;
    if (kind === 'is') return `${begin}<is><t>${text}</t></is>${end}`;
    if (kind === 't') return `${begin}<is><t xml:space="preserve">${text}</t></is>${end}`;
    return `${begin}<is><r><t>${text}</t></r><r><t>more</t></r></is>${end}`;
  });
const rows = fc
  .tuple(
    fc.constantFrom(
      ...['<row>', '<row r="2">', '<row r="7" spans="1:3" hidden="1" x14ac:dyDescent="0.25">', '<row hidden="true" >'],
      ...['<row r="2" r="3">', "<row r='4'>", '<row r="a&amp;b">', '<row hidden="0">', '<x:row>'],
    ),
    fc.array(cells, { maxLength: 4 }),
    fc.constantFrom('', '', '\n', ' ', '<!-- <row> -->', 'x'),
    fc.constantFrom('', '', '\n  ', '<!-- <row r="9"></row> -->', '<row r="8"/>', '<row/>'),
    fc.constantFrom('', '', '', '<!-- </row><row r="9"></row><row/> -->', '<row/><!-- </row><row r="9"></row> -->'),
  )
  .map(([begin, inside, between, before, after]) => {
    const end = begin.startsWith('<x:') ? '</x:row>' : '</row>';
    return `${before}${begin}${inside.join(between)}${end}${after}`;
  });

describe('rows of a sheet without a parser', () => {
  it('are what the parser reads, however they are written and wherever they are cut', () => {
    let faulty = 0,
      whole = 0;
    fc.assert(
      fc.property(fc.array(rows, { maxLength: 5 }), fc.array(fc.nat(), { maxLength: 6 }), (some, places) => {
        const { fault } = readBoth(some.join(''), places);
        if (fault) faulty++;
        else whole++;
      }),
      { numRuns: 3000 },
    );
    // Both kinds came up, each often.
    expect(Math.min(faulty, whole)).toBeGreaterThan(300);
  });
  it('are all that programs write, and leave the parser the rest of the sheet', () => {
    const first = '<row r="1" spans="1:2"><c r="A1" t="s"><v>0</v></c><c r="B1" s="3"><v>4.5</v></c></row>';
    const { told, opened } = readBoth(
      `${first}\n` +
        '<row r="2" hidden="1"><c r="A2" s="1" t="inlineStr"><is><t xml:space="preserve">Pan &amp; lid</t></is></c></row>' +
        '<row r="3"/><row r="5"><c r="C5"><f>1+1</f><v>2</v></c><c r="D5"/><c r="E5"></c></row>',
      [60, 333, 420],
    );
    expect(told).toEqual([
      ['row', '1', false],
      ['cell', 'A1', 's', undefined, '0'],
      ['cell', 'B1', undefined, '3', '4.5'],
      ['end'],
      ['row', '2', true],
      ['cell', 'A2', 'inlineStr', '1', 'Pan & lid'],
      ['end'],
      ['row', '3', false],
      ['end'],
      ['row', '5', false],
      ['cell', 'C5', undefined, undefined, '2'],
      ['cell', 'D5', undefined, undefined, ''],
      ['cell', 'E5', undefined, undefined, ''],
      ['end'],
      // What looks like a cell after the rows.
      ['cell', 'A1', undefined, undefined, ''],
    ]);
    // The first row comes with what stands before it.
    expect(opened).toEqual([...over, 'row', 'c', 'v', 'c', 'v', ...under]);
  });
  it('are the parser’s where one is written otherwise, and plain again after it', () => {
    const plain = '<row r="1"><c r="A1"><v>1</v></c></row>';
    const other = '<row r="2"><c r="A2"><is><r><t>two</t></r></is></c></row>';
    expect(readBoth(plain + plain + other + plain).opened).toEqual([
      ...over,
      ...['row', 'c', 'v'],
      ...['row', 'c', 'is', 'r', 't'],
      ...under,
    ]);
  });
  it('cuts a text that is longer than a cell may be, as the parser’s is', () => {
    const long = 'x'.repeat(sheetBounds.cellCharacters + 100);
    const { told, opened } = readBoth(`<row></row><row><c><v>${long}</v></c></row>`);
    expect(opened).toEqual([...over, 'row', ...under]);
    expect((told[3]![4] as string).length).toBe(sheetBounds.cellCharacters + 1);
  });
  it('does not wait for the end of a row for ever', () => {
    const { told, to } = open();
    const take = createRowReader(to);
    take(`${head}<sheetData><row></row><row><c><v>`, false);
    expect(told.length).toBe(2);
    for (let i = 0; i < 5; i++) take('1'.repeat(1_000_000), false);
    expect(told.slice(2)).toEqual([['row', undefined, false]]);
  });
});
