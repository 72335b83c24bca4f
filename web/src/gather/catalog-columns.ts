// A field of ours as a column of the catalog.
import { houseCurrency, type ProductField } from '@basileus/core/product';
import type { GridColumn } from '../table/columns';

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
export const toColumn = (f: ProductField): GridColumn => ({
  key: f.key,
  title: f.label,
  width: widths[f.key] ?? 110,
  kind: f.values ? (f.kind === 'list' ? 'choices' : 'choice') : (kinds[f.kind] ?? 'text'),
  options: f.values?.map((v) => ({ code: v, label: v })),
  readOnly: f.key === 'sku',
  mono: f.kind === 'identifier' || f.key === 'sku' || f.key === 'mpn',
  unit: f.kind === 'money' ? (f.currency ?? houseCurrency) : undefined,
  language: f.language,
  sortable: true,
  help: f.kind === 'list' ? 'Several entries, divided by |' : undefined,
});
