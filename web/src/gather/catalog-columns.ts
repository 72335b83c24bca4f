// A field of ours as a column of the catalog.
import { type FieldBook, houseCurrency, type ProductField } from '@basileus/core/product';
import { convertUnit, knownUnits } from '@basileus/core/quantity';
import type { GridColumn } from '../table/columns';
import { say } from '../ui/text';

const kinds: Record<string, GridColumn['kind']> = {
  money: 'number',
  number: 'number',
  integer: 'number',
  list: 'list',
  'yes-no': 'yes-no',
  date: 'date',
};
const widths: Record<string, number> = {
  sku: 190,
  title: 400,
  gtin: 140,
  description: 280,
  highlights: 220,
  pictures: 180,
  brand: 150,
  category: 140,
};
/** Units that measure the same as a field's own; all of them where it names none. */
const listUnitsLike = (unit: string | undefined): readonly string[] =>
  unit === undefined ? knownUnits : knownUnits.filter((u) => convertUnit({ amount: '1', unit }, u) !== undefined);

export const toColumn = (f: ProductField, shared?: ReadonlySet<string>): GridColumn => ({
  key: f.key,
  title: f.label,
  // The name of the market stands in the head.
  width: f.market ? 170 : (widths[f.key] ?? 110),
  kind: f.values ? (f.kind === 'list' ? 'choices' : 'choice') : (kinds[f.kind] ?? 'text'),
  shape:
    f.key === 'pictures' ? 'pictures' : f.kind === 'long-text' ? 'long' : f.kind === 'measure' ? 'measure' : undefined,
  units: f.kind === 'measure' ? listUnitsLike(f.unit) : undefined,
  options: f.values?.map((v) => ({ code: v, label: f.words?.[v] ?? v })),
  suggests: shared?.has(f.key) === true && f.values === undefined,
  readOnly: f.key === 'sku' || f.made === true,
  mono: f.kind === 'identifier' || f.key === 'sku' || f.key === 'mpn',
  // A price in another currency has it in its name.
  unit: f.kind !== 'money' ? undefined : f.market ? f.currency : f.currency ? undefined : houseCurrency,
  language: f.language,
  sortable: true,
  help: f.kind === 'list' ? say`Several entries, divided by |` : undefined,
});

/** Past this many columns of a market all of its fields are asked for: an address has room for so much. */
const mostNamed = 40;
/** The fields of listings among columns, as they are asked of the server with the rows. */
export function listWanted(columns: readonly { key: string }[], fields: FieldBook): string {
  const byMarket = new Map<string, string[]>();
  for (const { key } of columns) {
    const market = fields.get(key)?.market;
    if (market) byMarket.set(market, [...(byMarket.get(market) ?? []), key]);
  }
  return [...byMarket].flatMap(([market, keys]) => (keys.length > mostNamed ? `${market}/*` : keys)).join(',');
}
