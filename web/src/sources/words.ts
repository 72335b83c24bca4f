// What a run of a business system has come to, in words.
import type { SourceRun } from '@basileus/contract';
import { count, plural, say } from '../ui/text';

const states: Readonly<Record<SourceRun['state'], string>> = {
  fetching: say`rows are being fetched`,
  forming: say`rows are being formed`,
  planning: say`being compared with the catalog`,
  planned: say`waits for your decision`,
  held: say`waits for a look: more would change than is usual`,
  writing: say`being written`,
  done: say`done`,
  failed: say`failed`,
};
export const isBusy = ({ state }: SourceRun): boolean =>
  state === 'fetching' || state === 'forming' || state === 'planning' || state === 'writing';

/** A run in one line: how it stands, and what came of its rows. */
export function wordRun(r: SourceRun): string {
  if (r.state === 'failed') return r.fault ?? say`It failed.`;
  const what = [
    r.rows > 0 && plural(r.rows, 'row', 'rows'),
    r.leftOut > 0 && say`${count(r.leftOut)} left out`,
    r.noSku > 0 && say`${count(r.noSku)} without a SKU`,
    r.faults > 0 && say`${count(r.faults)} that cannot be worked out`,
    r.clashes > 0 && say`${count(r.clashes)} that would be one SKU`,
    r.created > 0 && say`${count(r.created)} new`,
    r.updated > 0 && say`${count(r.updated)} changed`,
    r.refused > 0 && say`${count(r.refused)} refused`,
    r.state === 'done' && r.import === null && r.formed > 0 && say`nothing new`,
  ].filter((t) => t !== false);
  return [states[r.state], what.join(', ')].filter(Boolean).join(': ');
}
