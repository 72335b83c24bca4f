// The edges of what checks count: one step this side and one that. What is quick in a check is held to what is thorough.
import { describe, expect, it } from 'vitest';
import { classifyGtin, computeGs1CheckDigit } from '../identifiers';
import type { Listing, Value } from '../listing';
import { type CompiledCategory, compileCategory } from '../rulebook';
import { listing, pans, smallRulebook } from '../tests/builders';
import { type Finding, prepareChecks, wordFinding } from '.';

const judge = prepareChecks(pans);
const said = (values: Record<string, Value | undefined>, check: string, rest?: Partial<Listing>): string[] =>
  judge(listing(values, rest))
    .filter((f) => f.check === check)
    .map((f) => f.message);

describe('a number', () => {
  it.each([
    ['price', '0', []],
    ['price', '5000', []],
    ['price', '5000.00', []],
    ['price', '5000.01', ['over']],
    ['price', '4999.999', ['decimals']],
    ['price', '-0.01', ['under']],
    ['quantity', '0', []],
    ['quantity', '-1', ['under']],
    ['diameter', '5 cm', []],
    ['diameter', '4.9 cm', ['under']],
    ['diameter', '50 mm', []],
    ['diameter', '49 mm', ['under']],
    ['diameter', '90 cm', []],
    ['diameter', '90.1 cm', ['over']],
    ['diameter', '900 mm', []],
    ['diameter', '900.1 mm', ['over']],
    ['diameter', '28.5 cm', []],
    ['diameter', '28.55 cm', ['decimals']],
  ])('%s of %s', (field, value, messages) => {
    expect(said({ [field]: value }, 'number-limits')).toEqual(messages);
  });
});

describe('a text', () => {
  it.each([
    ['of four characters', 'Pan!', ['tooShort']],
    ['of five', 'Pan 1', []],
    ['of forty', `Hearth ${'a'.repeat(33)}`, []],
    ['of forty-one', `Hearth ${'a'.repeat(34)}`, ['tooLong']],
    ['of forty whose signs are two units each', `Hearth ${'a'.repeat(31)}😀😀`, []],
    ['of sixty bytes', `Hearth ${'é'.repeat(26)}a`, []],
    ['of sixty-one', `Hearth ${'é'.repeat(27)}`, ['tooManyBytes']],
  ])('%s', (_, title, messages) => {
    expect(said({ title }, 'text-length')).toEqual(messages);
  });
});

const links = (n: number, ending = 'jpg') => Array.from({ length: n }, (_, i) => `https://p.example/${i}.${ending}`);

describe('pictures', () => {
  it.each([
    [links(1), ['fewerThanAdvised']],
    [links(2), ['fewerThanAdvised']],
    [links(3), []],
    [links(4), []],
    [links(5), ['tooMany']],
    [links(3, 'JPG'), []],
    [links(3, 'jpg?size=2'), []],
    [links(3, 'jpg#front'), []],
    [links(3, 'png'), ['ending', 'ending', 'ending']],
    [['https://p.example/a?name=x.jpg', ...links(2)], ['ending']],
    [['https://p.example/ajpg', ...links(2)], ['ending']],
    [[links(1)[0]!, ...links(2)], ['twice']],
    [['ftp://p.example/a.jpg', ...links(2)], ['scheme']],
  ])('%j', (pictures, messages) => {
    expect(said({ pictures }, 'picture-rules')).toEqual(messages);
  });
});

describe('pictures beyond the most', () => {
  it('are dropped from the end, the first stays', () => {
    const all = links(5);
    const finding = judge(listing({ pictures: all })).find((f) => f.message === 'tooMany')!;
    expect(finding.remedies).toEqual([{ kind: 'set', field: 'pictures', value: all.slice(0, 4), safe: false }]);
  });
});

