import { describe, expect, it } from 'vitest';
import { smallRulebook } from '../tests/builders';
import { fairRulebook } from '../tests/fair';
import { findForm, listColumns } from '../forms';
import { loftRulebook } from '../tests/loft';
import { joiningRulebook } from '../tests/joining';
import { findAnswerDecoding, readAnswer, readFoundList, readShelfList, toDecoding, toMarketEntry } from '.';

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
        { sku: 'A1', site: 'se', number: '99', state: 'aktiv', reason: '', shows: {} },
        { sku: 'A1', site: 'XX', number: '', state: 'aktiv', reason: '', shows: {} },
      ],
    });
  });
  it('shows prices at the site that a line speaks of, and what is the same at all sites', () => {
    const shown = fairRulebook((d) => {
      const { shelf } = d['lists'] as unknown as { shelf: { slots: { facts?: object } } };
      shelf.slots.facts = { cost: 'pris', pieces: 'antal' };
    });
    const reading = readShelfList(
      shown,
      'nr;land;id;laege;pris;antal\r\nA1;SE;99;aktiv;1299,50;4\r\nA1;DE;98;aktiv;;4\r\nA1;XX;;aktiv;7;4\r\n',
    );
    expect(reading.ok && reading.lines.map((l) => l.shows)).toEqual([
      { 'cost@se': '1299.50', pieces: '4' },
      { 'cost@de': '', pieces: '4' },
      { pieces: '4' },
    ]);
    expect(readShelfList(shown, 'nr;land;id;laege\r\nA1;SE;99;aktiv\r\n')).toMatchObject({
      ok: true,
      lines: [{ sku: 'A1', number: '99', shows: {} }],
    });
    expect(readShelfList(shown, 'nr;land;pris;antal\r\n')).toMatchObject({ ok: false, reason: /lacks id, laege/ });
  });
  it('tells nothing of what none of its records names, and of nothing where one of them is silent', () => {
    const shown = fairRulebook((d) => {
      const { shelf } = d['lists'] as unknown as { shelf: { container: object; slots: { facts?: object } } };
      shelf.container = { kind: 'json', records: 'there[]' };
      shelf.slots.facts = { cost: 'pris', pieces: 'antal' };
    });
    const showsOf = (...there: object[]) => {
      const reading = readShelfList(
        shown,
        JSON.stringify({ there: there.map((r) => ({ nr: 'A1', land: 'SE', id: '9', laege: 'aktiv', ...r })) }),
      );
      return reading.ok && reading.lines.map((l) => l.shows);
    };
    expect(showsOf({}, { pris: null })).toEqual([{}, {}]);
    expect(showsOf({ pris: '7' }, {})).toEqual([{ 'cost@se': '7' }, { 'cost@se': '' }]);
    expect(showsOf({ antal: 4 }, { antal: null })).toEqual([{ pieces: '4' }, { pieces: '' }]);
  });
  it('is refused where a column of it is missing, or where the rulebook has none', () => {
    expect(readShelfList(fairRulebook(), 'nr;land\r\n')).toMatchObject({ ok: false, reason: /lacks id, laege/ });
    expect(readFoundList(book, 'x')).toMatchObject({ ok: false });
  });
  it('of what it finds says each fact by attribute, where it says it', () => {
    const joining = joiningRulebook();
    const head = 'no\tname\tmaker\tcode\tshelf\tacross\thue\n';
    const reading = readFoundList(
      joining,
      `${head}7\tPan\tHearth\t9521234567899\tpans\t28 cm\t\n8\t\t\t\thome\t\tblk\n`,
    );
    expect(reading).toEqual({
      ok: true,
      lines: [
        {
          ...{ number: '7', title: 'Pan', brand: 'Hearth', identifier: '9521234567899', category: 'pans' },
          facts: { diameter: '28 cm' },
        },
        { number: '8', title: '', brand: '', identifier: '', category: 'home', facts: { colour: 'blk' } },
      ],
    });
    expect(readFoundList(joining, 'no\tname\n7\tPan\n')).toMatchObject({ ok: false, reason: /lacks maker, code/ });
    // An offer that joins it knows its brand and number as facts; of a category that takes no items it knows none.
    const [first, second] = reading.ok ? reading.lines : [];
    expect(toMarketEntry(joining, first!)).toEqual({
      ...{ number: '7', title: 'Pan', category: 'pans' },
      facts: { brand: 'Hearth', item_number: '9521234567899', diameter: '28 cm' },
    });
    expect(toMarketEntry(joining, second!)).toEqual({ number: '8', title: '', category: '', facts: { colour: 'blk' } });
    const coded = joiningRulebook((d) => {
      (d['tree'] as { code?: string }[])[1]!.code = 'P-1';
    });
    expect(toMarketEntry(coded, { ...first!, category: 'P-1' }).category).toBe('pans');
    expect(toMarketEntry(coded, first!).category).toBe('');
  });
  it('says nothing where a cell of it is empty', () => {
    expect(readShelfList(book, 'sku\tnumber\tstate\nA\t\t\n')).toEqual({
      ok: true,
      lines: [{ sku: 'A', site: undefined, number: '', state: '', reason: '', shows: {} }],
    });
  });
});

