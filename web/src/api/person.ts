// Under whose name this browser works. A name signs what is done and locks nothing.
import { useSyncExternalStore } from 'react';

const kept = 'basileus-person';
const hearers = new Set<() => void>();

/** The name that was chosen here; '' where none was. */
export const personNow = (): string => localStorage.getItem(kept) ?? '';

export function choosePerson(name: string): void {
  if (name === '') localStorage.removeItem(kept);
  else localStorage.setItem(kept, name);
  for (const hear of hearers) hear();
}

function subscribe(hear: () => void): () => void {
  hearers.add(hear);
  // Another tab of this browser is the same person.
  window.addEventListener('storage', hear);
  return () => {
    hearers.delete(hear);
    window.removeEventListener('storage', hear);
  };
}
export const usePersonNow = (): string => useSyncExternalStore(subscribe, personNow);
