import type { Rulebook } from '@basileus/core/rulebook';
import { useMemo } from 'react';
import { ListPicker } from '../ui/ListPicker';
import { createPathText } from './tree';
import { say } from '../ui/text';

/** For which part of a market's tree something is said: all of it, or a node with all that stands under it. */
export function NodeChoice({
  rulebook,
  node,
  marked,
  width,
  onChoose,
}: {
  rulebook: Rulebook;
  node: string;
  /** Nodes for which something is said already: they stand first, with what. */
  marked: ReadonlyMap<string, string>;
  width: string;
  onChoose: (node: string) => void;
}) {
  const options = useMemo(() => {
    const pathOf = createPathText(rulebook);
    const all = rulebook.tree.map((n) => ({
      code: n.key,
      label: [pathOf(n.key), marked.get(n.key) ?? []].flat().join(', '),
    }));
    const isMarked = ({ code }: { code: string }) => marked.has(code);
    return [{ code: '', label: say`All categories` }, ...all.filter(isMarked), ...all.filter((o) => !isMarked(o))];
  }, [rulebook, marked]);
  return (
    <ListPicker label={say`For which category`} width={width} options={options} value={node} onChoose={onChoose} />
  );
}
