// Places in a record, as the market writes them: worth.deal.from, say.points[].
import type { Group, Json } from './book';

export const isGroup = (value: Json | undefined): value is Group =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** What stands at a place; undefined where nothing does. */
export function lookUp(record: Group, place: string): Json | undefined {
  let at: Json | undefined = record;
  for (const name of place.replace('[]', '').split('.'))
    at = isGroup(at) && Object.hasOwn(at, name) ? at[name] : undefined;
  return at ?? undefined;
}

export const textAt = (record: Group, place: string): string => {
  const value = lookUp(record, place);
  return typeof value === 'string' ? value : '';
};

/** A record with another merged into it: what is null is taken out (RFC 7396, JSON Merge Patch). */
export function mergeInto(target: Group, patch: Group): Group {
  const merged: Group = { ...target };
  for (const [name, value] of Object.entries(patch)) {
    if (name === '__proto__') continue;
    const before = merged[name];
    if (value === null) delete merged[name];
    else if (isGroup(value)) merged[name] = mergeInto(isGroup(before) ? before : {}, value);
    else merged[name] = value;
  }
  return merged;
}
