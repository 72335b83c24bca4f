// A field of ours as it stands in its form, and what the form sends.
import { type OwnField, type OwnFieldKind, plainField } from '@basileus/core/product';
import { say } from '../ui/text';

/** Kinds of fields in people's words. */
export const kindNames: Readonly<Record<OwnFieldKind | 'identifier', string>> = {
  text: say`Text`,
  'long-text': say`Long text`,
  number: say`Number`,
  money: say`Money`,
  integer: say`Whole number`,
  identifier: say`Barcode`,
  list: say`Several texts`,
  date: say`Day`,
  measure: say`Measure`,
  'yes-no': say`Yes or no`,
};

export type Draft = Omit<OwnField, 'values' | 'names'> & { values: string; names: string };

export const toDraft = (f: OwnField): Draft => ({
  ...f,
  values: f.values.join('\n'),
  names: f.names.join('\n'),
});
export const emptyDraft = (group: string): Draft => toDraft(plainField({ key: '', label: '', group }));

/** The lines of a text, each once, without blank ones. */
export const toLines = (text: string): string[] => [
  ...new Set(
    text
      .split('\n')
      .map((l) => l.trim())
      .filter((l) => l !== ''),
  ),
];

/** What has a list of values, a unit, a language; what else stands in the form of another kind is not sent. */
export const takesValues = (kind: OwnFieldKind): boolean => kind === 'text' || kind === 'list';
export const takesLanguage = (kind: OwnFieldKind): boolean => takesValues(kind) || kind === 'long-text';

/** A draft as it is said to the server. */
export const fromDraft = (d: Draft) => ({
  label: d.label.trim(),
  kind: d.kind,
  rows: d.rows,
  unit: d.kind === 'measure' && d.unit !== null && d.unit.trim() !== '' ? d.unit.trim() : null,
  values: takesValues(d.kind) ? toLines(d.values) : [],
  names: toLines(d.names),
  group: d.group.trim() === '' ? say`More` : d.group.trim(),
  categories: d.categories,
  axis: d.axis,
  shared: d.shared && takesValues(d.kind),
});

/** A key moved by one place among others of its group; the order as it was where it stands at the end already. */
export function moveKey(fields: readonly OwnField[], key: string, by: -1 | 1): string[] {
  const keys = fields.map((f) => f.key);
  const group = fields.find((f) => f.key === key)?.group;
  const peers = fields.filter((f) => f.group === group).map((f) => f.key);
  const other = peers[peers.indexOf(key) + by];
  if (other === undefined) return keys;
  const [a, b] = [keys.indexOf(key), keys.indexOf(other)];
  [keys[a], keys[b]] = [keys[b]!, keys[a]!];
  return keys;
}