describe('a parcel', () => {
  const box = (weight: string, ...edges: string[]) =>
    said(
      { box_heavy: weight, box_long: edges[0], box_wide: edges[1] ?? edges[0], box_high: edges[2] ?? edges[0] },
      'parcel-form',
    );
  it.each<[string, string[], string[]]>([
    // A litre is charged as 200 g; from four times its weight on that is said.
    ['50 g', ['10 cm'], ['mostlyAir']],
    ['51 g', ['10 cm'], []],
    ['11.3 kg', ['10 cm'], []],
    ['11.31 kg', ['10 cm'], ['tooHeavy']],
    ['5 g', ['10 cm'], ['mostlyAir']],
    ['4.9 g', ['10 cm'], ['tooLight']],
    ['30 kg', ['150 cm', '30 cm', '45 cm'], []],
    ['30.001 kg', ['150 cm', '30 cm', '45 cm'], ['tooMuch']],
    ['20 kg', ['150.1 cm', '30 cm', '40 cm'], ['tooLong']],
    ['20 kg', ['30 cm', '40 cm', '150.1 cm'], ['tooLong']],
    ['20 kg', ['150 cm', '30 cm', '45.5 cm'], ['tooWide']],
    ['0 kg', ['10 cm'], []],
    ['1 kg', ['0 cm'], []],
    ['1 kg', ['10 cm', '10 cm', '0 cm'], []],
    ['1', ['10 cm'], []],
    ['1 kg', ['10 kg'], []],
  ])('of %s and %j', (weight, edges, messages) => {
    expect(box(weight, ...edges)).toEqual(messages);
  });
  it('in a unit that slipped is mended where one slip alone makes it usual', () => {
    const remedy = (weight: string) =>
      judge(listing({ box_heavy: weight, box_long: '10 cm', box_wide: '10 cm', box_high: '10 cm' })).find(
        (f) => f.message === 'tooHeavy',
      )!.remedies[0];
    // A litre of 900 kg is 900 g; one of 3000 kg may be 3 kg; of 30 kg it may be 3 kg, 0.3 kg or 30 g.
    expect(remedy('900 kg')).toMatchObject({ kind: 'set', value: '0.9 kg' });
    expect(remedy('3000 kg')).toMatchObject({ kind: 'set', value: '3 kg' });
    expect(remedy('30 kg')).toMatchObject({ kind: 'fill' });
    expect(remedy('3001 kg')).toMatchObject({ kind: 'fill' });
  });
});

describe('a price', () => {
  it.each<[string, Record<string, Value | undefined>, string[]]>([
    ['of nothing, of which no loss is told', { price: '0' }, ['zero']],
    ['with a sale of one day', { sale_price: '30', sale_start: '2026-11-27', sale_end: '2026-11-27' }, []],
    ['with a sale that only ends', { sale_price: '30', sale_end: '2026-11-27' }, ['saleWithoutStart']],
    ['with a sale as dear', { sale_price: '34.99', sale_start: '2026-11-27' }, ['saleNotLower']],
    ['with a sale a penny under it', { sale_price: '34.98', sale_start: '2026-11-27' }, []],
    ['on its floor and its ceiling', { floor: '34.99', ceiling: '34.99' }, []],
    ['a penny under its floor', { floor: '35' }, ['underFloor']],
    ['a penny over its ceiling', { ceiling: '34.98' }, ['overCeiling']],
  ])('%s', (_, values, messages) => {
    expect(said(values, 'price-rules')).toEqual(messages);
  });
  it('that nothing can save says so, and asks for no other', () => {
    const greedy = compileCategory(
      smallRulebook((d) => {
        Object.assign(d, { fees: [{ tiers: [{ rate: '0.9' }], paymentRate: '0.2', fixed: '0.30' }] });
      }),
      'pans',
    )!;
    const found = prepareChecks(greedy)(listing()).filter((f) => f.check === 'price-rules');
    expect(found.map((f) => [f.message, f.remedies.map((r) => r.kind)])).toEqual([['hopeless', ['fill']]]);
  });
});

describe('a quantity', () => {
  it.each([
    ['0', []],
    ['1', ['low']],
    ['2', ['low']],
    ['3', []],
    ['500', []],
    ['501', ['overCap']],
    ['2.5', []],
  ])('of %s', (quantity, messages) => {
    expect(said({ quantity }, 'quantity-rules')).toEqual(messages);
  });
});

describe('what may be done', () => {
  it('about a value that is on no list: one of a choice may be chosen, one among several is put right', () => {
    const kindsOf = (values: Record<string, Value>) =>
      judge(listing(values))
        .find((f) => f.check === 'value-not-allowed')!
        .remedies.map((r) => r.kind);
    expect(kindsOf({ colour: 'xqz' })).toEqual(['choose']);
    expect(kindsOf({ hues: ['blk', 'xqz'] })).toEqual([]);
    expect(kindsOf({ colour: 'Navy' })).toEqual(['set', 'choose']);
  });
  it('about a title that shouts in four words names three of them', () => {
    const shouts = judge(listing({ title: 'Hearth FRYING HEAVY METAL ROUND Pan' })).find(
      (f) => f.message === 'shouting',
    )!;
    expect(shouts.params).toEqual({ found: 'FRYING, HEAVY, METAL' });
  });
  it('is said of a long value by its beginning', () => {
    const wording = { market: 'Stall', labelOf: () => 'UN number' };
    const finding = (value: string) => ({
      ...judge(listing({ price: 'x' })).find((f) => f.check === 'wrong-type')!,
      ...{ check: 'pattern-mismatch', message: 'mismatch', value, params: { says: 'short' } },
    });
    const shown = (n: number) => /“(.*)”/u.exec(wordFinding(finding('x'.repeat(n)), wording))![1]!;
    expect(shown(80)).toBe('x'.repeat(80));
    expect(shown(81)).toBe(`${'x'.repeat(77)}…`);
  });
});

