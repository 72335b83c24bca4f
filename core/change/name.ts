import { plural } from '../text';

/**
 * What a change is called: its fields and its items, “Price, 67 Pellow items”, “Price and Stock of MP-MUG-06”. `brands`
 * are those of the items, where they are known.
 */
export function nameChange(
  cells: readonly { sku: string; field: string }[],
  labelOf: (field: string) => string,
  brands: readonly (string | null)[] = [],
): string {
  const fields = [...new Set(cells.map((c) => labelOf(c.field)))],
    items = new Set(cells.map((c) => c.sku));
  const what =
    fields.length > 2
      ? plural(fields.length, 'field', 'fields')
      : fields.length === 2
        ? fields.join(' and ')
        : (fields[0] ?? '');
  if (items.size === 1) return `${what} of ${[...items][0]!}`;
  const [brand] = brands;
  const ofBrand = brand && brands.every((b) => b === brand) ? `${brand} ` : '';
  return `${what}, ${items.size.toLocaleString('en-GB')} ${ofBrand}items`;
}
