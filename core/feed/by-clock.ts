// What goes by the clock, without anybody looking: what may be among it, in which order it goes, and what waits for a look after all.
import type { Operation } from '../rulebook/terms';
import type { Surprise } from './surprise';

/**
 * Operations that may go again and again by the clock. Taking down is not among them: what it burns for good is sent by a person,
 * or at a time that a person has set for just those rows.
 */
export const clockOperations = [
  'stock',
  'price',
  'create',
  'offer',
  'restore',
  'revise',
  'replace',
] as const satisfies Operation[];
export type ClockOperation = (typeof clockOperations)[number];

/** Operations that are ordered together; `also` goes in a file of its own beside the first, so that a row goes in both. */
export interface Order {
  operation: Operation;
  also?: 'stock';
}

/**
 * The orders in which operations are sent: prices and stock first and together, since a late one of these sells wrong, then what
 * is new, then what is said of it. A row that is on its way is left out of what follows and goes the next time.
 */
export function listOrders(operations: readonly Operation[]): Order[] {
  const has = (o: Operation): boolean => operations.includes(o);
  const offers: Order[] =
    has('price') && has('stock')
      ? [{ operation: 'price', also: 'stock' }]
      : (['price', 'stock'] as const).filter(has).map((operation) => ({ operation }));
  const others = ([...clockOperations, 'withdraw'] as const).filter((o) => o !== 'price' && o !== 'stock' && has(o));
  return [...offers, ...others.map((operation) => ({ operation }))];
}

/** A surprise with the rows it touches, of so many live entries. */
export interface Surprising {
  kind: Surprise;
  operation: Operation;
  rows: number;
  live: number;
}

/**
 * What of surprises nobody has looked at: those of a kind that was not looked at before, or that touch more rows than were looked at.
 */
export const listUnseen = <S extends Surprising>(
  found: readonly S[],
  seen: readonly Pick<Surprising, 'kind' | 'rows'>[],
): S[] => found.filter((f) => !seen.some((s) => s.kind === f.kind && s.rows >= f.rows));
