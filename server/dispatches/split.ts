// How planned rows are divided into files, and what of them still goes when a file is written: families stay together.
import { takesWholeFamilies } from '@basileus/core/feed';
import type { Operation } from '@basileus/core/rulebook';
import type { Market } from '../markets';
import type { PlannedId, PlannedRow } from './plan';

/**
 * Pieces of at most `most` rows that keep families whole where a family fits into one. `isOneRecord` says that a family is
 * one record, however many rows it has.
 */
export function splitByFamily(ids: readonly PlannedId[], most: number, isOneRecord = false): PlannedId[][] {
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
    if (records + (isOneRecord ? 1 : family.length) > most) close();
    if (isOneRecord) {
      part.push(...family);
      records++;
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
