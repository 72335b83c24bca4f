import * as fc from 'fast-check';
import isbn3 from 'isbn3';
import { describe, expect, it } from 'vitest';
import validator from 'validator';
import { createRandom } from '../tests/random';
import {
  classifyGtin,
  computeGs1CheckDigit,
  computeIsbn10CheckDigit,
  computeIssnCheckDigit,
  convertGtin,
  detectIdentifierKind,
  findSkuFault,
  foldSku,
  isSameSkuMistyped,
  fromIssnBarcode,
  hasValidGs1CheckDigit,
  isCaseCode,
  isSameItem,
  listForbiddenSkuCharacters,
  parseGtin,
  parseIsbn,
  parseIssn,
  type SkuRule,
  toIsbn10,
  toIsbn13,
  toIssnBarcode,
} from '.';

describe('GTIN', () => {
  // GS1's own worked example of the check digit (gs1.org, check digit page; value from memory).
  it('works GS1’s example out: 629104150021 has the check digit 3', () => {
    expect(computeGs1CheckDigit('629104150021')).toBe('3');
  });
  // Numbers commonly printed as examples (from memory, arithmetic verified against validator below).
  it.each([
    '4006381333931',
    '5901234123457',
    '9780306406157',
    '036000291452',
    '73513537',
    '96385074',
    '80614141123458',
  ])('takes %s', (n) => {
    expect(parseGtin(n)).toMatchObject({ ok: true, digits: n });
  });
  it('takes no sign that stands beside the digits for one', () => {
    // In the order of characters a colon follows the nine and a stroke stands before the nought.
    expect(hasValidGs1CheckDigit('4006381333931')).toBe(true);
    for (const odd of ['4:06381333931', '4/06381333931', '4 06381333931'])
      expect(hasValidGs1CheckDigit(odd), odd).toBe(false);
  });
  it('proposes the right check digit', () => {
    expect(parseGtin('4006381333932')).toMatchObject({
      ok: false,
      reason: 'wrong-check-digit',
      proposal: '4006381333931',
    });
  });
  it.each([
    ['', 'not-digits'],
    ['FP-28', 'not-digits'],
    ['0000000000000', 'all-zeros'],
    ['123456789', 'wrong-length'],
  ] as const)('refuses “%s” as %s', (text, reason) => {
    expect(parseGtin(text)).toMatchObject({ ok: false, reason });
  });
  it('compares all lengths in one number space', () => {
    expect(isSameItem('036000291452', '0036000291452')).toBe(true);
    expect(isSameItem('036000291452', '4006381333931')).toBe(false);
    expect(convertGtin('0036000291452', 12)).toBe('036000291452');
    expect(convertGtin('4006381333931', 12)).toBeUndefined();
  });
  // Prefix classes: GS1 prefix list, from memory.
  it.each([
    ['4006381333931', 'item'],
    ['9521234567899', 'demonstration'],
    ['9770317847001', 'issn'],
    ['9780306406157', 'isbn'],
    ['9790260000438', 'music'],
    ['2012345678900', 'restricted'],
    ['0212345678901', 'restricted'],
    ['0412345678901', 'restricted'],
    ['0512345678901', 'coupon'],
    ['9912345678901', 'coupon'],
    ['200000000004', 'restricted'],
    ['020000000000', 'item'],
    ['96385074', 'item'],
    ['20000004', 'restricted'],
    ['01234565', 'restricted'],
    ['10000007', 'item'],
    ['95200002', 'demonstration'],
  ] as const)('classes %s as %s', (n, c) => {
    expect(classifyGtin(n)).toBe(c);
  });
  it('tells a case from a piece', () => {
    expect(isCaseCode('80614141123458')).toBe(true);
    expect(isCaseCode('00614141123452')).toBe(false);
  });

  it('agrees with the package validator on 40,000 numbers, right and wrong', () => {
    const random = createRandom(1);
    for (let i = 0; i < 40_000; i++) {
      const length = [8, 12, 13, 14][i % 4]!;
      const body = Array.from({ length: length - 1 }, () => Math.floor(random() * 10)).join('');
      const number = body + (i % 3 === 0 ? String(Math.floor(random() * 10)) : computeGs1CheckDigit(body));
      if (/^0+$/.test(number)) continue;
      // validator's isEAN speaks of 8, 13 and 14; a UPC-12 is the EAN-13 with a zero before it.
      expect(parseGtin(number).ok, number).toBe(validator.isEAN(length === 12 ? `0${number}` : number));
    }
  });
  it('finds every single wrong digit (property of weights 3 and 1)', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[1-9]\d{11}$/), fc.nat(12), fc.integer({ min: 1, max: 9 }), (body, at, by) => {
        const good = body + computeGs1CheckDigit(body);
        const bad = good.slice(0, at) + String((Number(good[at]) + by) % 10) + good.slice(at + 1);
        return !parseGtin(bad).ok;
      }),
      { seed: 7 },
    );
  });
});

