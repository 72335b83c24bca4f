import { listLeaves, type Rulebook } from '@basileus/core/rulebook';
import { createLeafModel, proposeCategories } from '@basileus/core/suggest';
import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { plural, say } from '../ui/text';
import { CategoryPicker } from './CategoryPicker';
import { wordLeafReason } from './leaf-reason';
import { groupsQuery, listingQuery } from './queries';

/** Choosing a category for listings that are marked: what the first of them tells is proposed. */
export function ListingsPicker({
  rulebook,
  ids,
  onClose,
  onChoose,
}: {
  rulebook: Rulebook;
  ids: readonly number[];
  onClose: () => void;
  onChoose: (key: string) => void;
}) {
  const { key: market } = rulebook.market;
  const groups = useQuery(groupsQuery(market)).data;
  const first = useQuery(listingQuery(market, ids[0]!)).data;
  const proposals = useMemo(() => {
    if (!first) return [];
    const leaves = listLeaves(rulebook),
      paths = new Map(leaves.map((l) => [l.key, l.path]));
    const brand = first.values[rulebook.roles.brand],
      used = groups?.rows.find((r) => r.ownCategory === first.ownCategory && r.ownCategory !== '')?.chosen ?? [];
    return proposeCategories(
      createLeafModel(leaves),
      {
        titles: [first.title],
        brand: typeof brand === 'string' ? brand : '',
        own: first.ownCategory,
        elsewhere: [],
      },
      new Map(used.map((u) => [u.key, u.count])),
    ).map((p) => ({
      key: p.key,
      path: paths.get(p.key) ?? [],
      reason: wordLeafReason({ words: p.words, chosen: p.chosen, elsewhere: [], family: false }, first.ownCategory),
    }));
  }, [rulebook, first, groups]);
  return (
    <CategoryPicker
      rulebook={rulebook}
      title={say`Category for ${plural(ids.length, 'listing', 'listings')}`}
      proposals={proposals}
      recent={groups?.recent ?? []}
      onClose={onClose}
      onChoose={onChoose}
    />
  );
}
