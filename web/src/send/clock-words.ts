// What goes by the clock, in words.
import type { SendingOutcome, SendingShape } from '@basileus/contract';
import { wordSchedule } from '@basileus/core/change';
import { isFirst, type Operation } from '@basileus/core/rulebook';
import { localeNow } from '@basileus/core/text';
import { count, plural, say, when } from '../ui/text';
import { nameRows, wordSurprise } from './words';

/** What a sending holds: “Stocks, prices”, or “42 new entries” where it was set for rows. */
export function wordSending(s: Pick<SendingShape, 'operations' | 'schedule' | 'rows'>): string {
  // What is new goes as an offer where the market has it already: to people it is one thing.
  const named = s.operations.filter((o) => o !== 'offer' || !s.operations.includes('create'));
  if (s.schedule === null) return `${count(s.rows)} ${named.map((o) => nameRows(o, s.rows)).join(say` and `)}`;
  const said = named.map((o) => nameRows(o, 2)).join(', ');
  return said.charAt(0).toLocaleUpperCase(localeNow()) + said.slice(1);
}

/** When it goes: “every 15 minutes, next 14:45”. */
export function wordTimes(s: Pick<SendingShape, 'schedule' | 'at'>): string {
  if (s.at === null) return say`over`;
  return s.schedule === null ? when(s.at) : say`${wordSchedule(s.schedule)}, next ${when(s.at)}`;
}

/** How it went the last time, in one line. */
export function wordOutcome(last: SendingOutcome): string {
  if (last.isPaused) return say`the market was paused`;
  if (last.fault !== null) return last.fault;
  const said = [
    ...(last.rows > 0 ? [say`${plural(last.rows, 'row', 'rows')} went`] : []),
    ...(last.surprises.length > 0 ? [say`some waits for a look`] : []),
    ...(last.busy > 0 ? [say`${plural(last.busy, 'row was', 'rows were')} on the way or being checked`] : []),
  ];
  return said.length > 0 ? said.join(', ') : say`nothing was to go`;
}

/** True where the last time did not go as it was meant, so that a person should know. */
export const wantsLook = (last: SendingOutcome | null): boolean =>
  last !== null && (last.surprises.length > 0 || last.fault !== null || last.isPaused);

/** Each thing that stayed, in a sentence. */
export const wordStayed = (last: SendingOutcome): string[] => last.surprises.map(wordSurprise);

/** Operations that people choose from for the clock: those that the market takes, offers among what is new. */
export const listChoices = (taken: readonly Operation[]): Operation[] =>
  taken.filter((o) => o !== 'withdraw' && !(o === 'offer' && taken.includes('create')));

/** The operations that choosing this one means. */
export const meantBy = (operation: Operation, taken: readonly Operation[]): Operation[] =>
  isFirst(operation) ? taken.filter(isFirst) : [operation];