describe('ISBN', () => {
  // Examples of ISO 2108 / the ISBN Users' Manual (from memory, arithmetic verified).
  it.each([
    ['0-306-40615-2', '9780306406157'],
    ['0-8044-2957-X', '9780804429573'],
    ['978-3-16-148410-0', '9783161484100'],
  ])('reads %s as %s', (text, thirteen) => {
    expect(parseIsbn(text)).toMatchObject({ ok: true, isbn13: thirteen });
  });
  it('proposes the right check digit', () => {
    expect(parseIsbn('0-306-40615-3')).toMatchObject({ ok: false, proposal: '0306406152' });
    expect(parseIsbn('978-3-16-148410-1')).toMatchObject({ ok: false, proposal: '9783161484100' });
  });
  it('has no ten-digit form for 979, and takes no printed music', () => {
    expect(toIsbn10('9791032300824')).toBeUndefined();
    expect(parseIsbn('9790260000438')).toMatchObject({ ok: false, reason: 'not-an-isbn' });
  });
  it('agrees with the packages validator and isbn3 on 20,000 numbers, and converts to and fro', () => {
    const random = createRandom(2);
    for (let i = 0; i < 20_000; i++) {
      const nine = Array.from({ length: 9 }, () => Math.floor(random() * 10)).join('');
      const ten = nine + (i % 4 === 0 ? String(Math.floor(random() * 10)) : computeIsbn10CheckDigit(nine));
      const read = parseIsbn(ten);
      expect(read.ok, ten).toBe(validator.isISBN(ten, 10));
      if (read.ok) {
        expect(toIsbn10(toIsbn13(ten))).toBe(ten);
        if (i % 20 === 0) {
          const judged = isbn3.parse(ten);
          if (judged) expect(judged.isbn13).toBe(read.isbn13);
        }
      }
    }
  });
});

describe('ISSN', () => {
  // Examples of ISO 3297 (from memory, arithmetic verified).
  it.each(['0378-5955', '0317-8471', '2049-3630', '1050-124X'])('takes %s', (n) => {
    expect(parseIssn(n)).toEqual({ ok: true, issn: n });
  });
  it('makes and reads the barcode: 0317-8471 is 977 0317 847 00 1', () => {
    expect(toIssnBarcode('0317-8471')).toBe('9770317847001');
    expect(fromIssnBarcode('9770317847001')).toBe('0317-8471');
  });
  it('agrees with the package validator on 20,000 numbers', () => {
    const random = createRandom(3);
    for (let i = 0; i < 20_000; i++) {
      const seven = Array.from({ length: 7 }, () => Math.floor(random() * 10)).join('');
      const text = `${seven.slice(0, 4)}-${seven.slice(4)}${i % 3 ? computeIssnCheckDigit(seven) : Math.floor(random() * 10)}`;
      expect(parseIssn(text).ok, text).toBe(validator.isISSN(text, { case_sensitive: true, require_hyphen: true }));
    }
  });
});

describe('kinds and SKUs', () => {
  it.each([
    ['4006381333931', 'gtin-13'],
    ['96385074', 'gtin-8'],
    ['036000291452', 'gtin-12'],
    ['9780306406157', 'isbn-13'],
    ['0306406152', 'isbn-10'],
    ['0317-8471', 'issn'],
    ['FP-28', undefined],
  ])('detects %s as %s', (t, k) => {
    expect(detectIdentifierKind(t)).toBe(k);
  });
  const rule: SkuRule = { min: 3, max: 8, allowed: 'letters-digits', upperCaseOnly: true };
  it.each([
    ['ABC1', undefined],
    ['ABC', undefined],
    ['ABCDEFGH', undefined],
    ['#ABC', 'forbidden-characters'],
    ['ABC#', 'forbidden-characters'],
    ['AB', 'too-short'],
    ['ABCDEFGHI', 'too-long'],
    ['AB-1', 'forbidden-characters'],
    ['abc1', 'lower-case'],
    [' ABC', 'edge-space'],
    ['  ', 'empty'],
  ] as const)('judges “%s” as %s', (sku, fault) => {
    expect(findSkuFault(sku, rule)).toBe(fault);
  });
});

describe('SKUs that are nearly the same', () => {
  it.each([
    ['KET-10', 'ket10', true],
    ['KET 1/0', 'KET-10', true],
    ['やかん-1', 'やかん1', true],
    ['やかん-1', 'なべ-1', false],
    ['ガ-1', 'カ-1', false],
    ['чайник', 'кастрюля', false],
    ['--', '##', false],
  ])('%s and %s: %s', (a, b, isNear) => {
    expect(foldSku(a) === foldSku(b)).toBe(isNear);
    expect(foldSku(a)).not.toBe('');
  });
});

describe('one SKU written as two', () => {
  it.each([
    ['FP-20-CM', 'fp 20_cm', true],
    ['FP-20-CM', 'FP–20–CM', true],
    ['FP-20-CM', 'ＦＰ-20-CM*', true],
    ['AB-11', 'AB1-1', false],
    ['AB-11', 'AB11', false],
    ['AB-11', 'AB-11', false],
    ['--', '##', false],
    ['ガ-1', 'カ-1', false],
  ])('%s and %s: %s', (a, b, isSame) => {
    expect(isSameSkuMistyped(a, b)).toBe(isSame);
    expect(isSameSkuMistyped(b, a)).toBe(isSame);
  });
});

describe('what a SKU may not hold', () => {
  const rule = (allowed: SkuRule['allowed']): SkuRule => ({ min: 1, max: 40, allowed, upperCaseOnly: false });
  it('is told sign by sign, each once, a space as the box that stands for it', () => {
    expect(listForbiddenSkuCharacters('A B-C/Ä A', rule('letters-digits'))).toEqual(['␣', '-', '/', 'Ä']);
    expect(listForbiddenSkuCharacters('A B-C/Ä A', rule('letters-digits-marks'))).toEqual(['␣', 'Ä']);
    expect(listForbiddenSkuCharacters('A B-C/Ä A', rule('printable'))).toEqual(['Ä']);
    expect(listForbiddenSkuCharacters('AB', rule('letters-digits'))).toEqual([]);
  });
});
