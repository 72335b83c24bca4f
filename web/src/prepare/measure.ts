// How much of its room a text takes, by each limit that its market sets.
import { countBytes, encodingNames } from '@basileus/core/forms';
import type { RulebookAttribute } from '@basileus/core/rulebook';
import { countCharacters, countColumns } from '@basileus/core/text';
import { say } from '../ui/text';

export interface Room {
  used: number;
  most: number;
  /** What is counted; empty where it is characters, which people expect. */
  what: string;
}

/** The room of a text: in characters, in bytes of an encoding, in columns. */
export function measureText(a: RulebookAttribute, text: string): Room[] {
  // The limits of a list are those of each entry.
  if (a.type === 'repeated-text' || a.type === 'links' || a.type === 'several-of') return [];
  return [
    ...(a.maxCharacters === undefined ? [] : [{ used: countCharacters(text), most: a.maxCharacters, what: '' }]),
    ...(a.maxBytes === undefined
      ? []
      : [{ used: countBytes(text, a.bytesIn), most: a.maxBytes, what: say`bytes in ${encodingNames[a.bytesIn]}` }]),
    ...(a.maxColumns === undefined ? [] : [{ used: countColumns(text), most: a.maxColumns, what: say`columns` }]),
  ];
}
