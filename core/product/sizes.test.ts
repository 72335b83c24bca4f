// Several measures in one cell. Common practice, no source; words of headings from memory.
import { describe, expect, it } from 'vitest';
import { compileFields, firstFields, listSizes, readSizesHeading } from '.';

const fields = compileFields(firstFields);

describe('a heading of sizes', () => {
  it.each([
    ['Maße (cm)', 'length width height'],
    ['Dimensions', 'length width height'],
    ['Abmessungen LxBxH', 'length width height'],
    ['B x H x T', 'width height length'],
    ['Size (W×D×H)', 'width length height'],
    ['HxBxT mm', 'height width length'],
    ['Produktabmessungen', 'length width height'],
    ['寸法', 'length width height'],
    ['商品寸法(cm)', 'length width height'],
    ['Verpackungsmaße (LxBxH)', 'parcel_length parcel_width parcel_height'],
    ['Package dimensions', 'parcel_length parcel_width parcel_height'],
    // Two letters that mean the same say nothing of an order.
    ['Dimensions B x W x H', 'length width height'],
  ])('“%s” is %s', (heading, sizes) => {
    expect(readSizesHeading(heading, fields)).toEqual(sizes.split(' ').map((s) => `fact.${s}`));
  });
  it.each(['Size', 'Material', 'Length', 'Axbxc', 'B x W x H', 'Malaysia', ''])('is not “%s”', (heading) => {
    expect(readSizesHeading(heading, fields)).toBeUndefined();
  });
  it('is none where a house has no such fields, or of another kind', () => {
    const without = (of: string, kind?: 'text') =>
      compileFields({
        ...firstFields,
        fields: firstFields.fields.flatMap((f) => (f.key !== of ? f : kind ? { ...f, kind } : [])),
      });
    expect(readSizesHeading('Dimensions', without('height'))).toBeUndefined();
    expect(readSizesHeading('Dimensions', without('height', 'text'))).toBeUndefined();
    const others = listSizes(without('height'));
    expect([others.length, others.flat().filter((k) => !k.startsWith('fact.parcel_'))]).toEqual([4, []]);
  });
  it('may be read in every usual order, of the goods and of their parcel', () => {
    const told = listSizes(fields).map((s) => s.join(' '));
    expect([told.length, new Set(told).size, told[0], told[4]]).toEqual([
      8,
      8,
      'fact.length fact.width fact.height',
      'fact.parcel_length fact.parcel_width fact.parcel_height',
    ]);
  });
});
