// Shared strings read without a parser of XML, held to what exceljs and the parser read of the same.
import ExcelJS from 'exceljs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createStringReader } from './plain-strings';
import { openWorkbook } from './workbook';

const sst = (entries: string): string => `<?xml version="1.0"?>\n<sst count="9">${entries}</sst>`;
/** What is read of a part that comes in pieces of so many letters; undefined where it is faulty. */
function read(text: string, size = text.length): string[] | undefined {
  const strings: string[] = [];
  const take = createStringReader((s) => void strings.push(s));
  try {
    for (let i = 0; i < text.length; i += size) take(text.slice(i, i + size), i + size >= text.length);
    return strings;
  } catch {
    return undefined;
  }
}
/** The same entries as no reader of plain ones takes them. */
const spelledOut = (entries: string): string => entries.replaceAll('<si>', '<si >');

describe('shared strings', () => {
  it('are those of runs too, without readings in another script', () => {
    const plain = '<si><t>first</t></si>';
    expect(
      read(
        sst(
          `${plain}\n<si><t xml:space="preserve"> Pan &amp; lid &lt;2&gt;</t></si>` +
            '<si><r><t>two </t></r><r><t>runs</t></r></si>' +
            `<si><t>課</t><rPh sb="0" eb="1"><t>カ</t></rPh></si><si/><si><t/></si>${plain}`,
        ),
      ),
    ).toEqual(['first', ' Pan & lid <2>', 'two runs', '課', '', '', 'first']);
  });
  it('are the same however they are written, and cut anywhere (property)', () => {
    const text = fc.constantFrom(
      ...['', 'a', ' a ', '&amp;', '&#65;', '&x;', ']]>', 'a\r\nb', 'a\nb', 'ガ🍳', '\u0001', '<!-- </si> -->', '</si'],
    );
    const one = fc
      .tuple(
        text,
        fc.constantFrom('<t>', '<t xml:space="preserve">', '<r><t>', '<t a="1">'),
        fc.constantFrom('', '\n', '<!-- </si><si><t>x</t></si> -->'),
      )
      .map(([t, begin, after]) => `<si>${begin}${t}</t>${begin.startsWith('<r>') ? '</r>' : ''}</si>${after}`);
    let faulty = 0,
      whole = 0;
    fc.assert(
      fc.property(fc.array(one, { maxLength: 5 }), fc.integer({ min: 1, max: 90 }), (some, size) => {
        const entries = some.join('');
        const strings = read(sst(entries), size);
        expect(strings).toEqual(read(sst(spelledOut(entries))));
        if (strings) whole++;
        else faulty++;
      }),
      { numRuns: 1500 },
    );
    expect(Math.min(faulty, whole)).toBeGreaterThan(150);
  });
  it('stand in the cells that name them', async () => {
    const workbook = new ExcelJS.Workbook();
    const rows = [
      ['SKU', 'Title'],
      ['A', 'Pan & "lid"'],
      ['B', ' Pan & "lid"'],
      ['A', '=1'],
    ];
    workbook.addWorksheet('S').addRows(rows);
    const bytes = new Uint8Array(await workbook.xlsx.writeBuffer({ useSharedStrings: true } as never));
    const there = await openWorkbook(async function* () {
      yield await Promise.resolve(bytes);
    });
    const got: string[][] = [];
    for await (const batch of there.rows('S')) got.push(...batch);
    expect(got).toEqual(rows);
  });
});
