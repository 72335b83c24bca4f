// Findings in words: the one place of the interface that makes sentences of them.
import { wordCause, type Wording } from '@basileus/core/checks';
import { createLabeler, createWorder, type Rulebook } from '@basileus/core/rulebook';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { rulebookQuery, useRulebooks } from '../frame/scope';
import { say } from '../ui/text';

export const wordingOf = (book: Rulebook): Wording => ({
  market: book.market.name,
  labelOf: createLabeler(book),
  wordOf: createWorder(book),
});

/** How findings of a market are worded; until its rulebook is there, by the keys of its fields. */
export function useWording(market: string): Wording {
  const book = useQuery(rulebookQuery(market)).data;
  return useMemo(() => (book ? wordingOf(book) : { market, labelOf: (field) => field }), [book, market]);
}

/** The same for all markets, by their keys, of those that have told their rulebook. */
export function useWordings(isWanted = true): ReadonlyMap<string, Wording> {
  const books = useRulebooks(isWanted);
  return useMemo(
    () => new Map([...books].flatMap(([key, book]) => (book ? [[key, wordingOf(book)] as const] : []))),
    [books],
  );
}

/** A cause in the words of the field of ours that it comes from, whatever each market calls its own. */
export const wordAtSource = (
  check: string,
  message: string,
  source: string,
  labelOf: (field: string) => string,
): string => wordCause({ check, message, field: source }, { market: say`the market`, labelOf });
