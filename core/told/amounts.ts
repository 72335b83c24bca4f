// Measures and numbers that stand in texts, told by the words beside them: "Diameter: 28 cm", "a blade of 18 cm", "96 pages".
import { commaLocale, convertUnit, findUnit, pointLocale, readNumber } from '../quantity';
import { listStatements, toWords } from './words';

interface Found {
  /** The number as we write it. */
  amount: string;
  /** As we spell it; undefined where no unit stands behind it. */
  unit: string | undefined;
  /** Where it stands among the words of its statement. */
  at: number;
}

/** A number and what is written behind it; none that is part of a word, a range or of several sides ("30 x 20 cm"). */
const number = /(?<![\p{L}\p{N}.,/×✕*-])(\d[\d.,]*)(?!\s*[-–/x×✕*]\s*\d|\p{N})\s*("|°C|fl\s?oz|\p{L}+)?/giu;
const joined = /[\dx×✕*]\s*[x×✕*]\s*$/iu;

function listAmounts(statement: string): Found[] {
  return [...statement.matchAll(number)].flatMap((m): Found[] => {
    const before = statement.slice(0, m.index);
    if (joined.test(before)) return [];
    const figures = m[1]!.replace(/[.,]$/, '');
    const read = [pointLocale, commaLocale].map((l) => readNumber(figures, l)).find((r) => r.ok);
    if (!read?.ok) return [];
    const unit = m[2] === undefined ? undefined : findUnit(m[2].replace(/\s+/g, ' '));
    return [{ amount: read.number, unit, at: toWords(before).length }];
  });
}

/** What is looked for: words beside which it stands, and in a measure the unit into which it can be put. */
export interface Wanted {
  cues: readonly string[];
  unit?: string | undefined;
}

const fits = (found: Found, { unit }: Wanted): boolean =>
  unit === undefined
    ? found.unit === undefined
    : found.unit !== undefined && convertUnit({ amount: found.amount, unit: found.unit }, unit) !== undefined;
const write = ({ amount, unit }: Found): string => (unit === undefined ? amount : `${amount} ${unit}`);

/** How many words may stand between a number and the word that says what it is: "a diameter of about 28 cm". */
const farthest = 3;

/**
 * The one amount that stands beside one of the words, or undefined where none does, or several that differ. With `alone` one
 * that stands in the first text by itself, with no word beside it, counts where no other is told.
 */
export function findAmount(texts: readonly string[], wanted: Wanted, alone: boolean): string | undefined {
  const cues = wanted.cues.map(toWords).filter((words) => words.length > 0);
  const beside = (statement: string): Found[] => {
    const words = toWords(statement);
    const places = cues.flatMap((cue) =>
      words.flatMap((_, at) => (cue.every((w, i) => words[at + i] === w) ? [{ from: at, to: at + cue.length }] : [])),
    );
    const amounts = listAmounts(statement).filter((f) => fits(f, wanted));
    // Of several in one statement the nearest is meant.
    return places.flatMap(({ from, to }) => {
      const away = (f: Found): number => (f.at >= to ? f.at - to : from - f.at - 1 - Number(f.unit !== undefined));
      const [nearest] = amounts.filter((f) => away(f) <= farthest).sort((a, b) => away(a) - away(b));
      return nearest ? [nearest] : [];
    });
  };
  const told = new Set(texts.flatMap((t) => listStatements(t).flatMap(beside)).map(write));
  if (told.size > 0 || !alone) return told.size === 1 ? [...told][0] : undefined;
  const [title = ''] = texts;
  const single = new Set(
    listStatements(title)
      .flatMap(listAmounts)
      .filter((f) => fits(f, wanted))
      .map(write),
  );
  return single.size === 1 ? [...single][0] : undefined;
}
