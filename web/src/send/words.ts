import type { HeldReason } from '@basileus/contract';
import type { Operation } from '@basileus/core/rulebook';
import { count, plural, say, wordFor, forms } from '../ui/text';

export interface Going {
  operation: Operation;
  rows: number;
  /** Null where it is several, and how many is not known before. */
  files: number | null;
}

/** What an operation sends, as people call it. */
export const operationTitles: Readonly<Record<Operation, string>> = {
  create: say`New entries`,
  offer: say`Offers on entries there`,
  revise: say`Changed details`,
  replace: say`Whole entries`,
  price: say`Changed prices`,
  stock: say`Changed stock`,
  withdraw: say`To be taken down`,
  restore: say`To be put back`,
};

const nouns: Record<Operation, [string, string]> = {
  create: forms('new entry', 'new entries'),
  offer: forms('offer on an entry there', 'offers on entries there'),
  revise: forms('change of details', 'changes of details'),
  replace: forms('whole entry', 'whole entries'),
  price: forms('price', 'prices'),
  stock: forms('stock', 'stocks'),
  withdraw: forms('withdrawal', 'withdrawals'),
  restore: forms('entry to be put back', 'entries to be put back'),
};

/** What the rows of an operation are, without their number: “new entries”. */
export const nameRows = (operation: Operation, rows: number): string => wordFor(rows, ...nouns[operation]);

/** One sentence of what goes where. */
export function wordGoing(going: readonly Going[], market: string): string {
  const files = going.some((g) => g.files === null) ? null : going.reduce((n, g) => n + (g.files ?? 0), 0);
  const what = going.map((g) => plural(g.rows, ...nouns[g.operation])).join(say` and `);
  const rows = going.reduce((n, g) => n + g.rows, 0),
    goes = wordFor(rows, 'goes', 'go');
  return say`${what} ${goes} to ${market}${files === null ? say`, in several files` : files > 1 ? say`, in ${count(files)} files` : ''}.`;
}

const heldWords: Record<HeldReason, [string, string]> = {
  blocked: forms('has a blocker', 'have a blocker'),
  refused: forms('was refused and is not mended', 'were refused and are not mended'),
  family: forms('waits for its family row, which cannot go yet', 'wait for their family row, which cannot go yet'),
  member: forms(
    'waits with its family, which goes whole and holds a row that cannot go yet',
    'wait with their families, which go whole and hold a row that cannot go yet',
  ),
  timed: forms('waits for the time that was set', 'wait for the time that was set'),
  'price-moved': forms('moved far in price and waits for a look', 'moved far in price and wait for a look'),
  stale: forms('is being checked anew', 'are being checked anew'),
};

/** Why so many rows are held back. */
export const wordHeld = (reason: HeldReason, rows: number): string =>
  `${count(rows)} ${wordFor(rows, ...heldWords[reason])}`;

/** Why this row is held back. */
export const wordHeldRow = (reason: HeldReason): string => say`It ${wordFor(1, ...heldWords[reason])}.`;

const surprises = {
  'stock-gone': say`fall to no stock at all`,
  'stock-falls': say`lose more than half of their stock`,
  'prices-move': say`change their price`,
};

/** What a person should look at before it goes. */
export const wordSurprise = (s: { kind: keyof typeof surprises; rows: number; live: number }): string =>
  say`${count(s.rows)} of ${count(s.live)} live entries ${surprises[s.kind]} at once.`;
