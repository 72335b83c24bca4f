// What a formula may go on with where the caret stands.
import type { FieldBook } from '../product';
import { foldLoosely } from '../text';
import { formulaFunctions } from './functions';

export interface Completion {
  label: string;
  /** What takes the place of the stretch. */
  insert: string;
  about: string;
}

/** The stretch that is being written, and what it may become; undefined where nothing is. */
export function completeFormula(
  text: string,
  caret: number,
  fields: FieldBook,
  most = 8,
): { from: number; to: number; options: Completion[] } | undefined {
  const before = text.slice(0, caret);
  // An odd number of quotes: a text is being written.
  if ((before.split('"').length - 1) % 2 === 1) return undefined;
  const open = before.lastIndexOf('[');
  if (open >= 0 && !before.slice(open).includes(']')) {
    const said = foldLoosely(before.slice(open + 1));
    const end = text[caret] === ']' ? caret + 1 : caret;
    const options = rank(fields.all, said, (f) => foldLoosely(f.label)).map((f) => ({
      label: f.label,
      insert: `[${f.label.replaceAll(']', ']]')}]`,
      about: f.group,
    }));
    return { from: open, to: end, options: options.slice(0, most) };
  }
  const word = /[a-zA-Z]+$/.exec(before)?.[0];
  if (word === undefined) return undefined;
  const options = rank(formulaFunctions, word.toLowerCase(), (f) => f.name)
    .filter((f) => f.name.startsWith(word.toLowerCase()))
    .map((f) => ({ label: f.name, insert: `${f.name}(`, about: f.about }));
  return options.length === 0
    ? undefined
    : { from: caret - word.length, to: caret + (text[caret] === '(' ? 1 : 0), options: options.slice(0, most) };
}

/** What begins so first, then what has it within. */
function rank<T>(all: readonly T[], said: string, nameOf: (t: T) => string): T[] {
  const begins = all.filter((t) => nameOf(t).startsWith(said));
  return [...begins, ...all.filter((t) => !begins.includes(t) && nameOf(t).includes(said))];
}
