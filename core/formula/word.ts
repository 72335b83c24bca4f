// What is wrong with a formula, in words: what stands there, what was expected, and the remedy.
import type { FormulaProblem, RowFault } from './fault';
import type { FormulaType } from './types';

const types: Readonly<Record<FormulaType, string>> = {
  number: 'a number',
  text: 'a text',
  'yes-no': 'yes or no',
  date: 'a day',
  measure: 'a measure',
  list: 'a list',
  nothing: 'nothing',
};
const either = (wanted: readonly FormulaType[]): string => {
  const words = wanted.map((t) => types[t]);
  return words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} or ${words.at(-1)!}`;
};

/** How to make one type of another, where there is a way. */
function wordRemedy(wanted: readonly FormulaType[], found: FormulaType): string {
  if (wanted.includes('number') && found === 'text') return ' value( ) reads a number from a text.';
  if (wanted.includes('number') && found === 'measure') return ' amount( ) gives the number of a measure.';
  if (wanted.includes('number') && found === 'list') return ' count( ) gives how many entries it has.';
  if (wanted.includes('text') && found === 'list') return ' textjoin( ) makes one text of its entries.';
  if (wanted.includes('date') && found === 'text') return ' day( ) reads a day from a text.';
  return '';
}

const unclosed = {
  text: 'A text is not closed; end it with ".',
  field: 'The name of a field is not closed; end it with ].',
  bracket: 'A bracket is not closed; add ).',
} as const;

function wordArguments({ function: name, given, least, most }: Extract<FormulaProblem, { is: 'arguments' }>): string {
  const wanted = most === null ? `${least} or more` : least === most ? String(least) : `${least} to ${most}`;
  return `${name}( ) takes ${most === 0 ? 'nothing' : wanted}; ${given} ${given === 1 ? 'is' : 'are'} given.`;
}

/** The sentence of what is wrong with a formula. */
export function wordFormulaProblem(p: FormulaProblem): string {
  switch (p.is) {
    case 'nothing':
      return 'Write a formula, such as [Price] * 1.1.';
    case 'too-long':
      return `A formula has at most ${p.most} characters; this one has ${p.length}.`;
    case 'too-deep':
      return `Brackets stand at most ${p.most} deep in each other; take some apart.`;
    case 'unclosed':
      return unclosed[p.what];
    case 'unexpected':
      return p.found === ';'
        ? 'What a function takes is divided by commas, not by “;”.'
        : p.found === '?'
          ? '“?” is no part of a formula; write if(condition, then, else).'
          : p.found === "'"
            ? 'A text stands between double quotes, as in "red".'
            : p.found === ')'
              ? 'This bracket closes none that was opened; take it out.'
              : `“${p.found}” cannot stand here; an operator such as + or & was expected, or the end.`;
    case 'value-missing':
      return `${p.after === '' ? 'Something' : `Something after “${p.after}”`} is missing: a field in square brackets, a number or a text in quotes.`;
    case 'comma-missing':
      return 'A comma is missing between what the function takes.';
    case 'of-the-day':
      return 'today( ) gives another day tomorrow, and what is filled here stays as it is; name a day, or a field that holds one.';
    case 'unknown-field':
      return `There is no field “${p.name}”${p.near === null ? '.' : `; “${p.near}” is nearest.`}`;
    case 'unknown-function':
      return `There is no function ${p.name}( )${p.near === null ? '.' : `; ${p.near}( ) is nearest.`}`;
    case 'unknown-word':
      return p.field === null
        ? `“${p.name}” is no word of a formula; a field stands in square brackets, a text in quotes.`
        : `“${p.name}” is no word of a formula; for the field write [${p.field}].`;
    case 'arguments':
      return wordArguments(p);
    case 'type':
      return `${/^[a-z]/.test(p.of) ? `${p.of}( )` : `“${p.of}”`} takes ${either(p.wanted)} here, and this is ${types[p.found]}.${wordRemedy(p.wanted, p.found)}`;
    case 'branches':
      return `One choice is ${types[p.one]} and the other ${types[p.other]}; give both as the same.`;
    case 'result':
      return `${p.field} takes ${either(p.wanted)}, and this formula gives ${types[p.found]}.${wordRemedy(p.wanted, p.found)}`;
  }
}

/** Why a formula gave nothing for one row. */
export function wordRowFault(fault: RowFault): string {
  switch (fault.kind) {
    case 'divided-by-zero':
      return 'Something is divided by zero in this row.';
    case 'no-number':
      return `“${fault.text}” is not a number.`;
    case 'no-day':
      return `“${fault.text}” is not a day.`;
    case 'no-measure':
      return fault.unit === null
        ? `“${fault.text}” is not a measure.`
        : `“${fault.text}” cannot be given in “${fault.unit}”.`;
    case 'out-of-range':
      return `${fault.function}${/^[a-z]/.test(fault.function) ? '( )' : ''} cannot take ${fault.value}.`;
    case 'result-too-long':
      return `The result would have more than ${fault.most.toLocaleString('en-GB')} characters.`;
  }
}
