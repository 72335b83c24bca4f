import type { Rulebook, RulebookAttribute } from '@basileus/core/rulebook';
import type { Market } from '../markets';

export type Entries = Rulebook['codeLists'][string]['entries'];
export interface Listed {
  a: RulebookAttribute;
  entries: Entries;
}

/** Attributes of a market that have a list of values. */
export const listListed = (market: Market): Listed[] =>
  market.rulebook.attributes.flatMap((a) => {
    const entries = a.codes === undefined ? undefined : market.rulebook.codeLists[a.codes]?.entries;
    return entries ? [{ a, entries }] : [];
  });
