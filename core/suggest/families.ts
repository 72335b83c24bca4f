// Families that stand in a list as items by themselves: called alike but for a size or a colour, as suppliers list them. Proposed;
// a person makes them.
import { isFilled, toText, type Value } from '../listing/values';
import { findSharedTitle } from '../source/families';
import { foldLoosely } from '../text';

export interface LooseItem {
  id: number;
  sku: string;
  fields: Readonly<Record<string, Value>>;
}
export interface FoundFamily {
  sku: string;
  title: string;
  /** The fields by which its variants differ: no more than tell them apart. */
  axes: string[];
  members: { id: number; sku: string; says: string[] }[];
}

const sayOf = (item: LooseItem, field: string): string => {
  const value = item.fields[field];
  return isFilled(value) ? toText(value) : '';
};

/** Words of a title without those that say by what the item differs; what is left is the same for all of a family. */
function findStem(item: LooseItem, axes: readonly string[]): string {
  let stem = ` ${foldLoosely(sayOf(item, 'title'))} `;
  for (const a of axes) {
    const said = foldLoosely(sayOf(item, a));
    if (said !== '') stem = stem.replace(` ${said} `, ' ');
  }
  return stem.trim();
}

/** The title of an item without what it differs by; whole where nothing is left. */
function withoutWords(item: LooseItem, axes: readonly string[]): string {
  const title = sayOf(item, 'title');
  const words = axes.reduce((t, a) => t.replace(sayOf(item, a), ' '), title).replace(/\s+/g, ' ');
  return words.replace(/^[\s,;:/–-]+|[\s,;:/–-]+$/gu, '') || title;
}

/** The fields that tell all of some items apart, the likeliest first and no more than are needed; undefined where none do. */
function findAxes(items: readonly LooseItem[], axes: readonly string[]): string[] | undefined {
  const chosen: string[] = [];
  const count = (fields: readonly string[]): number =>
    new Set(items.map((i) => fields.map((f) => foldLoosely(sayOf(i, f))).join('\n'))).size;
  let told = 1;
  for (const a of axes) {
    if (told === items.length) break;
    if (!items.every((i) => sayOf(i, a) !== '')) continue;
    const more = count([...chosen, a]);
    if (more > told) {
      chosen.push(a);
      told = more;
    }
  }
  return told === items.length && chosen.length > 0 ? chosen : undefined;
}

/** What all of some SKUs begin with, without what divides its parts at the end; empty where that is one sign, or none. */
function findSharedSku(skus: readonly string[]): string {
  const [first = '', ...rest] = skus;
  let n = 0;
  while (n < first.length && rest.every((s) => s[n] === first[n])) n++;
  const begin = first.slice(0, n).replace(/[-_./\s]+$/u, '');
  return begin.length > 1 ? begin : '';
}

/**
 * Families among items that are in none, in the order of their first items. `axes` are the fields by which variants may differ, `isTaken` tells SKUs
 * that there are. Items of one brand and own category whose titles are the same but for what they differ by are a family, where that
 * tells each of them from the others.
 */
export function findFamilies(
  items: readonly LooseItem[],
  axes: readonly string[],
  isTaken: (sku: string) => boolean,
): FoundFamily[] {
  const groups = new Map<string, LooseItem[]>();
  for (const item of items) {
    const stem = findStem(item, axes);
    if (stem === '') continue;
    const key = JSON.stringify([stem, foldLoosely(sayOf(item, 'brand')), foldLoosely(sayOf(item, 'category'))]);
    (groups.get(key) ?? groups.set(key, []).get(key)!).push(item);
  }
  const used = new Set<string>();
  return [...groups.values()].flatMap((group): FoundFamily[] => {
    const differ = group.length < 2 ? undefined : findAxes(group, axes);
    if (!differ) return [];
    const shared = findSharedSku(group.map((i) => i.sku)) || group[0]!.sku;
    let sku = shared;
    for (let n = 1; isTaken(sku) || used.has(sku) || group.some((i) => i.sku === sku); n++)
      sku = n === 1 ? `${shared}-FAM` : `${shared}-FAM${n}`;
    used.add(sku);
    const title = findSharedTitle(group.map((i) => sayOf(i, 'title')));
    return [
      {
        sku,
        title: title === '' ? withoutWords(group[0]!, differ) : title,
        axes: differ,
        members: group.map((i) => ({ id: i.id, sku: i.sku, says: differ.map((a) => sayOf(i, a)) })),
      },
    ];
  });
}
