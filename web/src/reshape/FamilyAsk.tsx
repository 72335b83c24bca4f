import { type FamilyCounts, type FamilyWanted, putIntoFamily } from '@basileus/contract';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../api/call';
import { useFields } from '../own/fields';
import { Refused } from '../ui/faces';
import { Modal } from '../ui/Modal';
import { toast } from '../ui/messages';
import { plural, say, wordFor } from '../ui/text';
import { useQuiet } from '../ui/useQuiet';
import { AxesChoice } from './AxesAsk';
import { FoundFamilies } from './FoundFamilies';
import { familiesQuery, familyMoveQuery } from './queries';
import { tell } from '../ui/tell';

const ways = {
  there: say`Into a family that there is`,
  new: say`Into a new family`,
  found: say`Into the families that are found among them`,
  none: say`Out of their families, each by itself`,
} as const;

/** Puts items into a family, a new one or none, and says what that does before it is done. */
export function FamilyAsk({ ids, onClose }: { ids: readonly number[]; onClose: () => void }) {
  const client = useQueryClient(),
    book = useFields();
  const [way, setWay] = useState<keyof typeof ways>('there'),
    [sku, setSku] = useState(''),
    [title, setTitle] = useState(''),
    [axes, setAxes] = useState<readonly string[]>([]);
  const wanted: FamilyWanted =
    way === 'none' || way === 'found'
      ? { is: 'none' }
      : way === 'there'
        ? { is: 'there', sku }
        : { is: 'new', sku, title, axes: [...axes] };
  const quiet = useQuiet(wanted, 250);
  const isSaid = wanted.is === 'none' || (sku.trim() !== '' && (wanted.is === 'there' || title.trim() !== ''));
  const isQuiet = JSON.stringify(quiet) === JSON.stringify(wanted);
  const look = useQuery(familyMoveQuery(ids, quiet, way !== 'found' && isSaid && isQuiet));
  const found = useQuery(familiesQuery(useQuiet(sku, 200))).data ?? [];
  const put = useMutation({
    mutationFn: () => call(putIntoFamily, { body: { ids: [...ids], family: wanted } }),
    onSuccess: ({ moved }) => {
      toast.success(
        wanted.is === 'none'
          ? say`${plural(moved, 'item is', 'items are')} in no family any more.`
          : say`${plural(moved, 'item is', 'items are')} in the family ${wanted.sku}.`,
      );
      void client.invalidateQueries();
      onClose();
    },
  });
  const counts = isSaid && !look.error ? look.data : undefined;
  // What is shown may still be of the letters before; only what was shown for these is done.
  const isShown = isQuiet && !look.isPlaceholderData && counts !== undefined && counts.moved > 0;
  return (
    <Modal title={say`The family of ${plural(ids.length, 'item', 'items')}`} onClose={onClose} wide={way === 'found'}>
      <form
        className="flex flex-col gap-3 p-5"
        onSubmit={(e) => {
          e.preventDefault();
          if (way !== 'found' && isShown) put.mutate();
        }}
      >
        <fieldset className="flex flex-col gap-1">
          <legend className="sr-only">{say`Where to`}</legend>
          {(Object.keys(ways) as (keyof typeof ways)[])
            .filter((w) => w !== 'found' || ids.length > 1)
            .map((w) => (
              <label key={w} className="flex items-center gap-2">
                <input
                  type="radio"
                  name="way"
                  className="radio radio-sm"
                  checked={way === w}
                  onChange={() => {
                    setWay(w);
                  }}
                />
                {ways[w]}
              </label>
            ))}
        </fieldset>
        {way === 'found' && <FoundFamilies ids={ids} onClose={onClose} />}
        {way !== 'none' && way !== 'found' && (
          <label className="flex flex-col gap-1">
            {say`SKU of the family`}
            <input
              data-first
              className="input input-sm num"
              value={sku}
              list={way === 'there' ? 'families-found' : undefined}
              maxLength={60}
              onChange={(e) => {
                setSku(e.target.value);
              }}
            />
          </label>
        )}
        <datalist id="families-found">
          {found.map((f) => (
            <option key={f.sku} value={f.sku}>
              {f.title}
            </option>
          ))}
        </datalist>
        {way === 'new' && (
          <>
            <label className="flex flex-col gap-1">
              {say`Title`}
              <input
                className="input input-sm"
                value={title}
                onChange={(e) => {
                  setTitle(e.target.value);
                }}
              />
            </label>
            <AxesChoice axes={axes} onChange={setAxes} />
            <p className="quiet text-xs">{say`What all of them have the same stands in the family too.`}</p>
          </>
        )}
        {way !== 'found' && look.error && isSaid && <Refused error={look.error} />}
        {way !== 'found' && counts && <Does counts={counts} labelOf={book.labelOf} />}
        {put.error && <Refused error={put.error} />}
        <div className={way === 'found' ? 'hidden' : 'flex gap-2'}>
          <button type="submit" className="btn btn-primary btn-sm" disabled={!isShown || put.isPending}>
            {counts ? say`Move ${plural(counts.moved, 'item', 'items')}` : say`Move`}
          </button>
          <button type="button" className="btn btn-sm" onClick={onClose}>
            {say`Leave them`}
          </button>
        </div>
      </form>
    </Modal>
  );
}

/** What a move does, as facts in few lines. */
function Does({ counts, labelOf }: { counts: FamilyCounts; labelOf: (field: string) => string }) {
  const emptied = counts.from.filter((f) => f.left === 0).map((f) => f.sku),
    smaller = counts.from.filter((f) => f.left > 0);
  const lines = [
    smaller.length > 0 && say`Left with fewer: ${smaller.map((f) => `${f.sku} (${f.left})`).join(', ')}.`,
    emptied.length > 0 &&
      say`Left with no variant: ${emptied.join(', ')}. Take ${wordFor(emptied.length, 'it', 'them')} out of the catalog afterwards if nothing comes in.`,
    counts.axes.length > 0 && say`Variants differ by ${counts.axes.map(labelOf).join(say` and `)}.`,
    counts.live > 0 &&
      say`${plural(counts.live, 'entry that a market has tells', 'entries that markets have tell')} the change of family with the next sending.`,
    counts.same > 0 && say`${plural(counts.same, 'item stands', 'items stand')} there already.`,
    counts.families + counts.bundles > 0 &&
      `${plural(counts.families + counts.bundles, 'row is a family or a bundle and stays', 'rows are families or bundles and stay')}.`,
  ].filter((l) => l !== false);
  return (
    <div role="status" className="flex flex-col gap-1">
      {lines.map((l) => (
        <p key={l}>{l}</p>
      ))}
      {counts.alike.length > 0 && (
        <p className="text-warning">
          {tell`The same as another variant in all of these: ${counts.alike.slice(0, 10).join(', ')}${counts.alike.length > 10 && say` and more`}. Markets refuse two of one kind; give them different values.`}
        </p>
      )}
    </div>
  );
}
