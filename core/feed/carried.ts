// Which values travel with an operation, beside those that it changes.
import type { FieldChange } from '../change/change';
import { findOperation } from '../rulebook/form-choice';
import type { Values } from '../listing/values';
import type { Rulebook } from '../rulebook/schema';
import type { Operation } from '../rulebook/terms';
import { type Accepted, getParts, pickNewAtSites, splitByGroup } from './delta';

/**
 * The values that a record of an operation carries. Where it must be whole, what the operation is not about goes as the
 * market has it: a price that waits for a look does not slip out with a new title, nor a text with a blocker with a price.
 */
export function chooseCarried(
  book: Rulebook,
  operation: Operation,
  values: Values,
  differences: readonly FieldChange[],
  accepted: Accepted,
): Values {
  const terms = findOperation(book, operation);
  if (terms?.carries === 'keys') return {};
  if (terms?.carries === 'changed') {
    const named = new Set(differences.map((d) => d.field));
    return Object.fromEntries(Object.entries(values).filter(([k]) => named.has(k)));
  }
  if (terms?.done === 'offer' || terms?.done === 'create' || terms?.done === 'replace') return values;
  const now = splitByGroup(book, values);
  const whole = {
    ...(operation === 'revise' ? now.details : accepted.details),
    ...(operation === 'price' ? now.price : accepted.price),
    ...(operation === 'stock' ? now.stock : accepted.stock),
    ...(operation === 'revise' ? pickNewAtSites(book, accepted, now.price) : {}),
  };
  // Of a site where the item is not sold any more nothing goes, whatever was accepted there.
  const parts = getParts(book);
  return Object.fromEntries(Object.entries(whole).filter(([k]) => parts.has(k)));
}
