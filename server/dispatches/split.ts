// How planned rows are divided into files, and what of them still goes when a file is written: families stay together.
import { takesWholeFamilies } from '@basileus/core/feed';
import type { Form, Operation } from '@basileus/core/rulebook';
import type { Market } from '../markets';
import type { PlannedId } from './plan';
import type { PlannedRow } from './planned-rows';

/** Rows that a file of a form takes at the most: a row is a record at each site where it stands, where the form has such. */
export const countMostRows = ({ record, maxRecords }: Form, sites: number): number =>
  record === 'listing-at-site' ? Math.max(1, Math.floor(maxRecords / sites)) : maxRecords;

/** The pieces in which rows of an operation go: each no more records than its form takes. */
export const splitForForm = ({ rulebook }: Market, form: Form, ids: readonly PlannedId[]): PlannedId[][] =>
  splitByFamily(
    ids,
    countMostRows(form, rulebook.sites.length),
    form.record === 'family' ? form.members?.most : undefined,
  );

/**
 * Pieces of at most `most` rows that keep families whole where a family fits into one. `inRecord` says that a family is
 * one record, or several where it has more rows than that.
 */
export function splitByFamily(ids: readonly PlannedId[], most: number, inRecord?: number): PlannedId[][] {
  const parts: PlannedId[][] = [];
  let part: PlannedId[] = [],
    records = 0;
  const close = (): void => {
    if (part.length > 0) parts.push(part);
    part = [];
    records = 0;
  };
  for (let i = 0; i < ids.length;) {
    let end = i;
    while (end < ids.length && ids[end]!.root === ids[i]!.root) end++;
    const family = ids.slice(i, end);
    const own = inRecord === undefined ? family.length : Math.ceil(family.length / inRecord);
    if (records + own > most) close();
    if (inRecord !== undefined) {
      part.push(...family);
      records += own;
    } else
      for (const id of family) {
        if (records === most) close();
        part.push(id);
        records++;
      }
    i = end;
  }
  close();
  return parts;
}

/**
 * The same pieces, divided further so that none has more bytes than there is room for: families whole where one fits into a
 * file, a row by itself where it alone is more. `sizes` has the bytes of each row by its id.
 */
export function splitByBytes(
  ids: readonly PlannedId[],
  sizes: ReadonlyMap<number, number>,
  room: number,
  isFamilyRecord: boolean,
): PlannedId[][] {
  const sizeOf = (some: readonly PlannedId[]): number => some.reduce((n, x) => n + (sizes.get(x.id) ?? 0), 0);
  const parts: PlannedId[][] = [];
  let part: PlannedId[] = [],
    used = 0;
  const add = (some: readonly PlannedId[]): void => {
    const size = sizeOf(some);
    if (part.length > 0 && used + size > room) {
      parts.push(part);
      part = [];
      used = 0;
    }
    part.push(...some);
    used += size;
  };
  for (let i = 0; i < ids.length;) {
    let end = i;
    while (end < ids.length && ids[end]!.root === ids[i]!.root) end++;
    const family = ids.slice(i, end);
    if (isFamilyRecord || sizeOf(family) <= room) add(family);
    else for (const id of family) add([id]);
    i = end;
  }
  if (part.length > 0) parts.push(part);
  return parts;
}

/** What still goes of rows that were chosen: those that nothing holds by now; a new family that goes whole only whole. */
export function leaveHeld(
  { rulebook }: Market,
  operation: Operation,
  planned: readonly PlannedRow[],
  chosen: number,
): PlannedRow[] {
  const going = planned.filter((r) => r.held === null);
  if (operation !== 'create' || !takesWholeFamilies(rulebook) || going.length === chosen) return going;
  const rootOf = (r: PlannedRow): number => r.full.root_id;
  const waiting = new Set(planned.filter((r) => r.held !== null).map(rootOf));
  return going.filter((r) => !waiting.has(rootOf(r)));
}
