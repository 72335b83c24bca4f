import type { Value } from '@basileus/core/listing';
import type { Rulebook } from '@basileus/core/rulebook';

/** A fact of a market's entry as people read it: by its label where it is from a list. */
export function wordFact({ attributes, codeLists }: Rulebook, field: string, value: Value | undefined): string {
  const codes = attributes.find((a) => a.key === field)?.codes;
  const entries = codes === undefined ? [] : (codeLists[codes]?.entries ?? []);
  return [value ?? '']
    .flat()
    .map((v) => entries.find((e) => e.code === v)?.label ?? v)
    .join(', ');
}
