// Bands of margins: how they are called, and what an item must be to stand in one.
import type { Clause } from '@basileus/core/choose';
import { marginEdges } from '@basileus/core/pricing';
import { say } from '../ui/text';

const percent = (band: number): string => String(marginEdges[band]! / 10);

/** Name of a band of margins, from losses up. */
export function nameMarginBand(band: number): string {
  if (band === 0) return say`at a loss`;
  if (band === marginEdges.length) return say`${percent(band - 1)} % and more`;
  return say`${percent(band - 1)} to ${percent(band)} %`;
}

/** What is true of items in a band of margins, by the field that holds the margin. */
export const toMarginClauses = (field: string, band: number): Clause[] => [
  ...(band > 0 ? [{ is: 'at-least' as const, field, value: percent(band - 1) }] : []),
  ...(band < marginEdges.length ? [{ is: 'under' as const, field, value: percent(band) }] : []),
];
