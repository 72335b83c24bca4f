// From a finding to its sentence. Findings are facts; what is said of them is made here, at the edge, from the messages of
// the check or from those of the language that is spoken, where it has them by `check/message`.
import { plural, sayWord, tongueNow } from '../text';
import type { Message } from './define-check';
import type { Finding, Param } from './finding';
import { getCheck } from './registry';

/** What wording needs to know of the world outside a finding. */
export interface Wording {
  market: string;
  labelOf: (field: string) => string;
  /** What people call a value of a field, where codes are kept. */
  wordOf?: ((field: string, value: string) => string) | undefined;
}

const longestValue = 80;
const shorten = (text: string): string => (text.length > longestValue ? text.slice(0, longestValue - 3) + '…' : text);

type Worded = Pick<Message, 'says' | 'title'> & { why?: string | undefined };

const findMessage = (finding: { check: string; message: string }): Worded | undefined =>
  tongueNow()?.findings[`${finding.check}/${finding.message}`] ?? getCheck(finding.check)?.messages[finding.message];

/** Several words as one: “a”, “a or b”, “a, b or c”. */
export function joinWords(words: readonly string[], last: string): string {
  if (words.length < 2) return words[0] ?? '';
  return `${words.slice(0, -1).join(', ')} ${last} ${words.at(-1)!}`;
}

const placeholder = /\{\{(\w+)(?::(\w+))?(?:\|([^|}]*)\|([^}]*))?\}\}/g;

function put(template: string, facts: Readonly<Record<string, Param>>): string {
  return template.replace(placeholder, (whole, name: string, how?: string, one?: string, many?: string) => {
    const fact = facts[name];
    if (fact === undefined) return whole;
    if (one !== undefined && many !== undefined) return plural(Number(fact), one, many);
    if (typeof fact !== 'object') return String(fact);
    return how === 'list' ? fact.join(', ') : joinWords(fact, sayWord(how ?? 'or'));
  });
}

/** The sentence of a finding: names the field, the value and the remedy. */
export function wordFinding(finding: Finding, wording: Wording): string {
  const message = findMessage(finding);
  // A check that is no more: its findings are taken away by the next look at the listing.
  if (!message) return `${wording.labelOf(finding.field)}: ${finding.check}, ${finding.message}.`;
  const say = (value: string): string => wording.wordOf?.(finding.field, value) ?? value;
  const { shared } = finding.params;
  const facts = {
    ...finding.params,
    ...(typeof shared === 'string' ? { shared: say(shared) } : {}),
    market: wording.market,
    field: wording.labelOf(finding.field),
    value: shorten(say(finding.value)),
  };
  return put(message.says, facts);
}

/** What findings of one check, message and field have in common. */
export interface CauseKey {
  check: string;
  message: string;
  field: string;
}

/** A title for a cause, true of all its rows. */
export function wordCause(cause: CauseKey, wording: Wording): string {
  const message = findMessage(cause);
  if (!message) return `${wording.labelOf(cause.field)}: ${cause.check}, ${cause.message}`;
  return put(message.title, { market: wording.market, field: wording.labelOf(cause.field) });
}

/** Why a cause matters, and where the rule comes from. */
export function explainCause(cause: CauseKey): { why: string; source: string } {
  const docs = getCheck(cause.check)?.docs;
  return { why: findMessage(cause)?.why ?? sayWord(docs?.why ?? ''), source: docs?.source ?? '' };
}
