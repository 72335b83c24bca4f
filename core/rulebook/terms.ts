// The words a rulebook may use: operations, levels of demand, parts, types of attributes and states of listings.
/** `offer` joins an entry that the market has already, with terms of ours and nothing else. */
export const operations = ['create', 'offer', 'revise', 'replace', 'price', 'stock', 'withdraw', 'restore'] as const;
export const demandLevels = ['must', 'should', 'may', 'unused'] as const;
export const parts = ['details', 'price', 'stock', 'pictures'] as const;
export const attributeTypes = [
  'text',
  'long-text',
  'html',
  'integer',
  'decimal',
  'money',
  'yes-no',
  'one-of',
  'several-of',
  'date',
  'moment',
  'measure',
  'identifier',
  'links',
  'repeated-text',
] as const;
/** States that an entry may have on a market, or here before it is there. */
export const entryStates = ['draft', 'blocked', 'ready', 'sent', 'in review', 'live', 'refused', 'withdrawn'] as const;
/** All states of a listing; `left out` is what a person does not want on this market. */
export const listingStates = [...entryStates, 'left out'] as const;

export type Operation = (typeof operations)[number];
/** True for what puts an item on a market that did not have it from us. */
export const isFirst = (operation: Operation): boolean => operation === 'create' || operation === 'offer';
export type DemandLevel = (typeof demandLevels)[number];
export type Part = (typeof parts)[number];
export type AttributeType = (typeof attributeTypes)[number];
export type ListingState = (typeof listingStates)[number];