describe('a number that stands on several', () => {
  const remediesOf = (category: CompiledCategory): Finding['remedies'] =>
    prepareChecks(category)(listing(), { sameGtin: ['A'] }).find((f) => f.check === 'identifier-twice')!.remedies;
  it('may be taken away only where the market does not demand one', () => {
    const free = compileCategory(
      smallRulebook((d) => {
        const { demands } = d as unknown as { demands: { attribute: string; level: string }[] };
        for (const x of demands) if (x.attribute === 'item_number') x.level = 'may';
      }),
      'pans',
    )!;
    expect(remediesOf(pans).map((r) => r.kind)).toEqual(['fill']);
    expect(remediesOf(free)).toEqual([
      { kind: 'clear', field: 'item_number', safe: false },
      { kind: 'fill', field: 'item_number' },
    ]);
  });
});

describe('a barcode of thirteen digits', () => {
  const messageOf = { restricted: 'restricted', coupon: 'coupon', issn: 'kindNotTaken', music: undefined } as Record<
    string,
    string | undefined
  >;
  it('is judged by its prefix, whichever of the hundred it has', () => {
    const kinds = new Set<string>();
    for (let prefix = 0; prefix < 100; prefix++) {
      const body = `${String(prefix).padStart(2, '0')}1234567890`;
      const number = body + computeGs1CheckDigit(body);
      const kind = classifyGtin(number);
      kinds.add(kind);
      const expected = messageOf[kind];
      if (kind !== 'isbn' && kind !== 'issn' && kind !== 'music')
        expect({ prefix, said: said({ item_number: number }, 'identifier-wrong') }).toEqual({
          prefix,
          said: expected ? [expected] : [],
        });
    }
    expect([...kinds].sort()).toEqual(['coupon', 'item', 'restricted']);
  });
  it('with another last digit is wrong, each of the nine', () => {
    const body = '952123456789';
    const right = computeGs1CheckDigit(body);
    const wrong = Array.from({ length: 10 }, (_, d) => String(d)).filter((d) => d !== String(right));
    expect(wrong).toHaveLength(9);
    for (const d of wrong) expect(said({ item_number: body + d }, 'identifier-wrong')).toEqual(['checkDigit']);
    expect(said({ item_number: `${body}${right}` }, 'identifier-wrong')).toEqual([]);
  });
});

describe('a value that was good', () => {
  const clean = smallRulebook(((d: { attributes: { key: string; textRules?: string[] }[] }) => {
    d.attributes.find((a) => a.key === 'points')!.textRules = ['no-promotion', 'no-contact'];
  }) as never);
  const judgeClean = prepareChecks(compileCategory(clean, 'pans')!, (id) => id === 'text-rules');
  const points = (list: string[]) => judgeClean(listing({ points: list })).map((f) => f.message);
  it('is good again, and one that was not is said of again, row after row', () => {
    for (let i = 0; i < 3; i++) {
      expect(said({ colour: 'blk' }, 'value-not-allowed')).toEqual([]);
      expect(said({ colour: 'Blak' }, 'value-not-allowed')).toEqual(['near']);
      expect(points(['Even base', 'Light'])).toEqual([]);
      expect(points(['Even base', 'The best price'])).toEqual(['promotion']);
      expect(points(['Even base', 'x '.repeat(150)])).toEqual([]);
    }
  });
  it('is good however many others there were', () => {
    for (let i = 0; i < 3000; i++) said({ diameter: `${5 + (i % 85)}.${i % 10} cm`, colour: `c${i}` }, 'wrong-type');
    expect(said({ diameter: '28 cm' }, 'wrong-type')).toEqual([]);
    expect(said({ diameter: 'wide' }, 'wrong-type')).toEqual(['measure']);
  });
});
