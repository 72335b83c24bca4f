import { z } from 'zod';
import { toItems, type Value, type Values } from '../../listing/values';
import type { FieldKind, ProductField } from '../../product';
import { createWordFinder, findAmount, type Named, type Spoken } from '../../told';
import { becomes, left, type OperationKind, ready, refuse } from './define';

const schema = z.strictObject({
  do: z.literal('read'),
  /**
   * Of a choice or a list: values to look for, each with other words for it behind "="; those of its list where none are given.
   * Of an amount or of yes and no: words that say what it is; its label where none are given.
   */
  words: z.array(z.string()),
  /** An amount counts with no word beside it, where it is the only one in the title. */
  alone: z.boolean(),
});

const kinds: ReadonlySet<FieldKind> = new Set(['text', 'list', 'measure', 'number', 'integer', 'yes-no']);
/** Fields of ours that are texts themselves, or point elsewhere: nothing is read into them. */
const texts = ['title', 'highlights', 'description'] as const;
const isText = (key: string): boolean =>
  ['brand', 'mpn', 'pictures', ...texts].some((t) => key === t || key.startsWith(`${t}@`));

/** What stands in the texts of an item: in its title, in its highlights, in its description. Only what is empty is filled. */
export const read: OperationKind<typeof schema> = {
  do: 'read',
  schema,
  fits: (field) => kinds.has(field.kind) && !isText(field.key),
  prepare: ({ words, alone }, field) => {
    const tell = prepareTelling(field, words, alone);
    if (!tell) return refuse({ is: 'nothing-given', part: 'words' });
    return ready((held, { values }) => {
      const told = held === undefined || held.length === 0 ? tell(listTexts(values)) : undefined;
      return told === undefined ? left : becomes(told);
    }, texts);
  },
};

/**
 * Makes ready what texts tell of a field, the first of them the title: its value, or undefined where they leave it open. Undefined
 * itself where nobody said which words to look for.
 */
export function prepareTelling(
  field: ProductField,
  words: readonly string[] = [],
  alone = false,
): ((texts: readonly string[]) => Value | undefined) | undefined {
  const cues = words.length > 0 ? words : [ownLabel(field)];
  if (field.kind === 'measure' || field.kind === 'number' || field.kind === 'integer') {
    const wanted = { cues, unit: field.kind === 'measure' ? (field.unit ?? 'cm') : undefined };
    return (from) => findAmount(from, wanted, alone);
  }
  if (field.kind === 'yes-no') {
    const find = createWordFinder([{ value: 'yes', names: cues }]);
    return (from) => onlyOne(from.flatMap(find).map((s) => (s.isSo ? 'yes' : 'no')));
  }
  const list = listNamed(field, words);
  if (list.length === 0) return undefined;
  const find = createWordFinder(list);
  const soIn = (text: string): string[] => find(text).flatMap((s: Spoken) => (s.isSo ? [s.value] : []));
  if (field.kind === 'list')
    return (from) => {
      const found = [...new Set(from.flatMap(soIn))];
      return found.length === 0 ? undefined : found;
    };
  return ([title = '', ...others]) => {
    const inTitle = soIn(title);
    // Where the title speaks of two, the rest cannot say which is meant.
    return inTitle.length > 0 ? onlyOne(inTitle) : onlyOne(others.flatMap(soIn));
  };
}

/** What is looked for: "Blue = navy, azure" in lines of a person, else the list of the field. */
function listNamed({ values = [], words = {}, also = {} }: ProductField, given: readonly string[]): Named[] {
  if (given.length === 0)
    return values.map((value) => ({ value, names: [words[value] ?? value, ...(also[value] ?? [])] }));
  const codes = new Map(Object.entries(words).map(([code, word]) => [word, code]));
  return given.map((line) => {
    const [name = '', others = ''] = line.split('=', 2).map((part) => part.trim());
    return { value: codes.get(name) ?? name, names: [name, ...others.split(',')] };
  });
}

/** A field of a market is called by its market too; texts do not say that. */
const ownLabel = ({ label, group, market }: ProductField): string =>
  market === undefined ? label : label.replace(` on ${group}`, '');

const listTexts = (values: Values): string[] => texts.map((t) => toItems(values[t] ?? '').join('\n'));

const onlyOne = (found: readonly string[]): string | undefined => (new Set(found).size === 1 ? found[0] : undefined);
