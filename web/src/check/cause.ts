// What the interface needs to know of a cause beside what the server says.
import type { Cause } from '@basileus/contract';

export const keyOf = (c: Pick<Cause, 'check' | 'message' | 'field'>): string => `${c.check}.${c.message}.${c.field}`;

/** Fields that help to judge a cause, shown beside its own. */
export const relatedFields: Record<string, string[]> = {
  'price-rules': ['price', 'sale_price', 'sale_start', 'sale_end'],
  'identifier-wrong': ['maker_reference', 'brand'],
  'identifier-twice': ['brand'],
  'title-form': ['brand'],
  'family-rules': ['colour', 'size'],
  'category-missing': [],
};

/** Causes whose first remedy sets a value, though only a likely one. */
export const hasMechanical = (c: Cause): boolean =>
  [
    'identifier-wrong/checkDigit',
    'value-not-allowed/near',
    'price-rules/underCost',
    'price-rules/saleNotLower',
    'text-rules/promotion',
    'text-rules/phone',
    'text-rules/link',
    'text-rules/mail',
    'text-length/tooLong',
    'picture-rules/scheme',
    'family-rules/sharedDiffers',
    'identifier-twice/twice',
    'unit-not-accepted/missing',
  ].includes(`${c.check}/${c.message}`);
