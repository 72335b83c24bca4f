// What spreadsheets show in the place of a value whose formula failed.

/**
 * Errors in English and German, and Err:502 of others (ECMA-376 part 1, 18.17.3, names the English ones; the rest from memory).
 */
const failed =
  /^(?:#(?:REF!|N\/A|VALUE!|NAME\?|DIV\/0!|NUM!|NULL!|SPILL!|CALC!|GETTING_DATA|BEZUG!|NV|WERT!|ZAHL!|ÜBERLAUF!)|Err:5\d\d)$/i;

/** True where a text is the error of a formula; it is nobody's value. Nearly all are none, which is seen at the first letter. */
export const isFormulaError = (text: string): boolean =>
  (text.startsWith('#') || text.startsWith('Err:')) && failed.test(text);
