// What is wrong with a row of a file, as facts; what is said of it is made where it is shown.
import { digits, plural, say, wordFor } from '../text';
import { ownCurrency, type FieldBook, type ValueFault, wordCellFault } from '../product';
import { sheetBounds } from './bounds';
import { type Damage, wordDamage } from './damage';
import { type Delimiter, delimiterNames } from './delimited';
import { type Harm, wordHarm } from './harm';

/**
 * What kind of thing is wrong: `damage` by a spreadsheet, a value that is not `readable` or `not-held` by a field, a row
 * that `swallowed` others or whose cells were `pushed` along, a mode or SKU that does not `fit`, something `left` out, a value that
 * somebody `changed` here too since the file went out.
 */
export const problemKinds = [
  'damage',
  'not-read',
  'not-held',
  'too-long',
  'unreadable',
  'swallowed',
  'pushed',
  'does-not-fit',
  'left-out',
  'changed-too',
] as const;
export type ProblemKind = (typeof problemKinds)[number];

export type ProblemFact =
  | { is: 'foreign-currency'; sign: string; currency?: string }
  /** The first stands in plans made by an earlier version; such a number is read now. */
  | { is: 'other-decimal-sign' | 'not-a-number'; decimalSign: '.' | ',' }
  /** Not so many measures as the column's cells hold. */
  | { is: 'not-measures'; count: number }
  | { is: 'under-zero' | 'not-whole' | 'not-yes-or-no' | 'not-a-day' | 'not-a-barcode' }
  /** An amount with more places than are kept. */
  | { is: 'kept-as'; amount: string }
  /** `held` is the number of ours that a rounded one was found to be. */
  | { is: 'damaged'; damage: Damage; held?: string }
  /** A cell that a spreadsheet changed, proven by what it `was` when it went out. */
  | { is: 'harmed'; harm: Harm; was: string }
  | { is: 'changed-here'; now: string }
  | { is: 'removed-here' }
  /** Of a field of a market: the item is not wanted there, has no leaf there, or its leaf does not ask for the field. */
  | { is: 'not-on-market' | 'no-leaf-there' | 'worked-out' }
  | { is: 'not-asked-there'; category: string }
  | { is: 'of-family' }
  | { is: 'wrong-check-digit'; proposal: string }
  | { is: 'fault'; fault: ValueFault }
  | { is: 'no-sku' | 'already-in-catalog' | 'no-title' }
  /** `twin` is the SKU that was probably meant. */
  | { is: 'not-in-catalog'; twin?: string }
  /** `isInFile` where it is the SKU of a row before, and not of the catalog. */
  | { is: 'mistyped-sku'; twin: string; isInFile?: true }
  /** No item has the barcode or part number that the row is known by; or these have it. */
  | { is: 'not-known'; skus: readonly string[] }
  /** A new item with the barcode of one that is there. */
  | { is: 'barcode-of'; sku: string }
  /** A SKU that is read as one of the catalog, since a person has said so. */
  | { is: 'read-as'; sku: string }
  | { is: 'sku-again'; row: number }
  | { is: 'family-stays'; family: string | null }
  | { is: 'title-stays'; title: string }
  | { is: 'stock-follows' | 'of-variants' }
  | { is: 'swallowed'; column: string; rows: number }
  | { is: 'pushed'; cells: number; width: number; delimiter: Delimiter }
  /** Cells stand some columns to the side of where they went out; all of them, so that nothing else was done to the row. */
  | { is: 'shifted'; by: number; cells: number; isAll: boolean }
  | { is: 'cell-too-long'; column: string; length: number }
  /** What stands around the place. */
  | { is: 'no-letters' | 'zero-character'; column: string; around: string }
  /** Worded by an earlier version. */
  | { is: 'said'; says: string };

export interface Problem {
  field: string;
  value: string;
  kind: ProblemKind;
  fact: ProblemFact;
  level: 'blocker' | 'caution';
  mended?: string;
}

