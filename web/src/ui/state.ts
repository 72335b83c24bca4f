// How a state of a listing looks wherever it stands: its colour and the mark that is cut out of its seal.
import type { ListingState } from '@basileus/core/rulebook';

export interface StateLook {
  /** Name of the colour in the theme. */
  colour: string;
  /** Text class of the same colour. */
  tone: string;
  mark: string;
}

export const stateLooks: Readonly<Record<ListingState, StateLook>> = {
  live: { colour: '--color-success', tone: 'text-success', mark: 'M7 12.5l3.5 3.5L17 8.5' },
  'in review': { colour: '--color-info', tone: 'text-info', mark: 'M8 9h8M8 15h8' },
  sent: { colour: '--color-sent', tone: 'text-sent', mark: 'M7 15l5-6 5 6' },
  ready: { colour: '--color-secondary', tone: 'text-secondary', mark: 'M12 6v12M6 12h12' },
  blocked: { colour: '--color-error', tone: 'text-error', mark: 'M7 7l10 10' },
  refused: { colour: '--color-refused', tone: 'text-refused', mark: 'M8 8l8 8M16 8l-8 8' },
  draft: { colour: '--color-neutral', tone: 'text-neutral', mark: 'M6 12h12' },
  withdrawn: { colour: '--color-withdrawn', tone: 'text-withdrawn', mark: 'M12 7v10M8 13l4 4 4-4' },
  'left out': { colour: '--color-left-out', tone: 'text-left-out', mark: 'M6.5 12h1.5M11.2 12h1.6M16 12h1.5' },
};
/** In the order in which charts show them: what is settled first. */
export const states = Object.keys(stateLooks) as ListingState[];
