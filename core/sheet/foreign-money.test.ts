// Amounts in a currency that the house keeps none of. Codes by ISO 4217; the rates are invented.
import { describe, expect, it } from 'vitest';
import { canBeForeign, compileFields, firstFields, readForeignMoney } from '../product';
import { findNamedCurrency, type ImportReading, planRow, toHouseMoney, understandSheet, wordProblem } from '.';

const fields = compileFields(firstFields);

describe('the currency of a column', () => {
  it.each([
    [['4,20 €', '5.10', '6 €'], 'EUR'],
    [['USD 4.20', '5.10 usd'], 'USD'],
    [['￥420'], 'JPY'],
    [['4.20 €', 'EUR 5'], 'EUR'],
    [['4.20 €', '$5'], undefined],
    [['4.20 €', '5 USD'], undefined],
    [['4.20', '5 PCS', 'PAN'], undefined],
    [['4.20 ₿'], undefined],
    [[], undefined],
  ])('of %j is %s', (texts, currency) => {
    expect(findNamedCurrency(texts)).toBe(currency);
  });
  it.each([
    ['EK EUR', 'cost', 'EUR'],
    ['Cost ($)', 'cost', 'USD'],
    ['Einkaufspreis in chf', 'cost', 'CHF'],
    ['Purchase price CNY', 'cost', 'CNY'],
    // What the house sells for in Swiss francs it keeps nowhere.
    ['Price CHF', 'price', 'CHF'],
  ])('is named by “%s”', (heading, field, currency) => {
    expect(readForeignMoney(heading, fields)).toMatchObject({ field, currency });
  });
  it.each(['EK', 'Cost GBP', 'Price EUR', 'Colour EUR', 'EUROPE cost', 'Width €'])(
    'is not named by “%s”',
    (heading) => {
      expect(readForeignMoney(heading, fields)).toBeUndefined();
    },
  );
  it('may be another only in a field of the house’s money that has none of its own in it', () => {
    const can = (field: string, currency: string) => canBeForeign(fields.get(field)!, currency, fields);
    expect([can('cost', 'EUR'), can('price', 'CHF'), can('cost', 'GBP'), can('price', 'EUR')]).toEqual([
      true,
      true,
      false,
      false,
    ]);
    expect([can('fact.price@eur', 'CHF'), can('stock', 'EUR')]).toEqual([false, false]);
  });
  it('is told by the heading or the cells, where it fills such a field', () => {
    const guess = (heading: string, ...cells: string[]) =>
      understandSheet([['SKU', 'Title', heading], ...cells.map((c, i) => [`A-${i}`, 'Pan', c])], fields).columns[2]!;
    expect(guess('EK EUR', '4.20')).toMatchObject({ field: 'cost', currency: 'EUR', why: 'words' });
    expect(guess('EK', '4.20 €', '5')).toMatchObject({ field: 'cost', currency: 'EUR' });
    expect(guess('EK', '4.20 £', '5').currency).toBeUndefined();
    expect(guess('Price', '4.20 €', '5').currency).toBeUndefined();
    expect(guess('Weight', '4 €').currency).toBeUndefined();
  });
});

describe('an amount in another currency', () => {
  const plan = (cell: string, field = 'cost', converts: object = { converts: { currency: 'EUR', rate: '1.25' } }) => {
    const reading: ImportReading = {
      columns: [
        { index: 0, field: 'sku' },
        { index: 1, field: 'title' },
        { index: 2, field, ...converts },
      ],
      ...{ decimalSign: ',', listSeparator: '|', mode: 'both', blankClears: false, acceptMended: true },
    };
    const { changes, problems } = planRow(['A', 'Pan', cell], reading, undefined, { fields, seen: new Map() });
    return [changes[1]?.after, ...problems.map((p) => wordProblem(p, fields))];
  };
  it('is made into the house’s by the rate, to the places of the field', () => {
    expect(plan('4,20 €')).toEqual(['3.36']);
    expect(plan('EUR 1.000')).toEqual(['800.00']);
    expect(plan('1')).toEqual(['0.80']);
    expect(plan('1', 'cost', { converts: { currency: 'EUR', rate: '3' } })).toEqual(['0.3333']);
    expect(plan('1', 'price', { converts: { currency: 'EUR', rate: '3' } })).toEqual(['0.33']);
    expect(toHouseMoney('100', '0.0125', 2)).toBe('8000');
  });
  it('is refused where it is in neither', () => {
    expect(plan('$4')[1]).toMatch(/is in another currency \(\$\); this field is in EUR/);
    expect(plan('4 €', 'cost', {})[1]).toMatch(/is in another currency \(€\); this field is in GBP/);
    expect(plan('-4')[1]).toMatch(/under zero/);
  });
});
