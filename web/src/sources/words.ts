// What a run of a business system has come to, in words.
import type { SourceRun } from '@basileus/contract';
import { count, plural } from '../ui/text';

const states: Readonly<Record<SourceRun['state'], string>> = {
  fetching: 'rows are being fetched',
  forming: 'rows are being formed',
  planning: 'being compared with the catalog',
  planned: 'waits for your decision',
  held: 'waits for a look: more would change than is usual',
  writing: 'being written',
  done: 'done',
  failed: 'failed',
};
export const isBusy = ({ state }: SourceRun): boolean =>
  state === 'fetching' || state === 'forming' || state === 'planning' || state === 'writing';

/** A run in one line: how it stands, and what came of its rows. */
export function wordRun(r: SourceRun): string {
  if (r.state === 'failed') return r.fault ?? 'It failed.';
  const what = [
    r.rows > 0 && plural(r.rows, 'row', 'rows'),
    r.leftOut > 0 && `${count(r.leftOut)} left out`,
    r.noSku > 0 && `${count(r.noSku)} without a SKU`,
    r.faults > 0 && `${count(r.faults)} that cannot be worked out`,
    r.clashes > 0 && `${count(r.clashes)} that would be one SKU`,
    r.created > 0 && `${count(r.created)} new`,
    r.updated > 0 && `${count(r.updated)} changed`,
    r.refused > 0 && `${count(r.refused)} refused`,
    r.state === 'done' && r.import === null && r.formed > 0 && 'nothing new',
  ].filter((t) => t !== false);
  return [states[r.state], what.join(', ')].filter(Boolean).join(': ');
}
