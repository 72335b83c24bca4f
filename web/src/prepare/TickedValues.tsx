import type { ValueRow } from '@basileus/contract';
import { ListPicker } from '../ui/ListPicker';
import { count, plural, say } from '../ui/text';
import { tell } from '../ui/tell';

/** What one of our values becomes; nothing where what was chosen is forgotten. */
export type SaidCode = Pick<ValueRow, 'attribute' | 'ours' | 'theirs'>;

/** What can be said of several values at once. */
export function TickedValues({
  chosen,
  node,
  entriesOf,
  isBusy,
  onSay,
}: {
  chosen: readonly ValueRow[];
  node: string;
  entriesOf: (attribute: string) => readonly { code: string; label: string }[];
  isBusy: boolean;
  onSay: (codes: readonly SaidCode[]) => void;
}) {
  const proposed = chosen.filter((r) => r.proposals.length > 0),
    said = chosen.filter((r) => r.by === 'chosen' && r.node === node);
  const [one, ...others] = new Set(chosen.map((r) => r.attribute));
  return (
    <div
      className="flex flex-wrap items-center gap-2 border-t border-base-300 px-5 py-2"
      role="group"
      aria-label={say`Ticked values`}
    >
      <span className="text-sm">{tell`${plural(chosen.length, 'value', 'values')} ticked:`}</span>
      <button
        type="button"
        className="btn btn-sm btn-primary"
        disabled={proposed.length === 0 || isBusy}
        onClick={() => {
          onSay(proposed.map((r) => ({ ...r, theirs: r.proposals[0]!.code })));
        }}
      >
        {tell`Take the first proposal for ${count(proposed.length)}`}
      </button>
      {one !== undefined && others.length === 0 && (
        <ListPicker
          label={say`The same value for all ticked`}
          placeholder={say`the same value for all …`}
          options={entriesOf(one)}
          value=""
          disabled={isBusy}
          onChoose={(theirs) => {
            onSay(chosen.map((r) => ({ ...r, theirs })));
          }}
        />
      )}
      <button
        type="button"
        className="btn btn-sm btn-ghost"
        disabled={said.length === 0 || isBusy}
        onClick={() => {
          onSay(said.map((r) => ({ ...r, theirs: null })));
        }}
      >
        {say`Forget what was chosen`}
      </button>
    </div>
  );
}
