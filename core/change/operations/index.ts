// Everything that can be done to a field of many items, in the order in which it is offered.
import { z } from 'zod';
import type { FieldBook, ProductField } from '../../product';
import { clear } from './clear';
import { copy } from './copy';
import { type OperationKind, type PreparedStep, refuse } from './define';
import { follow } from './follow';
import { leave } from './leave';
import { formula } from './formula';
import { add, remove, swap } from './list';
import { number, raise, round } from './number';
import { read } from './read';
import { rewrite } from './rewrite';
import { set } from './set';

/** What is done; told apart by `do`. */
export const operationSchema = z.discriminatedUnion('do', [
  set.schema,
  clear.schema,
  raise.schema,
  leave.schema,
  round.schema,
  formula.schema,
  copy.schema,
  read.schema,
  rewrite.schema,
  add.schema,
  remove.schema,
  swap.schema,
  number.schema,
  follow.schema,
]);
export type ChangeOperation = z.output<typeof operationSchema>;
export type OperationName = ChangeOperation['do'];

/** A kind among kinds of other operations: what it is given has been told apart by its name. */
const kinds = [
  set,
  clear,
  raise,
  leave,
  round,
  formula,
  copy,
  read,
  rewrite,
  add,
  remove,
  swap,
  number,
  follow,
] as unknown as readonly OperationKind[];
const byName = new Map(kinds.map((k) => [k.do as OperationName, k]));

/** Names of the operations, in the order in which they are offered. */
export const operationNames = kinds.map((k) => k.do as OperationName);

/** Fields that no bulk change touches: what names an item, where it belongs, and what is worked out. */
export const isChangedInBulk = ({ key, made }: ProductField): boolean => key !== 'sku' && key !== 'parent_sku' && !made;

/** What can be done to a field. */
export const listOperations = (field: ProductField): OperationName[] =>
  isChangedInBulk(field) ? kinds.filter((k) => k.fits(field)).map((k) => k.do as OperationName) : [];

/** Makes one operation ready for a field. */
export function prepareOperation(operation: ChangeOperation, key: string, book: FieldBook): PreparedStep {
  const field = book.get(key);
  if (!field) return refuse({ is: 'unknown-field', name: key });
  if (!isChangedInBulk(field)) return refuse({ is: 'not-changed-here', field: field.label });
  const kind = byName.get(operation.do)!;
  if (!kind.fits(field)) return refuse({ is: 'not-for-field', field: field.label });
  return kind.prepare(operation, field, book);
}
export type { ChangeRow, PriceLeaving, StepProblem } from './define';
export { prepareTelling } from './read';
