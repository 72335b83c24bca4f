// What the interface needs to know of a cause beside what the server says.
import { type CauseKey, explainCause, wordCause, wordFinding, type Wording } from '@basileus/core/checks';
import type { Cause } from '@basileus/contract';

export const keyOf = (c: CauseKey): string => `${c.check}.${c.message}.${c.field}`;

/** A cause with its words. */
export interface WordedCause extends Cause {
  title: string;
  why: string;
  source: string;
  /** The sentence of one of its findings. */
  says: string;
}

export const toWorded = (cause: Cause, wording: Wording): WordedCause => ({
  ...cause,
  title: wordCause(cause, wording),
  ...explainCause(cause),
  says: wordFinding({ ...cause, ...cause.example, remedies: [] }, wording),
});

/** Causes whose title holds the text, or of whose listings the server found some. */
export const isFoundBy = (cause: WordedCause, text: string): boolean =>
  text.trim() === '' || cause.found > 0 || cause.title.toLowerCase().includes(text.trim().toLowerCase());
