import type { Form } from './schema';

const told: ReadonlySet<string> = new Set(['parent-sku', 'family-key', 'row-role', 'axes']);

/** Whether any file of a market tells which items are a family; where none does, each variant is an item by itself. */
export const tellsFamilies = ({ forms }: { forms: readonly Form[] }): boolean =>
  forms.some((f) => f.record === 'family' || f.slots.some((s) => told.has(s.holds.what)));
