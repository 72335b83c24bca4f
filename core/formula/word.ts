// What is wrong with a formula, in words: what stands there, what was expected, and the remedy.
import type { FormulaProblem, RowFault } from './fault';
import type { FormulaType } from './types';
import { digits, plural, say, sayWord, term } from '../text';

const types: Readonly<Record<FormulaType, string>> = {
  number: term`a number`,
  text: term`a text`,
  'yes-no': term`yes or no`,
  date: term`a day`,
  measure: term`a measure`,
  list: term`a list`,
  nothing: term`nothing`,
};
const either = (wanted: readonly FormulaType[]): string => {
  const words = wanted.map((t) => sayWord(types[t]));
  return words.length < 2 ? words.join('') : say`${words.slice(0, -1).join(', ')} or ${words.at(-1)!}`;
};

/** How to make one type of another, where there is a way. */
function wordRemedy(wanted: readonly FormulaType[], found: FormulaType): string {
  if (wanted.includes('number') && found === 'text') return say` value( ) reads a number from a text.`;
  if (wanted.includes('number') && found === 'measure') return say` amount( ) gives the number of a measure.`;
  if (wanted.includes('number') && found === 'list') return say` count( ) gives how many entries it has.`;
  if (wanted.includes('text') && found === 'list') return say` textjoin( ) makes one text of its entries.`;
  if (wanted.includes('date') && found === 'text') return say` day( ) reads a day from a text.`;
  return '';
}

const unclosed = {
  text: term`A text is not closed; end it with ".`,
  field: 'The name of a field is not closed; end it with ].',
  bracket: term`A bracket is not closed; add ).`,
} as const;

function wordArguments({ function: name, given, least, most }: Extract<FormulaProblem, { is: 'arguments' }>): string {
  const wanted = most === null ? say`${least} or more` : least === most ? String(least) : say`${least} to ${most}`;
  return say`${name}( ) takes ${most === 0 ? say`nothing` : wanted}; ${plural(given, 'is', 'are')} given.`;
}

/** The sentence of what is wrong with a formula. */
export function wordFormulaProblem(p: FormulaProblem): string {
  switch (p.is) {
    case 'nothing':
      return say`Write a formula, such as [Price] * 1.1.`;
    case 'too-long':
      return say`A formula has at most ${p.most} characters; this one has ${p.length}.`;
    case 'too-deep':
      return say`Brackets stand at most ${p.most} deep in each other; take some apart.`;
    case 'unclosed':
      return sayWord(unclosed[p.what]);
    case 'unexpected':
      return p.found === ';'
        ? say`What a function takes is divided by commas, not by “;”.`
        : p.found === '?'
          ? say`“?” is no part of a formula; write if(condition, then, else).`
          : p.found === "'"
            ? say`A text stands between double quotes, as in "red".`
            : p.found === ')'
              ? say`This bracket closes none that was opened; take it out.`
              : say`“${p.found}” cannot stand here; an operator such as + or & was expected, or the end.`;
    case 'value-missing':
      return say`${p.after === '' ? say`Something` : say`Something after “${p.after}”`} is missing: a field in square brackets, a number or a text in quotes.`;
    case 'comma-missing':
      return say`A comma is missing between what the function takes.`;
    case 'of-the-day':
      return say`today( ) gives another day tomorrow, and what is filled here stays as it is; name a day, or a field that holds one.`;
    case 'unknown-field':
      return say`There is no field “${p.name}”${p.near === null ? '.' : say`; “${p.near}” is nearest.`}`;
    case 'unknown-function':
      return say`There is no function ${p.name}( )${p.near === null ? '.' : say`; ${p.near}( ) is nearest.`}`;
    case 'unknown-word':
      return p.field === null
        ? say`“${p.name}” is no word of a formula; a field stands in square brackets, a text in quotes.`
        : say`“${p.name}” is no word of a formula; for the field write [${p.field}].`;
    case 'arguments':
      return wordArguments(p);
    case 'type':
      return say`${/^[a-z]/.test(p.of) ? `${p.of}( )` : `“${p.of}”`} takes ${either(p.wanted)} here, and this is ${sayWord(types[p.found])}.${wordRemedy(p.wanted, p.found)}`;
    case 'branches':
      return say`One choice is ${sayWord(types[p.one])} and the other ${sayWord(types[p.other])}; give both as the same.`;
    case 'result':
      return say`${p.field} takes ${either(p.wanted)}, and this formula gives ${sayWord(types[p.found])}.${wordRemedy(p.wanted, p.found)}`;
  }
}

/** Why a formula gave nothing for one row. */
export function wordRowFault(fault: RowFault): string {
  switch (fault.kind) {
    case 'divided-by-zero':
      return say`Something is divided by zero in this row.`;
    case 'no-number':
      return say`“${fault.text}” is not a number.`;
    case 'no-day':
      return say`“${fault.text}” is not a day.`;
    case 'no-measure':
      return fault.unit === null
        ? say`“${fault.text}” is not a measure.`
        : say`“${fault.text}” cannot be given in “${fault.unit}”.`;
    case 'out-of-range':
      return say`${fault.function}${/^[a-z]/.test(fault.function) ? '( )' : ''} cannot take ${fault.value}.`;
    case 'result-too-long':
      return say`The result would have more than ${digits(fault.most)} characters.`;
  }
}
