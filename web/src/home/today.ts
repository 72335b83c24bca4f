// What needs a person today, in words, with the place where it is done.
import type { Today } from '@basileus/contract';
import { wordCause } from '@basileus/core/checks';
import type { Wording } from '@basileus/core/checks';
import { count, plural, say, wordFor } from '../ui/text';
import { operationNames } from '../ui/terms';
import { wordSurprise } from '../send/words';

export interface TodayLine {
  title: string;
  detail: string;
  tone: 'bad' | 'warn' | 'note' | 'good';
  link: string;
}

/** What is said of several markets alike is gathered into one line, which leads to each. */
const gathered = ['turned-back', 'held', 'drift', 'category', 'send'] as const;
type Gathered = (typeof gathered)[number];
const isGathered = (kind: Today['kind']): kind is Gathered => (gathered as readonly string[]).includes(kind);

/** Lines of a kind that several markets have, in the order of `markets` and the place of the first of them; others each for itself. */
export function gatherToday(today: readonly Today[], markets: readonly string[]): Today[][] {
  const lines: Today[][] = [];
  for (const t of today) {
    const line = isGathered(t.kind) ? lines.find(([first]) => first!.kind === t.kind) : undefined;
    if (line) line.push(t);
    else lines.push([t]);
  }
  const placeOf = (t: Today): number => markets.indexOf(t.market ?? '');
  return lines.map((line) => line.toSorted((a, b) => placeOf(a) - placeOf(b)));
}

const titles: Readonly<Record<Gathered, { title: (n: number) => string; detail: string; tone: TodayLine['tone'] }>> = {
  'turned-back': {
    title: (n) => say`${wordFor(n, 'entry', 'entries')} turned back after review`,
    detail: say`Read why and mend.`,
    tone: 'bad',
  },
  held: {
    title: (n) => say`${wordFor(n, 'price', 'prices')} held for a look`,
    detail: say`A price that moves further than usual waits: let it go, or correct it.`,
    tone: 'warn',
  },
  drift: {
    title: (n) => say`${wordFor(n, 'entry', 'entries')} shown otherwise than sent`,
    detail: say`Another price there, or more stock than it was told: send yours again, or take theirs.`,
    tone: 'warn',
  },
  category: {
    title: (n) => say`${wordFor(n, 'item', 'items')} without a category`,
    detail: say`Choose one for each own category; later items follow by themselves.`,
    tone: 'warn',
  },
  send: {
    title: (n) => say`${wordFor(n, 'row', 'rows')} ready to go`,
    detail: say`All at once, or market by market.`,
    tone: 'good',
  },
};

/** The one line of what several markets have alike, without the places that it leads to. */
export function wordGathered(line: readonly Today[]): Omit<TodayLine, 'link'> & { count: number } {
  const [first] = line;
  if (!first || !isGathered(first.kind)) throw new Error('Nothing is gathered here.');
  const count = line.reduce((n, t) => n + t.count, 0),
    { title, ...rest } = titles[first.kind];
  return { ...rest, count, title: title(count) };
}

/** The number of a thing stands before it; the title names it without. */
export function wordToday(t: Today, nameOf: (market: string) => string, wording: Wording): TodayLine {
  const n = t.count;
  switch (t.kind) {
    case 'failed':
      return {
        title: say`${wordFor(n, 'row', 'rows')} of a dispatch to ${nameOf(t.market)} that failed`,
        detail: t.fault,
        tone: 'bad',
        link: `/${t.market}/settle/${t.dispatch}`,
      };
    case 'refused':
      return {
        title: say`${wordFor(n, 'line', 'lines')} refused by ${nameOf(t.market)}`,
        detail: say`Mend them where they stand and send them again.`,
        tone: 'bad',
        link: `/${t.market}/settle/${t.dispatch}?show=refused`,
      };
    case 'mended':
      return {
        title: say`mended ${wordFor(n, 'line', 'lines')} to go to ${nameOf(t.market)} again`,
        detail: say`Send the mended lines alone.`,
        tone: 'warn',
        link: `/${t.market}/settle/${t.dispatch}?show=refused`,
      };
    case 'turned-back':
      return {
        title: say`${wordFor(n, 'entry', 'entries')} turned back by ${nameOf(t.market)} after review`,
        detail: say`Read why and mend.`,
        tone: 'bad',
        link: `/${t.market}/settle?state=refused`,
      };
    case 'unsent':
      return {
        title:
          t.fault === null
            ? say`${wordFor(n, 'row', 'rows')} not sent to ${nameOf(t.market)} by the clock`
            : say`${wordFor(n, 'sending', 'sendings')} by the clock to ${nameOf(t.market)} that failed`,
        detail: t.fault ?? t.surprises.map(wordSurprise).join(' '),
        tone: 'bad',
        link: `/${t.market}/send${t.surprises[0] ? `?operation=${t.surprises[0].operation}` : ''}`,
      };
    case 'drift':
      return {
        title: say`${wordFor(n, 'entry', 'entries')} shown otherwise on ${nameOf(t.market)} than it was sent`,
        detail: say`Another price there, or more stock than it was told: send yours again, or take theirs.`,
        tone: 'warn',
        link: `/${t.market}/settle?state=drift`,
      };
    case 'held':
      return {
        title: say`${wordFor(n, 'price', 'prices')} held for a look on ${nameOf(t.market)}`,
        detail: say`A price that moves further than usual waits: let it go, or correct it.`,
        tone: 'warn',
        link: `/${t.market}/send?operation=price&held=yes`,
      };
    case 'blocker':
      return {
        title: say`${wordFor(n, 'listing', 'listings')} blocked: ${wordCause(t.cause, wording)}`,
        detail: say`On ${nameOf(t.market)}; one mend may settle all of them.`,
        tone: 'warn',
        link: `/${t.market}/check?cause=${t.cause.check}.${t.cause.message}.${t.cause.field}`,
      };
    case 'category':
      return {
        title: say`${wordFor(n, 'item', 'items')} without a category on ${nameOf(t.market)}`,
        detail: say`Choose one for each own category; later items follow by themselves.`,
        tone: 'warn',
        link: `/${t.market}/prepare?view=categories`,
      };
    case 'import':
      return {
        title: say`import waits for your decision: “${t.name}”`,
        detail: t.refuse
          ? say`${plural(t.refuse, 'row', 'rows')} of it would be refused.`
          : say`Nothing of it has been written yet.`,
        tone: 'note',
        link: `/all/gather/imports/${t.import}`,
      };
    case 'send':
      return {
        title: say`${wordFor(n, 'row', 'rows')} ready to go to ${nameOf(t.market)}`,
        detail: t.operations.map((o) => `${count(o.count)} ${operationNames[o.operation]}`).join(', '),
        tone: 'good',
        link: `/${t.market}/send`,
      };
    case 'job':
      return { title: say`job failed: ${t.name}`, detail: t.fault, tone: 'bad', link: t.link };
  }
}
