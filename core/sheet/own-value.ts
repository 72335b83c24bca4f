// What a field of ours can hold: one judgement for whatever wants to write it, a file, a cell or a paste.
import type { Value } from '../listing/values';
import { canonicalNumber } from '../quantity';
import { isWhole } from '../text';
import { sheetBounds } from './bounds';
import { getFieldLabel, getProductField } from './fields';

export const ownLimits = {
  skuCharacters: 60,
  /** Prices and costs are kept with up to nine places before the point and four after it. */
  money: 1e9,
  moneyPlaces: 4,
  /** The largest whole number that is kept. */
  whole: 2_147_483_647,
  /** Names that many items share: brand, own category, part number. */
  nameCharacters: 200,
  titleCharacters: 2000,
  textCharacters: sheetBounds.cellCharacters,
  listItems: 200,
  listItemCharacters: 5000,
} as const;

const digits = (n: number): string => n.toLocaleString('en-GB');
const names = new Set(['brand', 'category', 'mpn', 'gtin', 'sale_start', 'sale_end', 'parent_sku']);
const mostOf = (field: string): number =>
  field === 'sku'
    ? ownLimits.skuCharacters
    : names.has(field)
      ? ownLimits.nameCharacters
      : field === 'title'
        ? ownLimits.titleCharacters
        : ownLimits.textCharacters;

/** Characters as a person counts them. */
const countCharacters = (text: string): number => {
  let n = 0;
  for (const _ of text) n++;
  return n;
};
const shown = (text: string): string => (text.length > 60 ? `${text.slice(0, 59)}…` : text);

/** Why a value cannot stand in a field of ours, in a sentence with the remedy; undefined where it can. */
export function findValueFault(field: string, value: Value): string | undefined {
  const label = getFieldLabel(field);
  const kind = getProductField(field)?.kind;
  const items = typeof value === 'string' ? [value] : value;
  for (const text of items) {
    if (text.includes('\0')) return `${label} holds a zero character, which no text may have; take it out.`;
    if (!isWhole(text))
      return `${label} “${shown(text.replace(/\p{Cs}/gu, '□'))}” holds half of a character; type that character anew.`;
  }
  const [text = ''] = items;
  if (kind === 'list') return findListFault(label, items);
  if (typeof value !== 'string') return `${label} takes one value, not ${items.length}.`;
  if (kind === 'money') return findMoneyFault(label, text);
  if (kind === 'integer') {
    if (!/^\d+$/.test(text)) return `${label} “${shown(text)}” is not a whole number; write digits only, such as 12.`;
    return text.length > 10 || Number(text) > ownLimits.whole
      ? `${label} “${shown(text)}” is larger than ${digits(ownLimits.whole)}, the largest number that is kept; give a smaller one.`
      : undefined;
  }
  const most = mostOf(field);
  if (text.length > most) {
    const length = countCharacters(text);
    if (length > most)
      return `${label} has ${digits(length)} characters; ${digits(most)} are the most that is kept. Shorten it.`;
  }
  return undefined;
}

function findMoneyFault(label: string, text: string): string | undefined {
  if (!canonicalNumber.test(text) || text.startsWith('-'))
    return `${label} “${shown(text)}” is not a price; write digits with a point, such as 12.50.`;
  if (Number(text) >= ownLimits.money)
    return `${label} “${shown(text)}” is larger than 999,999,999.99, the largest amount that is kept; give a smaller one.`;
  const places = (text.split('.')[1] ?? '').replace(/0+$/, '').length;
  return places > ownLimits.moneyPlaces
    ? `${label} “${shown(text)}” has ${places} places after the point; ${ownLimits.moneyPlaces} are kept. Round it.`
    : undefined;
}

function findListFault(label: string, items: readonly string[]): string | undefined {
  if (items.length > ownLimits.listItems)
    return `${label} has ${digits(items.length)} entries; ${ownLimits.listItems} are the most that is kept. Leave some out.`;
  const long = items.find((i) => i.length > ownLimits.listItemCharacters);
  return long === undefined
    ? undefined
    : `${label} has an entry of ${digits(long.length)} characters, “${shown(long)}”; ${digits(ownLimits.listItemCharacters)} are the most that is kept. Shorten it.`;
}
