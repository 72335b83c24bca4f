// The columns of a form: its slots, and those of each variant that a record of a family has room for, side by side.
import type { Form, Slot } from '../rulebook/schema';

export interface FormColumn extends Slot {
  /** Place of the variant whose column it is, from 1. */
  member?: number;
}

/** Columns in the order in which they stand in a record. */
export function listColumns({ slots, members }: Form): FormColumn[] {
  const columns: FormColumn[] = [...slots];
  for (let n = 1; n <= (members?.most ?? 0); n++)
    for (const slot of members!.slots)
      columns.push({ ...slot, key: fillPlace(slot.key, n), ...fillLabels(slot, n), member: n });
  return columns;
}

const fillPlace = (text: string, n: number): string => text.replaceAll('{n}', String(n));
const fillLabels = ({ label, labels }: Slot, n: number): Pick<Slot, 'label' | 'labels'> => ({
  ...(label === undefined ? {} : { label: fillPlace(label, n) }),
  ...(labels === undefined
    ? {}
    : { labels: Object.fromEntries(Object.entries(labels).map(([language, l]) => [language, fillPlace(l, n)])) }),
});
