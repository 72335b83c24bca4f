// What the clock did, in words, with the place where it is seen.
import type { ClockWork } from '@basileus/contract';
import { plural, say } from '../ui/text';

export interface ClockLine {
  key: string;
  title: string;
  detail: string;
  /** Something of it needs a person. */
  isBad: boolean;
  link: string;
}

const words = (...parts: (string | false)[]): string => parts.filter((p) => p !== false).join(' ');
const times = (n: number): string => plural(n, 'time', 'times');

/** One thing that the clock did, however often. */
export function wordClockWork(w: ClockWork): ClockLine {
  switch (w.kind) {
    case 'sent':
      return {
        key: `sent ${w.market}`,
        title: say`${plural(w.rows, 'row', 'rows')} sent to ${w.name}`,
        detail: words(
          say`In ${plural(w.times, 'dispatch', 'dispatches')}.`,
          w.accepted > 0 && say`${plural(w.accepted, 'line', 'lines')} taken so far.`,
          w.refused > 0 && say`${plural(w.refused, 'line', 'lines')} refused.`,
        ),
        isBad: w.refused > 0,
        link: `/${w.market}/settle`,
      };
    case 'brought':
      return {
        key: `brought ${w.source}`,
        title:
          w.items === 0
            ? say`Nothing new from ${w.name}`
            : say`${plural(w.items, 'item', 'items')} brought in from ${w.name}`,
        detail: words(
          say`Asked ${times(w.times)}.`,
          w.held > 0 && say`Held for a look ${times(w.held)}.`,
          w.failed > 0 && say`Failed ${times(w.failed)}.`,
        ),
        isBad: w.failed + w.held > 0,
        link: `/all/gather/sources?source=${w.source}`,
      };
    case 'recipe':
      return {
        key: `recipe ${w.changeSet}`,
        title: say`${plural(w.items, 'item', 'items')} changed by “${w.name}”`,
        detail: say`Done ${times(w.times)}.`,
        isBad: false,
        link: `/all/history?set=${w.changeSet}`,
      };
    case 'import':
      return {
        key: `import ${w.import}`,
        title: say`${plural(w.rows, 'row', 'rows')} of ${w.name} written`,
        detail: w.refused > 0 ? say`${plural(w.refused, 'row', 'rows')} refused.` : '',
        isBad: w.refused > 0,
        link: `/all/gather/imports/${w.import}`,
      };
    case 'file':
      return {
        key: `file ${w.name}`,
        title: say`File of “${w.name}” taken out`,
        detail: say`Made ${times(w.times)}.`,
        isBad: false,
        link: '/all/gather/exports',
      };
  }
}
