// The edges of what checks count: one step this side and one that. What is quick in a check is held to what is thorough.
import { describe, expect, it } from 'vitest';
import { classifyGtin, computeGs1CheckDigit } from '../identifiers';
import type { Listing, Value } from '../listing';
import { type CompiledCategory, compileCategory } from '../rulebook';
import { listing, pans, smallRulebook } from '../tests/builders';
import { type Finding, prepareChecks } from '.';

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
