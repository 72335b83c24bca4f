// Faults of values in words: names the field, the value and the remedy.
import type { Value } from '../listing/values';
import type { CellFault } from './own-value';
import { ownLimits } from './own-value';
import { digits, say } from '../text';

const longest = 60;
const cut = (text: string): string => (text.length > longest ? `${text.slice(0, longest - 1)}…` : text);

/** The sentence of a fault of a value in the field called `label`. */
export function wordCellFault(fault: CellFault, label: string, value: Value | null): string {
  const text = typeof value === 'string' ? value : (value ?? []).join(' | ');
  const held = `${label} “${cut(text.replaceAll('\0', '□').replace(/\p{Cs}/gu, '□'))}”`;
  switch (fault.kind) {
    case 'zero-character':
      return say`${label} holds a zero character, which no text may have; take it out.`;
    case 'half-character':
      return say`${held} holds half of a character; type that character anew.`;
    case 'formula-error':
      return say`${held} is what a spreadsheet shows where a formula failed, and no value; give the value itself.`;
    case 'not-a-price':
      return say`${held} is not a price; write digits with a point, such as 12.50.`;
    case 'zero-price':
      return say`${held} is no price; leave it empty where there is none.`;
    case 'amount-too-large':
      return say`${held} is larger than 999,999,999.99, the largest amount that is kept; give a smaller one.`;
    case 'too-many-places':
      return say`${held} has ${fault.places} places after the point; ${fault.most} are kept. Round it.`;
    case 'not-whole':
      return say`${held} is not a whole number; write digits only, such as 12.`;
    case 'whole-too-large':
      return say`${held} is larger than ${digits(ownLimits.whole)}, the largest number that is kept; give a smaller one.`;
    case 'not-a-number':
      return say`${held} is not a number; write digits with a point, such as 12.5.`;
    case 'not-a-day':
      return say`${held} is not a day; write it as 2026-11-27 or 27/11/2026.`;
    case 'not-a-measure':
      return say`${held} is not a measure; write a number and its unit, such as 24 cm.`;
    case 'not-yes-or-no':
      return say`${held} is neither yes nor no.`;
    case 'not-in-list':
      return fault.near === null
        ? say`${held} is not in the list of values of this field; choose one that is.`
        : say`${held} is not in the list of values of this field; “${fault.near}” is.`;
    case 'several':
      return say`${label} takes one value, not ${fault.count}.`;
    case 'too-long':
      return say`${label} has ${digits(fault.length)} characters; ${digits(fault.most)} are the most that is kept. Shorten it.`;
    case 'too-many-items':
      return say`${label} has ${digits(fault.count)} entries; ${digits(fault.most)} are the most that is kept. Leave some out.`;
    case 'item-too-long':
      return say`${label} has an entry of ${digits(fault.length)} characters, “${cut(fault.item)}”; ${digits(fault.most)} are the most that is kept. Shorten it.`;
    case 'not-changed-here':
      return say`${label} cannot be changed here.`;
    case 'title-stays':
      return say`A product keeps its title; give another one.`;
    case 'no-bundle':
      return say`A ${fault.is} is no bundle; a bundle is an item by itself. Add one, and name its parts there.`;
    case 'not-a-part':
      return say`“${cut(fault.entry)}” is not a part; write how many of which SKU, such as 2 × MP-MUG-06.`;
    case 'part-twice':
      return say`${fault.sku} stands twice among the parts; write it once, with how many there are.`;
    case 'no-such-item':
      return say`There is no item ${fault.sku}; add it first, or name one that there is.`;
    case 'holds-itself':
      return say`${fault.sku} cannot be a part of itself; take it out.`;
    case 'part-is':
      return fault.is === 'family'
        ? say`${fault.sku} is a family; a bundle is made of what is sold by itself. Name one of its variants.`
        : say`${fault.sku} is a bundle itself; name its parts instead.`;
    case 'is-a-part':
      return say`This item is a part of ${fault.of}, so that it cannot be a bundle itself.`;
    case 'follows-parts':
      return say`${label} of a bundle follows from its parts; change that of the parts.`;
    case 'in-no-family':
      return fault.is === 'family'
        ? say`A family is in no other family; put its variants there.`
        : say`A bundle is in no family.`;
    case 'no-such-family':
      return say`There is no family ${fault.sku}; add it first, or name one that there is.`;
    case 'not-a-family':
      return say`Only a family says by what its variants differ.`;
    case 'not-on-a-family':
      return say`${label} belongs to what is sold; give it to the variants of this family.`;
  }
}
