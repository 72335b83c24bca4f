// What a house may say of a field of its own: what does not go together is refused with the part that is wrong.
import { isKnownUnit } from '../quantity';
import { foldLoosely } from '../text';
import type { FieldBook, FieldKind, OwnField } from './fields';

/** What is wrong with a field, by the part that is. `other` is the label of the field that has the name already. */
export type OwnFieldFault =
  | { part: 'label' | 'names'; is: 'taken'; name: string; other: string }
  | { part: 'unit'; is: 'not-a-measure' | 'unknown-unit' }
  | { part: 'values'; is: 'not-a-text' }
  | { part: 'by'; is: 'not-spoken' | 'not-money' | 'two-languages' };

const spokenKinds: ReadonlySet<FieldKind> = new Set(['text', 'long-text', 'list']);
const listedKinds: ReadonlySet<FieldKind> = new Set(['text', 'list']);

/** The first thing that is wrong with a field beside those that are there; one of the same key is the field itself. */
export function findOwnFieldFault(f: OwnField, { all, findNamed }: FieldBook): OwnFieldFault | undefined {
  const isItself = (key: string): boolean => key === `fact.${f.key}` || key.startsWith(`fact.${f.key}@`);
  for (const [part, names] of [
    ['label', [f.label]],
    ['names', f.names],
  ] as const)
    for (const name of names) {
      const other =
        findNamed(name) ?? (part === 'label' ? all.find((o) => foldLoosely(o.label) === foldLoosely(name)) : undefined);
      if (other && !isItself(other.key)) return { part, is: 'taken', name, other: other.label };
    }
  if (f.unit !== null && f.kind !== 'measure') return { part: 'unit', is: 'not-a-measure' };
  if (f.unit !== null && !isKnownUnit(f.unit)) return { part: 'unit', is: 'unknown-unit' };
  if (f.values.length > 0 && !listedKinds.has(f.kind)) return { part: 'values', is: 'not-a-text' };
  if ((f.by === 'language' || f.language !== null) && !spokenKinds.has(f.kind)) return { part: 'by', is: 'not-spoken' };
  if (f.by === 'currency' && f.kind !== 'money') return { part: 'by', is: 'not-money' };
  return f.by !== null && f.language !== null ? { part: 'by', is: 'two-languages' } : undefined;
}

/** A key for a new field from its label, such as `spout_shape`, that no field in the book has. */
export function makeFieldKey(label: string, taken: ReadonlySet<string>): string {
  const plain = foldLoosely(label)
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^[^a-z]+|_+$/g, '')
    .slice(0, 40)
    .replace(/_+$/, '');
  const base = plain === '' ? 'field' : plain;
  for (let n = 1; ; n++) {
    const key = n === 1 ? base : `${base}_${n}`;
    if (!taken.has(key)) return key;
  }
}
