import { describe, expect, it } from 'vitest';
import { smallRulebook } from '../tests/builders';
import { fairRulebook } from '../tests/fair';
import { findForm, listColumns } from '../forms';
import { loftRulebook } from '../tests/loft';
import { findAnswerDecoding, readAnswer, readFoundList, readShelfList } from '.';

const book = smallRulebook();

describe('an answer line by line', () => {
  const head = 'line\tsku\tverdict\tcode\tfield\tnumber\n';
  it('is read line by line, with the code’s words and remedy', () => {
    expect(readAnswer(book, 'full', `${head}1\tA\tYES\t\t\tN1\n2\tB\tNO\tE1\ttitle\t\n`)).toEqual({
      ok: true,
      lines: [
        { line: 1, sku: 'A', verdict: 'accepted', number: 'N1', faults: [] },
        {
          line: 2,
          sku: 'B',
          verdict: 'refused',
          number: '',
          faults: [{ code: 'E1', field: 'title', says: 'A field is empty.', remedy: 'Fill it.' }],
        },
      ],
      unnamed: 'lost',
      of: {},
    });
  });
  it.each(['0', '-1', '1.5', 'x', ''])('that speaks of a line “%s” is not believed', (line) => {
    const text = ['line', 'sku', 'verdict', 'code', 'field', 'number'].join('\t') + `\n${line}\tA\tYES\t\t\t\n`;
    expect(readAnswer(book, 'full', text)).toMatchObject({ ok: false });
  });
  it('names a code that nobody listed', () => {
    const r = readAnswer(book, 'full', `${head}1\tA\tNO\tE9\t\t\n`);
    expect(r.ok && r.lines[0]!.faults[0]!.says).toMatch(/E9, which its rulebook does not list/);
  });
  it.each([
    ['', /empty/],
    ['hello\n', /lacks line, sku/],
    [`${head}1\tA\tMAYBE\t\t\t\n`, /Line 2 .* cannot be read/],
    [`${head}x\tA\tYES\t\t\t\n`, /cannot be read/],
    ['\u0000\u0001<<<\n', /lacks/],
  ])('refuses garbage %j', (text, why) => {
    const r = readAnswer(book, 'full', text);
    expect(r.ok).toBe(false);
    if (!r.ok) expect(r.reason).toMatch(why);
  });
});

describe('an answer that names refusals only', () => {
  const fair = fairRulebook();
  const head = 'Datei;x.csv;abgelehnt;2\r\nrad;felkod;falt\r\n';
  it('counts the lines of the file with its headers, and has several faults at one place', () => {
    expect(readAnswer(fair, 'goods', `${head}5;101,118;titel_de,vara\r\n`)).toEqual({
      ok: true,
      lines: [
        {
          line: 2,
          sku: '',
          verdict: 'refused',
          number: '',
          faults: [
            { code: '101', field: 'titel_de', says: 'Ein Pflichtfeld ist leer.', remedy: 'Fill the field.' },
            {
              code: '118',
              field: 'vara',
              says: 'The market answered with the code 118, which its rulebook does not list.',
              remedy: '',
            },
          ],
        },
      ],
      unnamed: 'accepted',
      of: { file: 'x.csv' },
    });
  });
  it('says of which file it is, and how many records that had', () => {
    const counted = fairRulebook((d) => {
      const { answers } = d as unknown as { answers: { container: { before: string[] } }[] };
      answers[0]!.container.before = ['^Datei;(?<file>[^;]+);Zeilen;(?<records>\\d+)$'];
    });
    expect(readAnswer(counted, 'goods', 'Datei;x.csv;Zeilen;412\r\nrad;felkod;falt\r\n')).toMatchObject({
      ok: true,
      of: { file: 'x.csv', records: 412 },
    });
  });
  it('may speak of one line twice', () => {
    const reading = readAnswer(fair, 'offers', `${head}2;101;pris\r\n2;102;valuta\r\n`);
    expect(reading).toMatchObject({ lines: [{ line: 1, faults: [{ field: 'pris' }, { field: 'valuta' }] }] });
  });
  it('speaks of no header row, and is refused where it does', () => {
    expect(readAnswer(fair, 'goods', `${head}3;101;titel_de\r\n`)).toMatchObject({ ok: false });
  });
  it('has to begin as agreed', () => {
    expect(readAnswer(fair, 'goods', 'Hello\r\nrad;felkod;falt\r\n')).toMatchObject({
      ok: false,
      reason: 'Line 1 is “Hello”, which is not what was agreed.',
    });
  });
});

describe('an answer that is the file as it was sent, with columns added', () => {
  const loft = loftRulebook();
  const columns = listColumns(findForm(loft, 'create')!).map((c) => c.key);
  const file = (rows: Record<string, string>[]): string =>
    [[...columns, 'word', 'notes'], ...rows.map((r) => [...columns, 'word', 'notes'].map((c) => r[c] ?? ''))]
      .map((r) => r.map((c) => `"${c}"`).join(','))
      .join('\r\n');
  it('speaks of the records in their order, and of fields by the columns that hold them', () => {
    const text = file([
      { entry: 'F', word: '0' },
      { entry: 'G', word: '9', notes: '305:title/308:2 price/400' },
    ]);
    expect(readAnswer(loft, 'book', text)).toMatchObject({
      lines: [
        { line: 1, sku: 'F', verdict: 'accepted', faults: [] },
        {
          line: 2,
          sku: 'G',
          verdict: 'refused',
          faults: [
            { code: '305', field: 'title' },
            { code: '308', field: '2 price' },
            { code: '400', field: '' },
          ],
        },
      ],
    });
  });
  it('is read by the order of columns where the file has no header, and by a pattern that names no field', () => {
    expect(readAnswer(loft, 'terms', '"S","7","9","310 too low"\r\n')).toMatchObject({
      lines: [{ line: 1, sku: 'S', verdict: 'refused', faults: [{ code: '310', field: '' }] }],
    });
  });
  it('is none where the columns are not there', () => {
    expect(readAnswer(loft, 'book', 'entry,word,notes\r\nF,0,\r\n')).toMatchObject({ ok: false, reason: /lacks do/ });
  });
  it('comes in the encoding of its form; others say theirs', () => {
    expect([findAnswerDecoding(loft, 'book'), findAnswerDecoding(fairRulebook(), 'goods')]).toEqual([
      'shift_jis',
      'utf-8-mark',
    ]);
  });
});

describe('a list of the market', () => {
  it('tells sites by the codes of the forms', () => {
    expect(readShelfList(fairRulebook(), 'nr;land;id;laege\r\nA1;SE;99;aktiv\r\nA1;XX;;aktiv\r\n')).toEqual({
      ok: true,
      lines: [
        { sku: 'A1', site: 'se', number: '99', state: 'aktiv', reason: '' },
        { sku: 'A1', site: 'XX', number: '', state: 'aktiv', reason: '' },
      ],
    });
  });
  it('is refused where a column of it is missing, or where the rulebook has none', () => {
    expect(readShelfList(fairRulebook(), 'nr;land\r\n')).toMatchObject({ ok: false, reason: /lacks id, laege/ });
    expect(readFoundList(book, 'x')).toMatchObject({ ok: false });
  });
});
