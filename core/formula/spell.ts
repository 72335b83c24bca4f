import type { Formula } from './compile';

/**
 * The text of a formula with its fields under other names: kept by their keys it outlives a field that is called
 * something else, shown by their labels people can read it.
 */
export function spellFields(text: string, { named }: Formula, nameOf: (key: string) => string): string {
  let spelled = '',
    at = 0;
  for (const { from, to, key } of named) {
    spelled += `${text.slice(at, from)}[${nameOf(key).replaceAll(']', ']]')}]`;
    at = to;
  }
  return spelled + text.slice(at);
}
