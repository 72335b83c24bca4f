// Rows of families that a business system does not have: made of what their variants share. Pure.

/** The words that all titles begin with, without what divides words at their end. */
export function findSharedTitle(titles: readonly string[]): string {
  const [first = '', ...rest] = titles.map((t) => t.trim().split(/\s+/));
  let n = 0;
  while (n < first.length && rest.every((t) => t[n] === first[n])) n++;
  return (first as string[])
    .slice(0, n)
    .join(' ')
    .replace(/[\s,;:/–-]+$/u, '');
}

export interface FamilyRow {
  sku: string;
  values: string[];
}

/**
 * Gathers variants into the rows of their families. `fields` are those of a row, in order; what a family does not hold
 * (`holds`) stays empty, its title is the words that those of its variants begin with, else its SKU.
 */
export function createFamilyMaker(fields: readonly string[], holds: (field: string) => boolean) {
  const families = new Map<string, { values: (string | null)[]; titles: string[] }>();
  const titleAt = fields.indexOf('title');
  return {
    note: (sku: string, values: readonly string[]): void => {
      const known = families.get(sku);
      const title = titleAt < 0 ? '' : (values[titleAt] ?? '');
      if (!known) {
        families.set(sku, { values: fields.map((_, i) => values[i] ?? ''), titles: [title] });
        return;
      }
      for (const [i, v] of known.values.entries()) if (v !== null && v !== (values[i] ?? '')) known.values[i] = null;
      known.titles.push(title);
    },
    list: (): FamilyRow[] =>
      [...families].map(([sku, { values, titles }]) => ({
        sku,
        values: fields.map((f, i) =>
          f === 'title' ? findSharedTitle(titles) || sku : holds(f) ? (values[i] ?? '') : '',
        ),
      })),
  };
}
