import type { ListingRow } from '@basileus/contract';
import { listOperations, prepareTelling } from '@basileus/core/change';
import { isFilled, toItems, toText, type Value } from '@basileus/core/listing';
import { type Rulebook, type RulebookAttribute, toAttributeField } from '@basileus/core/rulebook';
import { useMemo } from 'react';
import { say } from '../ui/text';
import { tell } from '../ui/tell';

const textTypes: ReadonlySet<string> = new Set(['text', 'long-text', 'html', 'repeated-text']);

/** What the texts of a listing say of a field that is empty, to be taken with one click; nothing where they leave it open. */
export function ToldValue({
  listing,
  attribute,
  rulebook,
  onTake,
}: {
  listing: ListingRow;
  attribute: RulebookAttribute;
  rulebook: Rulebook;
  onTake: (value: Value) => void;
}) {
  const field = useMemo(() => toAttributeField(rulebook.market, rulebook, attribute), [rulebook, attribute]);
  const told = useMemo(() => {
    const hasList = field.values !== undefined || (field.kind !== 'text' && field.kind !== 'list');
    if (!hasList || !listOperations(field).includes('read')) return undefined;
    const texts = [rulebook.roles.title, ...rulebook.attributes.filter((a) => textTypes.has(a.type)).map((a) => a.key)];
    return prepareTelling(field)?.([...new Set(texts)].map((key) => toItems(listing.values[key] ?? '').join('\n')));
  }, [field, listing.values, rulebook]);
  if (!isFilled(told)) return null;
  const shown = toItems(told!).map((v) => field.words?.[v] ?? v);
  return (
    <p className="mt-1 text-xs quiet">
      {say`Its texts say:`}{' '}
      <button
        type="button"
        className="btn btn-xs"
        onClick={() => {
          onTake(told!);
        }}
      >
        {tell`Use “${toText(shown)}”`}
      </button>
    </p>
  );
}
