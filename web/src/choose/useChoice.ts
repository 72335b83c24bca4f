import { everyItem, type Which, wordWhich } from '@basileus/core/choose';
import { useQuery } from '@tanstack/react-query';
import { useScope } from '../frame/scope';
import { useUrlValue } from '../ui/url';
import { choiceQuery } from './queries';
import { asksListings, useWideFields } from './wideFields';

/** The choice that the address names: which items it means, in words, and how many there are now. */
export function useChoice() {
  const [said, setSaid] = useUrlValue('choice');
  const id = Number(said) || 0;
  const { markets } = useScope();
  const asked = useQuery(choiceQuery(id));
  const which: Which = id === 0 ? everyItem : (asked.data?.which ?? everyItem);
  const book = useWideFields(asksListings(which));
  return {
    id,
    which,
    words: wordWhich(which, book, (key) => markets.find((m) => m.key === key)?.name ?? key),
    name: id === 0 ? null : (asked.data?.name ?? null),
    isReady: id === 0 || asked.data !== undefined,
    error: asked.error,
    choose: (next: number) => {
      setSaid(next === 0 ? '' : String(next));
    },
  };
}
