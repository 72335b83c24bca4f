// What the editors of cells do to the text that is being typed. Pure; the text is what is committed, whatever it was made with.
import { convertUnit, exact, isKnownUnit, parseMeasure } from '@basileus/core/quantity';

export interface Option {
  code: string;
  label: string;
}

/** Entries of a list as its line holds them, divided by bars. */
export const splitEntries = (text: string): string[] =>
  text
    .split('|')
    .map((t) => t.trim())
    .filter(Boolean);
export const joinEntries = (entries: readonly string[]): string => entries.join(' | ');

/** What is being typed behind the last bar. */
export const getLastPart = (text: string): string => text.slice(text.lastIndexOf('|') + 1).trim();

/** The entry that is being typed put in full, with a bar behind it for the next. */
export const finishLastPart = (text: string, label: string): string =>
  `${joinEntries([...splitEntries(text.slice(0, text.lastIndexOf('|') + 1)), label])} | `;

/** With an entry, or without it where it stands there already. */
export function toggleEntry(text: string, label: string): string {
  const entries = splitEntries(text);
  const rest = entries.filter((e) => e !== label);
  return joinEntries(rest.length < entries.length ? rest : [...entries, label]);
}

/** Without the entry at a place. */
export const dropEntry = (text: string, at: number): string =>
  joinEntries(splitEntries(text).filter((_, i) => i !== at));

/** An entry one further up or down; as it was at the edge. */
export function stepEntry(text: string, at: number, by: -1 | 1): string {
  const entries = splitEntries(text),
    to = at + by;
  if (entries[at] === undefined || entries[to] === undefined) return text;
  [entries[at], entries[to]] = [entries[to], entries[at]];
  return joinEntries(entries);
}

const mostOffered = 200;
/** Options that hold what was typed: those that begin with it first, then those of which a word does, then the rest. */
export function findOptions(options: readonly Option[], typed: string): readonly Option[] {
  const t = typed.trim().toLowerCase();
  if (t === '') return options.slice(0, mostOffered);
  const ranks: Option[][] = [[], [], []];
  for (const o of options) {
    const label = o.label.toLowerCase();
    if (label.startsWith(t) || o.code.toLowerCase() === t) ranks[0]!.push(o);
    else if (label.split(/[^\p{L}\p{N}]+/u).some((w) => w.startsWith(t))) ranks[1]!.push(o);
    else if (label.includes(t)) ranks[2]!.push(o);
  }
  return ranks.flat().slice(0, mostOffered);
}

/**
 * Which option Enter takes before an arrow was used: one that begins with what was typed. Another one that only holds it is
 * never taken unasked, since “Red” is not “Dark red”.
 */
export function guessOption(found: readonly Option[], typed: string): number {
  const t = typed.trim().toLowerCase();
  if (t === '') return -1;
  const exact = found.findIndex((o) => o.label.toLowerCase() === t || o.code.toLowerCase() === t);
  return exact >= 0 ? exact : found.findIndex((o) => o.label.toLowerCase().startsWith(t));
}

const mostPlaces = 6;
/** The amount that is typed in every unit that is offered; a number without a unit in each as it stands. */
export function listAmounts(text: string, units: readonly string[]): string[] {
  const read = parseMeasure(text.trim());
  if (!read) return [];
  return units.flatMap((to) => {
    if (read.unit === undefined) return [`${read.amount} ${to}`];
    if (!isKnownUnit(read.unit)) return [];
    const amount = convertUnit({ amount: read.amount, unit: read.unit }, to);
    return amount ? [`${exact(amount).toDecimalPlaces(mostPlaces).toFixed()} ${to}`] : [];
  });
}
