import type { Source } from '@basileus/core/listing';
import { say } from '../ui/text';

/** What fills an attribute, as people read it. */
export function wordSource(source: Source, labelOf: (field: string) => string = (label) => label): string {
  switch (source.is) {
    case 'field':
      return labelOf(source.field);
    case 'text':
      return say`“${source.text}” for every item`;
    case 'formula':
      return source.formula;
    case 'nothing':
      return 'nothing';
  }
}
