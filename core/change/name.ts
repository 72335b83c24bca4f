import { isEveryItem, type Which, wordWhich } from '../choose';
import type { FieldBook } from '../product';
import { digits, plural } from '../text';
import type { ChangeStep } from './bulk';

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
  return `${what}, ${digits(items.size)} ${ofBrand}items`;
}

const mostFields = 3;

/** What a bulk change is called: its fields, how many items, and which: “Price, 67 items: Brand is Pellow”. */
export function nameBulk(
  steps: readonly ChangeStep[],
  which: Which,
  total: number,
  book: FieldBook,
  nameOf: (market: string) => string,
): string {
  const fields = [...new Set(steps.map((s) => book.labelOf(s.field)))];
  const what = fields.length > mostFields ? plural(fields.length, 'field', 'fields') : fields.join(', ');
  const of = isEveryItem(which) ? '' : `: ${wordWhich(which, book, nameOf)}`;
  return `${what}, ${plural(total, 'item', 'items')}${of}`.slice(0, 300);
}