describe('an answer to files that the rulebook does not know', () => {
  it('is none', () => {
    const fair = fairRulebook();
    expect(readAnswer({ ...book, answers: [] }, 'full', 'x')).toEqual({
      ok: false,
      reason: 'The rulebook has no answer to files of the form full.',
    });
    expect(readAnswer({ ...loftRulebook(), forms: [] }, 'book', 'x')).toEqual({
      ok: false,
      reason: 'There is no form book whose file could come back.',
    });
    expect(findAnswerDecoding({ ...fair, answers: [], forms: [] }, 'ghost')).toBe('utf-8');
    expect(findAnswerDecoding({ ...loftRulebook(), answers: [] }, 'book')).toBe('shift_jis');
  });
  it('comes in the sheet of a workbook where that is what it is', () => {
    expect(toDecoding({ kind: 'workbook', encoding: 'utf-8', sheet: 'Answer', heads: [{ row: 'keys' }] })).toEqual({
      sheet: 'Answer',
    });
  });
});

describe('lines of an answer', () => {
  const counting = (lineCounts: string) =>
    smallRulebook((d) => {
      const [answer] = (d as unknown as { answers: { lineCounts: string }[] }).answers;
      answer!.lineCounts = lineCounts;
    });
  const lineOf = (lineCounts: string, line: number): unknown => {
    const reading = readAnswer(
      counting(lineCounts),
      'full',
      `line\tsku\tverdict\tcode\tfield\tnumber\n${line}\tA\tYES\t\t\t\n`,
    );
    return reading.ok ? reading.lines[0]!.line : 'refused';
  };
  it.each([
    ['records', 1, 1],
    ['records-from-0', 0, 1],
    ['records-from-0', 4, 5],
    // The file has two header rows.
    ['file-lines', 3, 1],
    ['file-lines', 2, 'refused'],
  ])('that count %s: %i is record %s', (counts, line, record) => {
    expect(lineOf(counts, line)).toBe(record);
  });
  it('of one record that are several say the worst of it, in whatever order', () => {
    const head = 'line\tsku\tverdict\tcode\tfield\tnumber\n';
    const verdictOf = (...verdicts: string[]): unknown => {
      const lines = verdicts.map((v) => `1\tA\t${v}\t${v === 'YES' ? '\t' : 'E1\ttitle'}\t\n`).join('');
      const reading = readAnswer(book, 'full', head + lines);
      return reading.ok && reading.lines.map((l) => [l.verdict, l.faults.length]);
    };
    expect(verdictOf('YES', 'NO', 'HMM')).toEqual([['refused', 2]]);
    expect(verdictOf('NO', 'YES')).toEqual([['refused', 1]]);
    expect(verdictOf('HMM', 'YES')).toEqual([['remarked', 1]]);
    expect(verdictOf('YES', 'YES')).toEqual([['accepted', 0]]);
  });
  it('with several codes have each its field, or all the one that is named', () => {
    const several = smallRulebook((d) => {
      const [answer] = (d as unknown as { answers: Record<string, unknown>[] }).answers;
      answer!['severalBy'] = ';';
      (answer!['slots'] as Record<string, string>)['says'] = 'says';
    });
    const faultsOf = (code: string, field: string, says: string): unknown => {
      const reading = readAnswer(
        several,
        'full',
        `line\tsku\tverdict\tcode\tfield\tnumber\tsays\n1\tA\tNO\t${code}\t${field}\t\t${says}\n`,
      );
      return reading.ok && reading.lines[0]!.faults.map((f) => [f.code, f.field, f.says]);
    };
    expect(faultsOf('X1;X2', 'title; brand', 'Long; odd.')).toEqual([
      ['X1', 'title', 'Long; odd.'],
      ['X2', 'brand', 'Long; odd.'],
    ]);
    expect(faultsOf('X1;X2', 'title', 'Both wrong.')).toEqual([
      ['X1', 'title', 'Both wrong.'],
      ['X2', 'title', 'Both wrong.'],
    ]);
    // Of three codes and two fields nobody knows what the third is of.
    expect(faultsOf('X1;X2;E1', 'title;brand', '')).toEqual([
      ['X1', 'title', 'The market answered with the code X1, which its rulebook does not list.'],
      ['X2', 'brand', 'The market answered with the code X2, which its rulebook does not list.'],
      ['E1', '', 'A field is empty.'],
    ]);
  });
});
