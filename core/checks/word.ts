import { getMessageText } from './define-check';
import type { Finding } from './finding';
import { getCheck } from './registry';

/** What wording needs to know of the world outside a finding. */
export interface Wording {
  market: string;
  labelOf: (field: string) => string;
}

/** The sentence of a finding: names the field, the value and the remedy. */
export function wordFinding(finding: Finding, wording: Wording): string {
  if (finding.check === 'category-missing') return `This item has no category on ${wording.market}; choose one.`;
  const check = getCheck(finding.check);
  const text = check && getMessageText(check, finding.message);
  if (!text) return `${wording.labelOf(finding.field)}: ${finding.check} (${finding.message})`;
  const facts: Record<string, string | number> = {
    ...finding.params,
    market: wording.market,
    field: wording.labelOf(finding.field),
    value: finding.value.length > 80 ? finding.value.slice(0, 77) + '…' : finding.value,
  };
  return text.replace(/\{\{(\w+)\}\}/g, (_, name: string) => String(facts[name] ?? `{{${name}}}`));
}

const numbers = /\{\{\w+\}\}/g;
/** A title for a cause, shared by all findings with the same check, message and field. */
export function wordCause(cause: { check: string; message: string; field: string }, wording: Wording): string {
  if (cause.check === 'category-missing') return 'No category chosen';
  const check = getCheck(cause.check);
  const label = wording.labelOf(cause.field);
  const titles: Record<string, string> = {
    'demanded-missing/must': `“${label}” is missing`,
    'demanded-missing/mustBecause': `“${label}” is missing`,
    'demanded-missing/should': `“${label}” is recommended and empty`,
    'unused-filled/filled': `“${label}” is filled but not used`,
    'value-not-allowed/near': `${label} is not on the list`,
    'value-not-allowed/unknown': `${label} is not on the list`,
    'identifier-wrong/checkDigit': `${label}: wrong check digit`,
    'identifier-twice/twice': `${label} stands on several SKUs`,
    'text-length/tooLong': `${label} is too long`,
    'text-length/tooShort': `${label} is too short`,
    'text-length/tooManyBytes': `${label} is too long in bytes`,
    'price-rules/underCost': 'Price loses money after fees',
    'price-rules/costUnknown': 'Cost is not known',
    'title-form/brandFirst': 'Title does not begin with the brand',
    'picture-rules/fewerThanAdvised': 'Fewer pictures than advised',
    'number-limits/decimals': `${label} has too many decimals`,
    'unit-not-accepted/convertible': `${label} is in another unit`,
    'text-rules/promotion': `${label} holds promotional words`,
    'text-rules/decoration': `${label} is decorated with symbols`,
    'text-rules/shouting': `${label} shouts`,
    'text-rules/link': `${label} holds a link`,
    'text-rules/phone': `${label} holds a telephone number`,
    'text-rules/mail': `${label} holds a mail address`,
    'list-form/boxForm': `${label} is not “count x thing”`,
    'list-form/tooFew': `${label}: too few entries`,
    'forbidden-html/tag': `${label} holds markup that is not taken`,
    'family-rules/sharedDiffers': `${label} differs within the family`,
    'family-rules/duplicate': 'Variants cannot be told apart',
    'quantity-rules/low': 'Little left to sell',
    'number-limits/under': `${label} is under the least taken`,
    'number-limits/over': `${label} is over the most taken`,
    'identifier-wrong/restricted': 'Number for use inside a shop only',
    'identifier-wrong/notNumber': `${label} is not a barcode number`,
    'identifier-wrong/zeros': `${label} is all zeros`,
    'price-rules/saleNotLower': 'Sale price is not under the price',
    'price-rules/saleWithoutStart': 'Sale without a start',
    'picture-rules/scheme': 'Picture links that cannot be read',
    'family-rules/axisNotAllowed': 'Family divided by a field that is not allowed',
    'quantity-rules/overCap': 'Quantity is over the cap',
    'live-fact-changed/changed': `${label} changed on a live entry`,
    'sku-form/characters': 'SKU holds characters that are not taken',
    'pattern-mismatch/mismatch': `${label} has the wrong form`,
  };
  const known = titles[`${cause.check}/${cause.message}`];
  if (known) return known;
  const text = (check && getMessageText(check, cause.message)) ?? cause.check;
  return text
    .replace('{{field}}', label)
    .replace('{{market}}', wording.market)
    .replace(numbers, '…')
    .replace(/“…”/g, '…')
    .replace(/\.$/, '')
    .replace(/; .*$/, '');
}
