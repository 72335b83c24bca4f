// Findings in words: the one place of the interface that makes sentences of them.
import { wordCause, type Wording } from '@basileus/core/checks';
import { createLabeler, createWorder, type Rulebook } from '@basileus/core/rulebook';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { rulebookQuery } from '../frame/scope';

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

/** A cause in the words of the field of ours that it comes from, whatever each market calls its own. */
export const wordAtSource = (
  check: string,
  message: string,
  source: string,
  labelOf: (field: string) => string,
): string => wordCause({ check, message, field: source }, { market: 'the market', labelOf });
