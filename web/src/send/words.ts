import type { HeldReason } from '@basileus/contract';
import type { Operation } from '@basileus/core/rulebook';
import { count, plural } from '../ui/text';

export interface Going {
  operation: Operation;
  rows: number;
  /** Null where it is several, and how many is not known before. */
  files: number | null;
}

const nouns: Record<Operation, [string, string]> = {
  create: ['new entry', 'new entries'],
  offer: ['offer on an entry there', 'offers on entries there'],
  revise: ['change of details', 'changes of details'],
  replace: ['whole entry', 'whole entries'],
  price: ['price', 'prices'],
  stock: ['stock', 'stocks'],
  withdraw: ['withdrawal', 'withdrawals'],
  restore: ['entry to be put back', 'entries to be put back'],
};

/** What the rows of an operation are, without their number: “new entries”. */
export const nameRows = (operation: Operation, rows: number): string => nouns[operation][rows === 1 ? 0 : 1];

/** One sentence of what goes where. */
export function wordGoing(going: readonly Going[], market: string): string {
  const files = going.some((g) => g.files === null) ? null : going.reduce((n, g) => n + (g.files ?? 0), 0);
  const what = going.map((g) => plural(g.rows, ...nouns[g.operation])).join(' and ');
  const goes = going.length === 1 && going[0]!.rows === 1 ? 'goes' : 'go';
  return `${what} ${goes} to ${market}${files === null ? ', in several files' : files > 1 ? `, in ${count(files)} files` : ''}.`;
}

const heldWords: Record<HeldReason, [string, string]> = {
  blocked: ['has a blocker', 'have a blocker'],
  refused: ['was refused and is not mended', 'were refused and are not mended'],
  family: ['waits for its family row, which cannot go yet', 'wait for their family row, which cannot go yet'],
  member: [
    'waits with its family, which goes whole and holds a row that cannot go yet',
    'wait with their families, which go whole and hold a row that cannot go yet',
  ],
  'price-moved': ['moved far in price and waits for a look', 'moved far in price and wait for a look'],
  stale: ['is being checked anew', 'are being checked anew'],
};

/** Why so many rows are held back. */
export const wordHeld = (reason: HeldReason, rows: number): string =>
  `${count(rows)} ${heldWords[reason][rows === 1 ? 0 : 1]}`;

/** Why this row is held back. */
export const wordHeldRow = (reason: HeldReason): string => `It ${heldWords[reason][0]}.`;

const surprises = {
  'stock-gone': 'fall to no stock at all',
  'stock-falls': 'lose more than half of their stock',
  'prices-move': 'change their price',
};

/** What a person should look at before it goes. */
export const wordSurprise = (s: { kind: keyof typeof surprises; rows: number; live: number }): string =>
  `${count(s.rows)} of ${count(s.live)} live entries ${surprises[s.kind]} at once.`;
