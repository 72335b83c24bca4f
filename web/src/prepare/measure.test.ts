import { parseRulebook } from '@basileus/core/rulebook';
import { cedarpostDocument } from '@basileus/rulebooks/cedarpost';
import { lumbaraDocument } from '@basileus/rulebooks/lumbara';
import { wadilineDocument } from '@basileus/rulebooks/wadiline';
import { describe, expect, it } from 'vitest';
import { measureText } from './measure';

const attributeOf = (document: unknown, key: string) => {
  const reading = parseRulebook(document);
  if (!reading.ok) throw new Error('The rulebook is not valid.');
  return reading.rulebook.attributes.find((a) => a.key === key)!;
};

describe('the room of a text', () => {
  it('is counted in bytes of the encoding, or in columns, where the market counts so', () => {
    expect(measureText(attributeOf(lumbaraDocument, 'na'), 'ガラス　A4')).toEqual([
      { used: 10, most: 56, what: 'bytes in Shift_JIS' },
    ]);
    expect(measureText(attributeOf(lumbaraDocument, 'eimei'), '鍋 pan')).toEqual([
      { used: 6, most: 60, what: 'columns' },
    ]);
  });
  it('is counted in characters elsewhere, and not at all where there is no limit', () => {
    const title = attributeOf(cedarpostDocument, 'name');
    expect(measureText(title, '👍 pan')).toEqual([{ used: 5, most: title.maxCharacters, what: '' }]);
    expect(measureText(attributeOf(lumbaraDocument, 'jan'), '123')).toEqual([]);
    expect(measureText(attributeOf(wadilineDocument, 'point@en'), 'Quiet | Light')).toEqual([]);
  });
});