/** The sentence of a problem: names the field, the value and the remedy. `nameRow` says where another row of the file stands. */
export function wordProblem(
  { field, value, fact }: Pick<Problem, 'field' | 'value' | 'fact'>,
  { labelOf }: Pick<FieldBook, 'labelOf'>,
  nameRow: (row: number) => string = String,
): string {
  const label = labelOf(field);
  const cell = `${label} “${value}”`;
  const leftOut = say`${cell} is left out:`;
  switch (fact.is) {
    case 'foreign-currency':
      return say`${cell} is in another currency (${fact.sign}); this field is in ${fact.currency ?? ownCurrency.code}. Convert it, or write the amount alone if it is in ${fact.currency ?? ownCurrency.code} already.`;
    case 'other-decimal-sign':
      return say`${cell} is written with the other decimal sign; this file is read with “${fact.decimalSign}”.`;
    case 'not-a-number':
      return say`${cell} is not a number; write it as ${fact.decimalSign === ',' ? '12,50' : '12.50'}.`;
    case 'under-zero':
      return say`${cell} is under zero; give zero or more.`;
    case 'kept-as':
      return say`${cell} is kept as ${fact.amount}.`;
    case 'not-whole':
      return say`${cell} is not a whole number; write digits only, such as 12.`;
    case 'not-yes-or-no':
      return say`${cell} is neither yes nor no.`;
    case 'not-measures':
      return say`${cell} is not ${plural(fact.count, 'measure', 'measures')}, such as 30 x 20 x 10 cm.`;
    case 'not-a-day':
      return say`${cell} is not a day; write it as 2026-11-27 or 27/11/2026.`;
    case 'damaged':
      return (
        wordDamage(fact.damage, label) +
        (fact.held === undefined ? '' : say` ${fact.held} is what we hold for this SKU.`)
      );
    case 'harmed':
      return say`${label} “${fact.was}” ${wordHarm(fact.harm)} (“${value}”); it stays as it is.`;
    case 'changed-here':
      return say`${cell}: somebody made it “${fact.now}” here since the file went out. You decide which counts when the rest is written.`;
    case 'not-on-market':
      return say`${leftOut} the item is not wanted on this market. Say in the catalog under Markets … that it is, and drop the file again.`;
    case 'worked-out':
      return say`${leftOut} it is worked out of price, cost and fees, and follows when one of these is changed.`;
    case 'no-leaf-there':
      return say`${leftOut} the item has no category on this market yet. Choose one under Prepare, and drop the file again.`;
    case 'not-asked-there':
      return say`${leftOut} it is not asked of “${fact.category}”, and the market would refuse it.`;
    case 'of-family':
      return say`${leftOut} it stands in the row of the family, for all of its variants.`;
    case 'removed-here':
      return say`SKU ${value} was removed here since the file went out; the row is left out.`;
    case 'wrong-check-digit':
      return say`${label} ${value} has a wrong check digit; ${fact.proposal} would be right.`;
    case 'not-a-barcode':
      return say`${cell} is not a barcode number.`;
    case 'fault':
      return wordCellFault(fact.fault, label, value);
    case 'no-sku':
      return say`The row has no SKU.`;
    case 'shifted': {
      const columns = plural(Math.abs(fact.by), 'column', 'columns'),
        where = fact.by > 0 ? say`${columns} to the right` : say`${columns} to the left`;
      const moved = say`${plural(fact.cells, 'cell', 'cells')} of this row, from ${label} on, ${wordFor(fact.cells, 'stands', 'stand')} ${where} of where they went out`;
      return fact.isAll
        ? say`${moved}, and nothing else was changed; the row stays as it is.`
        : say`${moved}. Put them back under their headings and drop the file again.`;
    }
    case 'sku-again':
      return say`SKU ${value} already stands in row ${nameRow(fact.row)}; keep one of them.`;
    case 'not-in-catalog':
      return say`SKU ${value} is not in the catalog, and this import only updates.${fact.twin === undefined ? '' : say` ${fact.twin} is.`}`;
    case 'not-known':
      return fact.skus.length > 0
        ? say`${cell} is that of several items, ${fact.skus.slice(0, 3).join(', ')}; give each its own, or bring this row with its SKU.`
        : value === ''
          ? say`The row has no ${label}, by which the rows of this file are known.`
          : say`No item of the catalog has ${cell}; a new one needs a SKU of its own.`;
    case 'barcode-of':
      return say`${cell} is that of ${fact.sku}; as a new item it would be there twice.`;
    case 'read-as':
      return say`SKU ${value} is read as ${fact.sku}.`;
    case 'mistyped-sku':
      return say`SKU ${value} would be new, and differs from ${fact.twin} only in capitals or marks. Write it as ${fact.twin}, or give the new item a SKU of its own.`;
    case 'already-in-catalog':
      return say`SKU ${value} is already in the catalog, and this import only creates.`;
    case 'no-title':
      return say`SKU ${value} is new and has no title; a new item needs at least a SKU and a title.`;
    case 'family-stays':
      return say`${leftOut} an item that is there keeps its family, ${fact.family ?? 'none'}.`;
    case 'title-stays':
      return say`The blank title is left out: an item keeps its title, “${fact.title}”.`;
    case 'stock-follows':
      return say`${leftOut} it follows from that of other items.`;
    case 'of-variants':
      return say`${leftOut} it belongs to the variants of this family.`;
    case 'swallowed':
      return say`${fact.column}: a quotation mark opens this cell and is closed only after ${plural(fact.rows, 'more row', 'more rows')}, which stand inside the cell instead of under it. Close the mark, or write it twice where it is part of the text.`;
    case 'pushed':
      return say`The row has ${fact.cells} cells where the table has ${fact.width}; a ${delimiterNames[fact.delimiter]} in a text without quotation marks has probably pushed the others along. Put that text between quotation marks.`;
    case 'cell-too-long':
      return say`${fact.column} has ${plural(fact.length, 'character', 'characters')}; a cell holds ${digits(sheetBounds.cellCharacters)} at most. Shorten it.`;
    case 'no-letters':
      return say`${fact.column} “${fact.around}” holds bytes that are no letters in the encoding that this file is read in. Choose another encoding, or save the file as UTF-8.`;
    case 'zero-character':
      return say`${fact.column} “${fact.around.replaceAll('\0', '□')}” holds a zero character, which no text may have. Take it out.`;
    case 'said':
      return fact.says;
  }
}
