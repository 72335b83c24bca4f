// Sentences in which links, keys or bold words stand.
import { phrase } from '@basileus/core/text';
import { createElement, Fragment, type ReactNode } from 'react';

/** A sentence in the language that is spoken, with what React shows between its words: a tag for a template in English. */
export function tell(strings: TemplateStringsArray, ...facts: readonly ReactNode[]): ReactNode {
  const parts = phrase(strings).map((part) => (typeof part === 'number' ? facts[part - 1] : part));
  return parts.every((p) => typeof p === 'string' || typeof p === 'number')
    ? parts.join('')
    : createElement(Fragment, null, ...parts);
}
